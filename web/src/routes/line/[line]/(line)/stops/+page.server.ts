import { lostTime, lostTimeLines, shiftAt } from '@keen-relay/core/schedule';
import { idOf } from '$lib/server/answer.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { stopsOf } from '$lib/server/queries/stops.ts';

/** Stops of this shift on a line, the latest first. */
export async function load({ params, depends }) {
	depends('live:shift', 'live:line');
	const lineId = idOf(params.line);
	const [nowMs, plant] = await Promise.all([plantNow(), plantInfo()]);
	const shift = shiftAt(nowMs, plant.shifts, plant.timeZone);
	if (!shift) return { stops: [], lines: [], shift: null };
	const stops = await stopsOf(lineId, new Date(shift.startMs), new Date(nowMs));
	return { stops: stops.reverse(), lines: lostTimeLines(lostTime(stops, shift.startMs, nowMs)), shift };
}
