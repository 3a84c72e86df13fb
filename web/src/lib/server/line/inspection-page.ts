import type { StationRole } from '$lib/stations/index.ts';
import { countFails } from '@keen-relay/core/inspection';
import { calls } from '../queries/results.ts';
import { stationPage } from './station-page.ts';

/** What fails where, of the run that is on: for the optical and the in-circuit page alike. */
export async function inspectionPage(lineParam: string, role: StationRole, url: URL, stationParam?: string) {
	const { side, run, station } = await stationPage(lineParam, role, url, stationParam);
	const found = run ? await calls(station.id, { runId: run.id }) : [];
	return { side: run ? side : null, station, latest: found.slice(0, 40), ...countFails(found), total: found.length };
}
