import { handOverLines, judgeHandOver, neighbourShift } from '@keen-relay/core/schedule';
import { handOverOf } from '$lib/server/shift/hand-over.ts';
import { shiftFacts } from '$lib/server/shift/shift-facts.ts';
import { shiftPage } from '$lib/server/shift/shift-page.ts';

/** Today's shift and two whole days before it. */
const LOOKED_BACK = 8;
/** What has a tab of its own is not said here again. */
const ELSEWHERE = ['Lost time', 'Changed'];

export async function load({ url, depends, parent }) {
	depends('live:shift', 'live:results', 'live:runs');
	const { line, shift, current, plant } = await shiftPage(url, (await parent()).line);
	const spans = [];
	for (let s = current, i = 0; s && i < LOOKED_BACK; i++) {
		spans.push(s);
		s = neighbourShift(s, plant.shifts, plant.timeZone, -1);
	}
	const recent = await Promise.all(
		spans.map(async (s) => ({ shift: s, facts: await shiftFacts(line.id, s), handOver: await handOverOf(line.id, s.date, s.name) }))
	);
	const own = recent.find((r) => r.shift.date === shift.date && r.shift.name === shift.name);
	const facts = own?.facts ?? (await shiftFacts(line.id, shift));
	const handOver = own ? own.handOver : await handOverOf(line.id, shift.date, shift.name);
	const isCurrent = current?.date === shift.date && current.name === shift.name;
	return {
		shift,
		verdict: judgeHandOver(shift.name, isCurrent, handOver?.outgoingName ?? null, handOver?.incomingName ?? null),
		lines: handOverLines(facts).filter((block) => !ELSEWHERE.includes(block.heading)),
		recent: recent.map(({ shift: s, facts: f, handOver: h }) => ({
			date: s.date,
			name: s.name,
			printed: f.panelsPrinted,
			finished: f.panelsFinished,
			yields: f.yields,
			signed: h?.incomingName ?? null
		})),
		current: isCurrent
	};
}
