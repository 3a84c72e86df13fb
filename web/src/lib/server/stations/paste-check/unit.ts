import { gaugeByClass, judgeIdentity, panelPads, type GaugeRow, type IdentityFactor } from '@keen-relay/core/inspection';
import type { Verdict } from '@keen-relay/core/judgement';
import { PAD_CLASS_NAMES, type PadClass } from '@keen-relay/core/parts';
import { refuse } from '../../answer.ts';
import { boardSide } from '../../queries/sides.ts';
import { announce, db } from '../../db/index.ts';
import { heavily } from '../../heavy/pool.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { BLOCK_PADS } from '../../queries/readings.ts';
import { currentLimits } from './limits.ts';
import { inspectedPanels, oncePerPanel, passedRun, signatureRun } from '../../queries/readings.ts';

/** What a line's inspection unit was learned to read, by class. */
export async function learnedFactors(lineId: number): Promise<Map<string, IdentityFactor & { createdAt: Date; by: string }>> {
	const rows = await db
		.selectFrom('unitFactor')
		.innerJoin('user', 'user.id', 'unitFactor.createdBy')
		.select(['padClass', 'factor', 'readings', 'unitFactor.createdAt', 'user.name as by'])
		.where('lineId', '=', lineId)
		.orderBy('unitFactor.id')
		.execute();
	return new Map(
		rows.map((r) => [r.padClass, { group: r.padClass, factor: r.factor, readings: r.readings, createdAt: r.createdAt, by: r.by }])
	);
}

const LATEST = 24;

/** How the unit's volume stands to its area × height in a run's latest panels, against what was learned. */
export async function identityNow(lineId: number, runId: number): Promise<{ today: IdentityFactor[]; verdict: Verdict }> {
	const today = await oncePerPanel(runId, 'unit', '', async () => {
		const run = await signatureRun(runId, (await inspectedPanels(runId)).slice(-LATEST));
		return run ? heavily('unitFactors', run) : [];
	});
	return { today, verdict: judgeIdentity(today, await learnedFactors(lineId)) };
}

/** Learns the unit's factors on a run's panels; only panels that passed count. */
export async function learnFactors(actor: Actor, lineId: number, runId: number): Promise<{ classes: number }> {
	const row = await db.selectFrom('run').select('lineId').where('id', '=', runId).executeTakeFirst();
	if (row?.lineId !== lineId) return refuse('run', runId, 'This run was not on this line.');
	const run = await passedRun(runId);
	const factors = run ? await heavily('unitFactors', run) : [];
	if (factors.length === 0) return refuse('run', runId, 'This run has no good panel whose pads were kept.');
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		await trx
			.insertInto('unitFactor')
			.values(
				factors.map((f) => ({
					lineId,
					padClass: f.group as PadClass,
					factor: f.factor,
					readings: f.readings,
					runId,
					createdBy: actor.id,
					createdAt: at
				}))
			)
			.execute();
		await logAction(
			trx,
			actor,
			'unit.learn',
			factors.map((f) => `${PAD_CLASS_NAMES[f.group as PadClass]} ${f.factor.toFixed(3)}`).join(', '),
			null,
			lineId
		);
		await announce(trx, 'results');
	});
	return { classes: factors.length };
}

/** Fewer repeats of a panel are a second look at it, not a study of the unit. */
const REPEATS_OF_A_STUDY = 5;

/** Repeatability of a line's unit from a panel that it has measured again and again without a print between: the latest with enough repeats,
 * else the one with the most; null where none was measured twice.
 */
export async function gaugeOf(lineId: number): Promise<{ panel: string; repeats: number; rows: GaugeRow[] } | null> {
	const most = await db
		.selectFrom('pasteSummary')
		.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
		.select(({ fn }) => [
			'pasteSummary.passId',
			'pasteSummary.printAttempt',
			'panel.serial',
			'run.boardSideId',
			fn.coalesce('stencilTool.measuredUm', 'stencil.foilUm').as('foilUm'),
			fn.min('pasteSummary.measuredAt').as('from'),
			fn.max('pasteSummary.measuredAt').as('to')
		])
		.where('run.lineId', '=', lineId)
		.where('pasteSummary.passId', 'in', ({ selectFrom }) => selectFrom('pasteSummary').select('passId').where('inspectionAttempt', '>', 1))
		.groupBy([
			'pasteSummary.passId',
			'pasteSummary.printAttempt',
			'panel.serial',
			'run.boardSideId',
			'stencil.foilUm',
			'stencilTool.measuredUm'
		])
		.orderBy(({ fn, val }) => fn<number>('least', [fn.countAll(), val(REPEATS_OF_A_STUDY)]), 'desc')
		.orderBy('to', 'desc')
		.executeTakeFirst();
	if (!most) return null;
	const [side, { limits }, readings] = await Promise.all([
		boardSide(most.boardSideId),
		currentLimits(db),
		db
			.selectFrom('pasteReading')
			.select(['block', 'volume', 'inspectionAttempt'])
			.where('boardSideId', '=', most.boardSideId)
			.where('passId', '=', most.passId)
			.where('printAttempt', '=', most.printAttempt)
			.where('measuredAt', '>=', most.from)
			.where('measuredAt', '<=', most.to)
			.execute()
	]);
	const pads = panelPads(side!, most.foilUm);
	const repeats = pads.map(() => [] as number[]);
	for (const r of readings) r.volume.forEach((v, i) => v !== null && repeats[r.block * BLOCK_PADS + i]?.push(v / 10));
	const attempts = new Set(readings.map((r) => r.inspectionAttempt)).size;
	if (attempts < 2) return null;
	const rows = gaugeByClass(pads, repeats, limits);
	return { panel: most.serial, repeats: attempts, rows };
}
