import { sql } from 'kysely';
import { panelGeometry, type PanelLayout, type Side } from '@keen-relay/core/artwork';
import { planLine, type LinePlan, judgeTakt, ovenHeadwayS, type Stage } from '@keen-relay/core/balance';
import type { Verdict } from '@keen-relay/core/judgement';
import { boardSpots, checkProfile, type OvenRecipe, type PasteWindow } from '@keen-relay/core/reflow';
import { asMade, checkStencil, type Wall } from '@keen-relay/core/stencil';
import { refuse } from '../answer.ts';
import { boardSide } from '../db/boards.ts';
import { announce, db, type Trx } from '../db/index.ts';
import type { StationSpec } from '../db/schema.ts';
import { plantNow } from '../line/clock.ts';
import { logAction, type Actor } from '../people/log.ts';
import { currentModel, factorsOn } from '../printing/opening-rules.ts';
import { packageReader } from './packages.ts';
import { namedOpenings } from '$lib/model/openings.ts';

type RevisedTable = 'stencil' | 'placementProgram' | 'ovenRecipe';

/** The next revision, and everything released before is retired: a released row is never changed.
 * @returns its number, and the row that was released until now
 */
async function nextRevision(
	trx: Trx,
	table: RevisedTable,
	sideId: number,
	lineId: number | null
): Promise<{ revision: number; previousId: number | null }> {
	const name = { stencil: 'stencil', placementProgram: 'placement_program', ovenRecipe: 'oven_recipe' }[table];
	const onLine = lineId === null ? sql`` : sql`and line_id = ${lineId}`;
	const retired = await sql<{
		id: number;
	}>`update ${sql.table(name)} set status = 'retired' where board_side_id = ${sideId} ${onLine} and status = 'released' returning id`.execute(
		trx
	);
	const last = await sql<{
		n: number;
	}>`select coalesce(max(revision), 0) as n from ${sql.table(name)} where board_side_id = ${sideId} ${onLine}`.execute(trx);
	return { revision: (last.rows[0]?.n ?? 0) + 1, previousId: retired.rows[0]?.id ?? null };
}

async function sideOrRefuse(sideId: number) {
	return (await boardSide(sideId)) ?? refuse('side', sideId, 'There is no such board side.');
}

async function release<T extends RevisedTable>(
	actor: Actor,
	table: T,
	sideId: number,
	lineId: number | null,
	action: 'stencil.release' | 'program.release' | 'recipe.release',
	say: (revision: number) => string,
	row: object
): Promise<{ id: number; revision: number; actionId: number }> {
	const createdAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { revision, previousId } = await nextRevision(trx, table, sideId, lineId);
		const values = {
			boardSideId: sideId,
			...(lineId === null ? {} : { lineId }),
			...row,
			revision,
			status: 'released',
			createdBy: actor.id,
			createdAt
		};
		const { id } = await trx
			.insertInto(table as 'stencil')
			.values(values as never)
			.returning('id')
			.executeTakeFirstOrThrow();
		const actionId = await logAction(trx, actor, action, say(revision), { kind: 'release', table, id, previousId }, lineId);
		await announce(trx, 'boards');
		return { id, revision, actionId };
	});
}

/** Releases a stencil at one foil. Its verdict is kept with it, whatever it says: a person decided. */
export async function releaseStencil(
	actor: Actor,
	sideId: number,
	{ foilUm, wall, taperUm }: { foilUm: number; wall: Wall; taperUm: number | null }
) {
	const side = await sideOrRefuse(sideId);
	const [model, factors] = await Promise.all([currentModel(), factorsOn(wall, sideId)]);
	const { verdict } = checkStencil(asMade(namedOpenings(side.apertures), { taperUm, factors }), foilUm / 1000, wall, model);
	return release(actor, 'stencil', sideId, null, 'stencil.release', (r) => `${side.name} ${side.side}, stencil ${r}, ${foilUm} µm`, {
		foilUm,
		wall,
		taperUm,
		verdict: JSON.stringify(verdict)
	});
}

/** The stations of a line in order. */
export function stationsOf(lineId: number) {
	return db.selectFrom('station').selectAll().where('lineId', '=', lineId).orderBy('position').execute();
}

/** Deals a side's parts to the placers of a line: not saved. */
export async function planFor(sideId: number, lineId: number): Promise<LinePlan> {
	const [side, stations] = await Promise.all([sideOrRefuse(sideId), stationsOf(lineId)]);
	const placers = stations.flatMap((station) => (station.spec.placer ? [{ ...station.spec.placer, name: station.name }] : []));
	if (placers.length === 0) return refuse('line', lineId, 'This line has no placer.');
	return planLine(side.parts, panelGeometry(side, side.panel, side.side), placers, await packageReader());
}

export async function releaseProgram(actor: Actor, sideId: number, lineId: number) {
	const side = await sideOrRefuse(sideId);
	const plan = await planFor(sideId, lineId);
	return release(actor, 'placementProgram', sideId, lineId, 'program.release', (r) => `${side.name} ${side.side}, program ${r}`, {
		plan: JSON.stringify(plan)
	});
}

async function pasteById(pasteId: number): Promise<{ id: number; name: string; window: PasteWindow }> {
	const paste = await db.selectFrom('paste').selectAll().where('id', '=', pasteId).executeTakeFirst();
	return paste ?? refuse('paste', pasteId, 'There is no such paste.');
}

/** Releases an oven recipe. One that breaks the paste's window is refused: it must not be run. */
export async function releaseRecipe(actor: Actor, sideId: number, lineId: number, pasteId: number, recipe: OvenRecipe) {
	const [side, stations, paste] = await Promise.all([sideOrRefuse(sideId), stationsOf(lineId), pasteById(pasteId)]);
	const oven = stations.find((station) => station.spec.oven)?.spec.oven;
	if (!oven) return refuse('line', lineId, 'This line has no oven.');
	const check = checkProfile(oven, recipe, boardSpots(side.build, side.parts, oven, await packageReader()), paste.window);
	if (check.usePct > 100)
		return refuse('recipe', `${recipe.setC.join(' ')}, ${recipe.beltCmPerMin} cm/min`, `Not released. ${check.verdict.statement}`);
	return release(actor, 'ovenRecipe', sideId, lineId, 'recipe.release', (r) => `${side.name} ${side.side}, oven recipe ${r}`, {
		pasteId,
		recipe: JSON.stringify(recipe),
		usePct: Number.isFinite(check.usePct) ? check.usePct : null,
		verdict: JSON.stringify(check.verdict)
	});
}

/** Stages of a line for one side: what each takes for a panel, s. */
export function stagesOf(
	stations: readonly { role: string; name: string; spec: StationSpec }[],
	board: { widthMm: number; heightMm: number; panel: PanelLayout; side: Side },
	plan: LinePlan | null,
	beltCmPerMin: number | null
): Stage[] {
	const panel = panelGeometry(board, board.panel, board.side);
	return stations.flatMap((station): Stage[] => {
		if (station.role === 'place') {
			const machine = plan?.machines.find((m) => m.machine === station.name);
			return machine ? [{ name: station.name, secondsPerPanel: machine.totalS }] : [];
		}
		if (station.role === 'oven')
			return beltCmPerMin
				? [{ name: station.name, secondsPerPanel: ovenHeadwayS(panel.widthMm, station.spec.gapMm ?? 60, beltCmPerMin) }]
				: [];
		return station.spec.cycleS ? [{ name: station.name, secondsPerPanel: station.spec.cycleS }] : [];
	});
}

/** Takt and its verdict from the stages of a line. */
export function taktOf(stages: readonly Stage[], byHand = 0): { taktS: number | null; verdict: Verdict } {
	return {
		taktS: stages.length ? Math.max(...stages.map((stage) => stage.secondsPerPanel)) : null,
		verdict: judgeTakt(stages, byHand)
	};
}
