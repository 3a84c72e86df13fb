import { reflowClock } from '@keen-relay/core/paste';
import { sayLength } from '@keen-relay/core/units';
import { db } from '../../db/index.ts';
import { lineOf } from '../../queries/bead.ts';
import type { StoryPart } from '../story.ts';

/** Passes through the oven, with how long the panel had waited since its print. */
export async function ovenStory({ id, lineId }: { id: number; lineId: number }): Promise<StoryPart> {
	const [through, prints] = await Promise.all([
		db.selectFrom('ovenPass').selectAll().where('passId', '=', id).execute(),
		db.selectFrom('print').select('printedAt').where('passId', '=', id).orderBy('printedAt').execute()
	]);
	const first = prints[0]?.printedAt;
	if (!first || through.length === 0) return { lines: [] };
	const { rules } = await lineOf(lineId, first.getTime());
	const rows = through.map((t) => {
		const printed = prints.findLast((print) => print.printedAt <= t.enteredAt)?.printedAt ?? first;
		const clock = reflowClock(printed.getTime(), t.enteredAt.getTime(), rules.reflowActH, rules.reflowStopH);
		return { ...t, waited: sayLength(t.enteredAt.getTime() - printed.getTime()), level: clock.level };
	});
	return {
		lines: rows.map((t) => ({
			at: t.leftAt,
			what: 'oven',
			level: null,
			text: `${t.zoneC.map((c) => c.toFixed(0)).join(' ')} °C, ${t.beltCmPerMin.toFixed(1)} cm/min`,
			notes: [{ level: t.level === 'good' ? null : t.level, text: `${t.waited} after its print` }]
		})),
		// The time from print to reflow ran out: such a panel is looked at, not simply reflowed.
		warnings: rows
			.filter((t) => t.level === 'stopped')
			.map((t) => ({ level: 'stopped', text: `Waited ${t.waited} for the oven: an engineer reviews it before it goes on.` }))
	};
}
