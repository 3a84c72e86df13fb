import { error } from '@sveltejs/kit';
import { handOverLines, neighbourShift, shiftAt } from '@keen-relay/core/schedule';
import { plantNow } from '$lib/server/plant/clock.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { handOverOf, shiftOf } from '$lib/server/shift/hand-over.ts';
import { shiftFacts } from '$lib/server/shift/shift-facts.ts';

/** Today's shift and two whole days before it. */
const LOOKED_BACK = 8;

export async function load({ url, depends, parent }) {
	depends('live:shift', 'live:results', 'live:runs');
	const { line } = await parent();
	if (!line) error(404, 'There is no line yet.');
	const [plant, nowMs] = await Promise.all([plantInfo(), plantNow()]);
	const current = shiftAt(nowMs, plant.shifts, plant.timeZone);
	const [date, name] = (url.searchParams.get('of') ?? '').split(' ');
	const shift = date && name ? await shiftOf(date, name) : current;
	if (!shift) error(404, 'No shift runs now.');
	const recent = [];
	for (let s = current, i = 0; s && i < LOOKED_BACK; i++) {
		recent.push({
			shift: s,
			facts: await shiftFacts(line.id, s),
			signed: (await handOverOf(line.id, s.date, s.name))?.incomingName ?? null
		});
		s = neighbourShift(s, plant.shifts, plant.timeZone, -1);
	}
	const handOver = (await handOverOf(line.id, shift.date, shift.name)) ?? null;
	const facts = recent.find((r) => r.shift.date === shift.date && r.shift.name === shift.name)?.facts ?? (await shiftFacts(line.id, shift));
	return {
		lineId: line.id,
		shift,
		recent: recent.map(({ shift: s, facts: f, signed }) => ({
			date: s.date,
			name: s.name,
			printed: f.panelsPrinted,
			finished: f.panelsFinished,
			yields: f.yields,
			signed
		})),
		// Once signed, the sheet stands as it was signed.
		lines: handOver?.outgoingId ? handOver.lines : handOverLines(facts),
		handOver,
		current: current?.date === shift.date && current.name === shift.name
	};
}
