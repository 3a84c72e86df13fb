import { checkRule, fitTransfer, openingsCsv, plantModel, wallModel, writePasteLayer, type StencilRules } from '@keen-relay/core/stencil';
import { transferGroups, type MeasuredGroup } from '@keen-relay/core/inspection';
import { refuse } from '../../answer.ts';
import { announce, db, lockRevisions } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { latestRevision, refuseStale } from '../../queries/started-from.ts';
import { inspectedPanels, oncePerPanel, signatureRun } from '../../queries/readings.ts';
import { currentRules, orderedOpenings, currentModel } from '../../queries/transfer.ts';

export async function keepRules(
	actor: Actor,
	rules: StencilRules,
	note: string,
	startedFrom: number | null
): Promise<{ revision: number }> {
	for (const [padClass, rule] of Object.entries(rules)) checkRule(padClass, rule);
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await lockRevisions(trx, 'opening_rules');
		refuseStale(startedFrom, await latestRevision(trx, 'openingRules'), 'The rules for openings');
		const revision = ((await currentRules(trx)).revision ?? 0) + 1;
		await trx
			.insertInto('openingRules')
			.values({ revision, rules: JSON.stringify(rules), note, createdBy: actor.id, createdAt: at })
			.execute();
		await logAction(trx, actor, 'openingRules.set', `revision ${revision}${note ? `: ${note}` : ''}`);
		await announce(trx, 'boards');
		return { revision };
	});
}

export async function modifiedLayer(sideId: number): Promise<{ name: string; gerber: string; csv: string }> {
	const { side, revision, openings } = await orderedOpenings(sideId);
	const name = `${side.name} ${side.revision} ${side.side} stencil openings, rules ${revision ?? 0}`;
	const stencil = await db
		.selectFrom('stencil')
		.select('foilUm')
		.where('boardSideId', '=', sideId)
		.where('status', '=', 'released')
		.executeTakeFirst();
	return { name, gerber: writePasteLayer(openings, { side: side.side, name }), csv: openingsCsv(openings, stencil?.foilUm ?? 100) };
}

/** Mean efficiency by shape and size of opening in a run's readings: what the curve is fitted to. */
export function measuredGroups(runId: number): Promise<MeasuredGroup[]> {
	return oncePerPanel(runId, 'groups', '', () => groupsOf(runId));
}

async function groupsOf(runId: number): Promise<MeasuredGroup[]> {
	const run = await signatureRun(runId, (await inspectedPanels(runId)).slice(-60));
	if (!run) return [];
	const { taperUm } = await db
		.selectFrom('run')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.select('stencil.taperUm')
		.where('run.id', '=', runId)
		.executeTakeFirstOrThrow();
	return transferGroups(run, taperUm);
}

/** Fits the plant's curve to a run and keeps it, with what was measured by shape. Where no opening is small enough to show the fall, its place and slope stay. */
export async function keepFit(actor: Actor, runId: number) {
	const groups = await measuredGroups(runId);
	if (groups.length === 0) return refuse('run', runId, 'This run has no pad readings to fit.');
	const run = await db
		.selectFrom('run')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.leftJoin('ovenRecipe', 'ovenRecipe.id', 'run.ovenRecipeId')
		.select(['run.boardSideId', 'stencil.wall', 'ovenRecipe.pasteId'])
		.where('run.id', '=', runId)
		.executeTakeFirstOrThrow();
	const fit = fitTransfer(groups, wallModel(run.wall, await currentModel()));
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await lockRevisions(trx, 'transfer_fit');
		const last = await trx
			.selectFrom('transferFit')
			.select(({ fn }) => fn.max('revision').as('n'))
			.executeTakeFirst();
		const revision = (last?.n ?? 0) + 1;
		await trx
			.insertInto('transferFit')
			.values({
				revision,
				model: JSON.stringify(plantModel(run.wall, fit.model)),
				fit: JSON.stringify(fit),
				boardSideId: run.boardSideId,
				wall: run.wall,
				pasteId: run.pasteId,
				groups: JSON.stringify(groups),
				createdBy: actor.id,
				createdAt: at
			})
			.execute();
		await logAction(trx, actor, 'transfer.fit', fit.statement);
		await announce(trx, 'boards');
		return { revision, fit };
	});
}
