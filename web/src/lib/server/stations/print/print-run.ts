import type { Verdict } from '@keen-relay/core/judgement';
import type { Box } from '@keen-relay/core/geometry';
import {
	align,
	checkSupport,
	hangingBelow,
	FIRST_PRINTS,
	judgeFirstPrints,
	printGeometry,
	printTime,
	reprintDecision,
	toleranceOf,
	type FirstPrint,
	type MisprintedPanel,
	type PrintRecipe
} from '@keen-relay/core/printing';
import { refuse } from '../../answer.ts';
import { boardSide } from '../../queries/sides.ts';
import { announce, db, type Trx } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { packageReader } from '../../queries/packages.ts';
import { lockSide, releasedNow } from '../../queries/revisions.ts';
import { refuseStale } from '../../queries/started-from.ts';

type Side = NonNullable<Awaited<ReturnType<typeof boardSide>>>;

/** The latest prints of a run with their alignments, judged. */
export async function alignmentsOf(runId: number, side: Side, limit = 40) {
	const rows = await db
		.selectFrom('print')
		.innerJoin('panelPass', 'panelPass.id', 'print.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.select(['panel.serial', 'print.printedAt', 'print.stroke', 'print.alignment'])
		.where('panelPass.runId', '=', runId)
		.where('print.alignment', 'is not', null)
		.orderBy('print.printedAt', 'desc')
		.limit(limit)
		.execute();
	const { middle, rMaxMm } = printGeometry(side);
	return rows.map(({ serial, printedAt, stroke, alignment }) => ({
		serial,
		printedAt,
		stroke,
		marks: alignment!.stencilMarks,
		result: align(alignment!.stencilMarks, alignment!.boardMarks, middle, rMaxMm)
	}));
}

/** The first panels of a run as the check before its release sees them. */
export async function firstPrintsOf(
	runId: number,
	side: Side,
	more: number
): Promise<{ prints: FirstPrint[]; verdict: ReturnType<typeof judgeFirstPrints>; toleranceUm: number }> {
	const rows = await db
		.selectFrom('pasteSummary')
		.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.innerJoin('print', (join) =>
			join.onRef('print.passId', '=', 'panelPass.id').onRef('print.printAttempt', '=', 'pasteSummary.printAttempt')
		)
		.distinctOn('panelPass.id')
		.select([
			'panel.serial',
			'print.printedAt',
			'print.alignment',
			'pasteSummary.pads',
			'pasteSummary.fails',
			'pasteSummary.warnings',
			'pasteSummary.meanVolumePct',
			'pasteSummary.offsetXUm',
			'pasteSummary.offsetYUm'
		])
		.where('panelPass.runId', '=', runId)
		.orderBy('panelPass.id')
		.orderBy('pasteSummary.printAttempt', 'desc')
		.orderBy('pasteSummary.inspectionAttempt', 'desc')
		.execute();
	// A panel that was washed and printed again stands with its latest print.
	rows.sort((a, b) => a.printedAt.getTime() - b.printedAt.getTime());
	rows.splice(FIRST_PRINTS + more);
	const { middle, rMaxMm } = printGeometry(side);
	const toleranceUm = toleranceOf(side);
	const prints = rows.map((r): FirstPrint => ({
		alignment: r.alignment ? align(r.alignment.stencilMarks, r.alignment.boardMarks, middle, rMaxMm).code : null,
		panel: r.serial,
		pads: r.pads,
		fails: r.fails,
		warnings: r.warnings,
		meanVolumePct: r.meanVolumePct,
		offsetUm: Math.hypot(r.offsetXUm ?? 0, r.offsetYUm ?? 0)
	}));
	return { prints, verdict: judgeFirstPrints(prints, toleranceUm), toleranceUm };
}

/** Releases a run after its first prints. Refused while they are not in order. */
export async function releaseFirstPrint(actor: Actor, runId: number): Promise<{ runId: number }> {
	const run = await db.selectFrom('run').selectAll().where('id', '=', runId).executeTakeFirst();
	if (!run || run.endedAt) return refuse('run', runId, 'This run is not going on.');
	if (run.firstPrintAt) return refuse('run', runId, 'The first prints of this run are released already.');
	const side = (await boardSide(run.boardSideId))!;
	const { verdict } = await firstPrintsOf(runId, side, run.firstPrintsMore);
	if (verdict.level !== 'good') refuse('first prints', verdict.statement, `Not released. ${verdict.statement}`);
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		await trx.updateTable('run').set({ firstPrintBy: actor.id, firstPrintAt: at }).where('id', '=', runId).execute();
		await logAction(trx, actor, 'firstPrint.release', verdict.statement, null, run.lineId);
		await announce(trx, 'line');
	});
	return { runId };
}

/** Lets the printer of a run that is not released print one panel more: after a wash, or after something was set right. */
export async function onePrintMore(actor: Actor, runId: number): Promise<{ prints: number }> {
	return db.transaction().execute(async (trx) => {
		const run = await trx
			.updateTable('run')
			.set((eb) => ({ firstPrintsMore: eb('firstPrintsMore', '+', 1) }))
			.where('id', '=', runId)
			.where('endedAt', 'is', null)
			.where('firstPrintAt', 'is', null)
			.returning(['lineId', 'firstPrintsMore'])
			.executeTakeFirst();
		if (!run) return refuse('run', runId, 'This run is not waiting for the release of its first prints.');
		await logAction(
			trx,
			actor,
			'firstPrint.release',
			`one print more before the release: ${FIRST_PRINTS + run.firstPrintsMore}`,
			null,
			run.lineId
		);
		await announce(trx, 'line');
		return { prints: FIRST_PRINTS + run.firstPrintsMore };
	});
}

/** Bodies of the other side as they hang below the side that is printed. */
export async function partsBelow(side: Side): Promise<{ name: string; box: Box }[]> {
	const other = await db
		.selectFrom('boardSide')
		.select('parts')
		.where('boardRevisionId', '=', side.boardRevisionId)
		.where('side', '!=', side.side)
		.executeTakeFirst();
	return other ? hangingBelow(side, other.parts, await packageReader()) : [];
}

async function supportOf(side: Side, pins: readonly { x: number; y: number; radiusMm: number }[]) {
	const { panel } = printGeometry(side);
	return checkSupport(
		{ widthMm: panel.widthMm, heightMm: panel.heightMm, thicknessMm: side.build.thicknessMm ?? 1.6 },
		pins,
		await partsBelow(side)
	);
}

/** Support of print recipes as it was judged: a released revision never changes. */
const supports = new Map<number, Verdict>();

/** Whether the support pins of a print recipe hold its panel. */
export async function supportVerdict(
	printRecipeId: number,
	sideId: number,
	pins: readonly { x: number; y: number; radiusMm: number }[]
): Promise<Verdict> {
	const known = supports.get(printRecipeId);
	if (known) return known;
	const { verdict } = await supportOf((await boardSide(sideId))!, pins);
	supports.set(printRecipeId, verdict);
	return verdict;
}

export async function releasePrintRecipe(
	actor: Actor,
	given: {
		sideId: number;
		lineId: number;
		recipe: PrintRecipe;
		support: { x: number; y: number; radiusMm: number }[];
		startedFrom: number | null;
	}
) {
	const side = (await boardSide(given.sideId)) ?? refuse('side', given.sideId, 'There is no such board side.');
	const { panel } = printGeometry(side);
	if (given.recipe.bladeMm < panel.widthMm + 20)
		refuse(
			'bladeMm',
			given.recipe.bladeMm,
			`The blade must reach 10 mm beyond the panel on each side: ${Math.ceil(panel.widthMm + 20)} mm or more.`
		);
	const support = await supportOf(side, given.support);
	if (support.verdict.level === 'stopped') refuse('support', support.verdict.statement, `Not released. ${support.verdict.statement}`);
	// Computed once here, so that a recipe that cannot run is refused before it is kept.
	printTime(given.recipe, { acrossMm: panel.widthMm, alongMm: panel.heightMm });
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await lockSide(trx, given.sideId);
		refuseStale(given.startedFrom, await releasedNow(trx, 'printRecipe', given.sideId, given.lineId), 'The print recipe');
		await trx
			.updateTable('printRecipe')
			.set({ status: 'retired' })
			.where('boardSideId', '=', given.sideId)
			.where('lineId', '=', given.lineId)
			.where('status', '=', 'released')
			.execute();
		const last = await trx
			.selectFrom('printRecipe')
			.select(({ fn }) => fn.max('revision').as('n'))
			.where('boardSideId', '=', given.sideId)
			.where('lineId', '=', given.lineId)
			.executeTakeFirst();
		const revision = (last?.n ?? 0) + 1;
		const row = await trx
			.insertInto('printRecipe')
			.values({
				boardSideId: given.sideId,
				lineId: given.lineId,
				revision,
				status: 'released',
				recipe: JSON.stringify(given.recipe),
				support: JSON.stringify(given.support),
				createdBy: actor.id,
				createdAt: at
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, actor, 'printRecipe.release', `${side.name} ${side.side}, print recipe ${revision}`, null, given.lineId);
		await announce(trx, 'boards');
		return { ...row, revision };
	});
}

/** Takes a panel off after a misprint: how often it was washed and what is on it decide what may be done with it. */
export async function factsOfMisprint(
	serial: string,
	said: { finish: 'osp' | 'other'; uncuredGlue: boolean; washSensitiveParts: boolean },
	trx: Trx | typeof db = db
): Promise<{ passId: number; lineId: number; facts: MisprintedPanel }> {
	const nowMs = await plantNow();
	const passes = await trx
		.selectFrom('panelPass')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.select(['panelPass.id', 'run.lineId', 'panelPass.printedAt'])
		.where('panel.serial', '=', serial)
		.orderBy('panelPass.printedAt')
		.execute();
	const pass = passes.at(-1) ?? refuse('panel', serial, `There is no panel ${serial}.`);
	const ids = passes.map((p) => p.id);
	const [washes, placed, reflow] = await Promise.all([
		trx
			.selectFrom('misprint')
			.select(({ fn }) => fn.countAll<number>().as('n'))
			.where('passId', 'in', ids)
			.where('decision', '=', 'wash_and_reprint')
			.executeTakeFirstOrThrow(),
		trx.selectFrom('placementReport').select('id').where('passId', '=', pass.id).executeTakeFirst(),
		trx.selectFrom('ovenPass').select('enteredAt').where('passId', 'in', ids).orderBy('enteredAt').executeTakeFirst()
	]);
	return {
		passId: pass.id,
		lineId: pass.lineId,
		facts: {
			washes: washes.n,
			...said,
			sinceFirstReflowH: reflow ? (nowMs - reflow.enteredAt.getTime()) / 3_600_000 : null,
			partsPlacedThisSide: placed !== undefined
		}
	};
}

export async function recordMisprint(
	actor: Actor,
	serial: string,
	said: { finish: 'osp' | 'other'; uncuredGlue: boolean; washSensitiveParts: boolean }
) {
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { passId, lineId, facts } = await factsOfMisprint(serial, said, trx);
		const decision = reprintDecision(facts);
		const { id } = await trx
			.insertInto('misprint')
			.values({
				passId,
				at,
				personId: actor.id,
				approvedBy: actor.approvedBy,
				decision: decision.decision,
				facts: JSON.stringify(facts),
				reasons: JSON.stringify(decision.reasons),
				steps: JSON.stringify(decision.steps)
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(
			trx,
			actor,
			decision.decision === 'wash_and_reprint' ? 'misprint.record' : 'misprint.approve',
			`${serial}: ${decision.statement}`,
			null,
			lineId
		);
		await announce(trx, 'results');
		await announce(trx, 'line');
		return { id, ...decision };
	});
}

/** Notes that a step of washing a misprint was done; steps are done in their order, so that nothing is printed on a wet panel. */
export async function washStep(actor: Actor, misprintId: number, step: number): Promise<{ left: number }> {
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const misprint = await trx.selectFrom('misprint').select('steps').where('id', '=', misprintId).forUpdate().executeTakeFirst();
		if (!misprint) return refuse('misprint', misprintId, 'There is no such misprint.');
		const done = await trx.selectFrom('misprintStep').select('step').where('misprintId', '=', misprintId).execute();
		if (step >= misprint.steps.length) refuse('step', step, `This misprint has ${misprint.steps.length} steps.`);
		if (done.some((d) => d.step === step)) refuse('step', step, 'This step is done already.');
		if (step !== done.length) refuse('step', step, `First: ${misprint.steps[done.length]}.`);
		await trx.insertInto('misprintStep').values({ misprintId, step, doneBy: actor.id, doneAt: at }).execute();
		await announce(trx, 'results');
		await announce(trx, 'line');
		return { left: misprint.steps.length - done.length - 1 };
	});
}
