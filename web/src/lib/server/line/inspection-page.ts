import type { StationRole } from '$lib/stations/index.ts';
import { countFails } from '@keen-relay/core/inspection';
import { calls } from '../queries/results.ts';
import { plantNow } from '../plant/clock.ts';
import { stationPage } from './station-page.ts';

/** Where no run is on, this much is looked back on. */
const LATELY_MS = 12 * 3_600_000;

/** What fails where, of the run that is on: for the optical and the in-circuit page alike. */
export async function inspectionPage(lineParam: string, role: StationRole, url: URL, stationParam?: string) {
	const { side, run, station } = await stationPage(lineParam, role, url, stationParam);
	const nowMs = await plantNow();
	const found = await calls(station.id, run ? { runId: run.id } : { from: new Date(nowMs - LATELY_MS), to: new Date(nowMs + 1) });
	return { side: run ? side : null, station, latest: found.slice(0, 40), ...countFails(found), total: found.length };
}
