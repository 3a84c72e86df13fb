import { READY_NAMES } from '@keen-relay/core/line';
import { afterPause } from '@keen-relay/core/paste';
import { db } from '../../db/index.ts';
import type { StoryPart } from '../story.ts';

/** Prints of a panel, each with its blade and what was due before it, and its misprints with who did which step of the wash. */
export async function printStory({ id, runId }: { id: number; runId: number }): Promise<StoryPart> {
	const [prints, misprints, done, overrides, { readyAt }] = await Promise.all([
		db
			.selectFrom('print')
			.innerJoin('panelPass', 'panelPass.id', 'print.passId')
			.innerJoin('run', 'run.id', 'panelPass.runId')
			.leftJoinLateral(
				(q) =>
					q
						.selectFrom('bladeFitting')
						.select('bladeFitting.code')
						.whereRef('bladeFitting.lineId', '=', 'run.lineId')
						.whereRef('bladeFitting.stroke', '=', 'print.stroke')
						.whereRef('bladeFitting.fittedAt', '<=', 'print.printedAt')
						.orderBy('bladeFitting.id', 'desc')
						.limit(1)
						.as('blade'),
				(join) => join.onTrue()
			)
			.selectAll('print')
			.select('blade.code as blade')
			.where('print.passId', '=', id)
			.orderBy('print.printAttempt')
			.execute(),
		db
			.selectFrom('misprint')
			.innerJoin('user', 'user.id', 'misprint.personId')
			.select(['misprint.id', 'misprint.at', 'misprint.decision', 'misprint.reasons', 'misprint.steps', 'user.name'])
			.where('passId', '=', id)
			.orderBy('misprint.at')
			.execute(),
		db
			.selectFrom('misprintStep')
			.innerJoin('misprint', 'misprint.id', 'misprintStep.misprintId')
			.innerJoin('user', 'user.id', 'misprintStep.doneBy')
			.select(['misprintStep.misprintId', 'misprintStep.step', 'misprintStep.doneAt', 'user.name'])
			.where('misprint.passId', '=', id)
			.execute(),
		db
			.selectFrom('runOverride')
			.innerJoin('user', 'user.id', 'runOverride.personId')
			.select(['codes', 'reason', 'at', 'untilAt', 'user.name'])
			.where('runId', '=', runId)
			.orderBy('runOverride.id')
			.execute(),
		db.selectFrom('run').select('readyAt').where('id', '=', runId).executeTakeFirstOrThrow()
	]);
	return {
		lines: [
			...prints.map((print) => {
				const pause = afterPause(print.minutesSincePrevious ?? 0);
				return {
					at: print.printedAt,
					what: `printed, attempt ${print.printAttempt}`,
					level: null,
					text: [
						`${print.stroke === 'F' ? 'front' : 'rear'} stroke`,
						...(print.blade ? [`blade ${print.blade}`] : []),
						`${print.printsSinceWipe} since wipe`,
						...(print.printsSinceTopup === null ? [] : [`${print.printsSinceTopup} since top-up`]),
						`${print.cycleS.toFixed(1)} s`
					].join(', '),
					notes: [
						...(readyAt !== null && print.printedAt >= readyAt
							? []
							: [{ level: 'act' as const, text: 'Printed before the set-up of its run was proven.' }]),
						...overrides
							.filter((o) => print.printedAt >= o.at && (o.untilAt === null || print.printedAt < o.untilAt))
							.map((o) => ({
								level: 'watch' as const,
								text: `Printed under an override of ${o.name}, without ${o.codes.map((code) => READY_NAMES[code].toLowerCase()).join(', ')}: ${o.reason}.`
							})),
						...(pause.step === 'none'
							? []
							: [
									{
										level: 'watch' as const,
										text: `The printer had stood for ${Math.round(print.minutesSincePrevious ?? 0)} min. Due before it: ${pause.doFirst.join(', ').toLowerCase()}.`
									}
								])
					]
				};
			}),
			...misprints.map((m) => ({
				at: m.at,
				what: 'misprint',
				level: null,
				text: `${m.decision.replaceAll('_', ' ')}, ${m.name}${m.reasons.length ? `: ${m.reasons.map((r) => r.why).join('; ')}` : ''}`,
				notes: [],
				steps: m.steps.map((words, step) => {
					const by = done.find((d) => d.misprintId === m.id && d.step === step);
					return { words, done: by ? { at: by.doneAt, by: by.name } : null, path: `/api/v1/misprints/${m.id}/steps`, body: { step } };
				}),
				may: 'misprint.record' as const
			}))
		]
	};
}
