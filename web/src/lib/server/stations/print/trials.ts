import { smallOpeningMeans } from '@keen-relay/core/inspection';
import { planTrial, readTrial, settingOfPrints, type TrialFactor, type TrialPanel, type TrialRange } from '@keen-relay/core/printing';
import { InputError } from '@keen-relay/core/judgement';
import { refuse } from '../../answer.ts';
import { announce, db, type Trx } from '../../db/index.ts';
import type { TrialStep } from '../../db/column-types.ts';
import { plantNow } from '../../plant/clock.ts';
import { inspectedPanels, signatureRun } from '../../queries/readings.ts';
import { logAction, type Actor } from '../../plant/log.ts';

/** Begins a trial in a run: its settings in a drawn order, which the technician then goes through. */
export async function beginTrial(
	actor: Actor,
	runId: number,
	ranges: Record<TrialFactor, TrialRange>,
	panelsEach: number
): Promise<{ id: number }> {
	if (panelsEach % 2) refuse('panelsEach', panelsEach, 'Front and rear print in turn: choose an even number of panels.');
	const at = new Date(await plantNow());
	const settings = planTrial(ranges, runId);
	return db.transaction().execute(async (trx) => {
		const run = await trx.selectFrom('run').select(['lineId', 'endedAt']).where('id', '=', runId).forUpdate().executeTakeFirst();
		if (!run || run.endedAt) return refuse('run', runId, 'This run is not going on.');
		const other = await trx
			.selectFrom('printTrial')
			.select('id')
			.where('runId', '=', runId)
			.where('endedAt', 'is', null)
			.executeTakeFirst();
		if (other) refuse('run', runId, 'A trial is going on in this run. End it first.');
		const { id } = await trx
			.insertInto('printTrial')
			.values({
				runId,
				ranges: JSON.stringify(ranges),
				settings: JSON.stringify(settings),
				panelsEach,
				steps: '[]',
				createdBy: actor.id,
				createdAt: at,
				endedAt: null
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, actor, 'trial.run', `${settings.length} settings of ${panelsEach} panels`, null, run.lineId);
		await announce(trx, 'results');
		return { id };
	});
}

/** A trial that goes on, held until the transaction ends: a step is never made twice. */
async function openTrial(trx: Trx, id: number) {
	const trial = await trx.selectFrom('printTrial').selectAll().where('id', '=', id).forUpdate().executeTakeFirst();
	return trial && !trial.endedAt ? trial : refuse('trial', id, 'This trial is not going on.');
}

/** The next setting is set on the printer: panels printed from now on belong to it. */
export async function nextSetting(actor: Actor, id: number): Promise<{ setting: number }> {
	return db.transaction().execute(async (trx) => {
		const trial = await openTrial(trx, id);
		const setting = trial.steps.length;
		if (setting >= trial.settings.length) return refuse('trial', id, 'Every setting has been printed. End the trial.');
		const before = setting > 0 ? ((await trialOf(trial.runId))?.counts[setting - 1] ?? 0) : trial.panelsEach;
		if (before < trial.panelsEach)
			refuse('trial', id, `Setting ${setting} has ${before} of its ${trial.panelsEach} panels inspected. Wait for the others.`);
		const step: TrialStep = { setting, from: new Date(await plantNow()).toISOString() };
		await trx
			.updateTable('printTrial')
			.set({ steps: JSON.stringify([...trial.steps, step]) })
			.where('id', '=', id)
			.execute();
		await announce(trx, 'results');
		return { setting };
	});
}

export async function endTrial(actor: Actor, id: number): Promise<void> {
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		const trial = await openTrial(trx, id);
		await trx.updateTable('printTrial').set({ endedAt: at }).where('id', '=', id).execute();
		await logAction(trx, actor, 'trial.run', `ended after ${trial.steps.length} of ${trial.settings.length} settings`);
		await announce(trx, 'results');
	});
}

/** The latest trial of a run: where it stands, and what its panels say. */
export async function trialOf(runId: number) {
	const trial = await db.selectFrom('printTrial').selectAll().where('runId', '=', runId).orderBy('id', 'desc').executeTakeFirst();
	if (!trial) return null;
	const inspected = await inspectedPanels(runId);
	const of = settingOfPrints(
		trial.steps.map(({ setting, from }) => ({ setting, fromMs: Date.parse(from) })),
		trial.endedAt?.getTime() ?? null,
		inspected.map((p) => p.printedAt.getTime())
	);
	const counts = trial.settings.map((_, s) => of.filter((setting) => setting === s).length);
	const chosen = inspected.filter((_, i) => of[i] !== null);
	const run = chosen.length ? await signatureRun(runId, chosen) : null;
	const setting = new Map(inspected.map((p, i) => [p.serial, of[i]!]));
	const responses = run ? smallOpeningMeans(run) : [];
	const panels = (run?.panels ?? []).flatMap((p, m): TrialPanel[] =>
		responses[m]! >= 0 ? [{ coded: trial.settings[setting.get(p.serial)!]!.coded, stroke: p.stroke, response: responses[m]! }] : []
	);
	return { ...trial, counts, panels: panels.length, ...readingOf(panels, trial.panelsEach, counts) };
}

/** The reading, once every setting has its panels; until then what is missing. */
function readingOf(panels: readonly TrialPanel[], each: number, counts: readonly number[]) {
	const missing = counts.filter((n) => n < each).length;
	if (missing > 0) return { reading: null, waiting: `${missing} of ${counts.length} settings still lack panels.` };
	try {
		return { reading: readTrial(panels), waiting: null };
	} catch (error) {
		if (error instanceof InputError) return { reading: null, waiting: error.message };
		throw error;
	}
}

export const START_RANGES: Record<TrialFactor, TrialRange> = {
	force: { low: 0.18, high: 0.26, unit: 'kg/cm' },
	speed: { low: 30, high: 60, unit: 'mm/s' },
	separation: { low: 1, high: 5, unit: 'mm/s' }
};
