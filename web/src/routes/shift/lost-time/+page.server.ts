import { lostTime, lostTimeLines } from '@keen-relay/core/schedule';
import { stopsOf } from '$lib/server/queries/stops.ts';
import { shiftPage } from '$lib/server/shift/shift-page.ts';

export async function load({ url, depends, parent }) {
	depends('live:shift', 'live:line');
	const { line, shift, nowMs } = await shiftPage(url, (await parent()).line);
	const until = Math.min(shift.endMs, Math.max(shift.startMs, nowMs));
	const lost = lostTime(await stopsOf(line.id, new Date(shift.startMs), new Date(until)), shift.startMs, until);
	return { shift, lost, lines: lostTimeLines(lost), spanMs: until - shift.startMs };
}
