import type { StationRole } from '$lib/stations/index.ts';
import { idOf, missing } from '../answer.ts';
import { setUp } from './set-up.ts';

/** The set-up of a line with the one station that a page is about. */
export async function stationPage(lineParam: string, role: StationRole, url: URL, stationParam?: string) {
	const lineId = idOf(lineParam);
	const set = await setUp(lineId, url.searchParams.get('side'));
	const station = stationParam
		? set.stations.find((s) => s.role === role && s.id === Number(stationParam))
		: set.stations.find((s) => s.role === role);
	if (!station) missing('This line has no such station.', `/plant/set-up/lines?line=${lineId}`, 'Enter it on the line');
	return { ...set, station, lineId };
}
