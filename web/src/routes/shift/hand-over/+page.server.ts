import { handOverLines } from '@keen-relay/core/schedule';
import { handOverOf } from '$lib/server/shift/hand-over.ts';
import { shiftFacts } from '$lib/server/shift/shift-facts.ts';
import { shiftPage } from '$lib/server/shift/shift-page.ts';

export async function load({ url, depends, parent }) {
	depends('live:shift', 'live:results', 'live:runs');
	const { line, shift, current } = await shiftPage(url, (await parent()).line);
	const handOver = (await handOverOf(line.id, shift.date, shift.name)) ?? null;
	return {
		lineId: line.id,
		shift,
		// Once signed, the sheet stands as it was signed.
		lines: handOver?.outgoingId ? handOver.lines : handOverLines(await shiftFacts(line.id, shift)),
		handOver,
		current: current?.date === shift.date && current.name === shift.name
	};
}
