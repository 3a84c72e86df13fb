import {
	firstBoardItems,
	firstBoardLines,
	firstBoardMode,
	judgeFirstBoard,
	refusesFirstBoard,
	type FirstBoardAnswer,
	type FirstBoardLine
} from '@keen-relay/core/line';
import { refuse } from '../answer.ts';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { ruleNow } from '../plant/rules.ts';
import { nozzlesNow } from '../queries/nozzles.ts';
import { currentRun } from '../queries/runs.ts';
import type { CurrentRun } from '../stations/summary.ts';
import { sql } from 'kysely';
import { trimsOf } from '../queries/trims.ts';
import { slotsOf } from '../queries/slots.ts';
import { stationsOf } from '../queries/stations.ts';

/** Lots of paste that were scanned onto a line's stencil since it was last scraped off before a moment. */
async function lotsOn(lineId: number, sinceMs: number): Promise<string[]> {
	const off = await db
		.selectFrom('pasteJarEvent')
		.select(({ fn }) => fn.max('at').as('at'))
		.where('lineId', '=', lineId)
		.where('kind', '=', 'scrape_off')
		.where('at', '<=', new Date(sinceMs))
		.executeTakeFirst();
	const rows = await db
		.selectFrom('pasteJarEvent')
		.innerJoin('pasteJar', 'pasteJar.id', 'pasteJarEvent.jarId')
		.select('pasteJar.lot')
		.distinct()
		.where('pasteJarEvent.lineId', '=', lineId)
		.where('pasteJarEvent.kind', '=', 'load_stencil')
		.where('pasteJarEvent.at', '>', off?.at ?? new Date(sinceMs - BEAD_AT_MOST_MS))
		.orderBy('pasteJar.lot')
		.execute();
	return rows.map(({ lot }) => lot);
}

/** No bead lies longer on a stencil. */
const BEAD_AT_MOST_MS = 48 * 3_600_000;

/** Whether a run that begins to print now holds for its first board, and why. */
export async function firstBoardModeOf(run: CurrentRun, lineId: number, nowMs: number) {
	const { policy } = await ruleNow('firstBoard');
	const own = await db.selectFrom('run').selectAll().where('id', '=', run.id).executeTakeFirstOrThrow();
	const earlier = await db
		.selectFrom('run')
		.selectAll()
		.where('lineId', '=', lineId)
		.where('boardSideId', '=', run.boardSideId)
		.where('id', '<', run.id)
		.where('readyAt', 'is not', null)
		.orderBy('id', 'desc')
		.executeTakeFirst();
	if (!earlier) return firstBoardMode(policy, { never: true, newRevisions: [], newLots: [], wrongBefore: false });
	const REVISED = [
		['stencil', 'stencilId'],
		['print recipe', 'printRecipeId'],
		['placement program', 'placementProgramId'],
		['oven recipe', 'ovenRecipeId']
	] as const;
	const [now, before, wrong] = await Promise.all([
		lotsOn(lineId, nowMs),
		lotsOn(lineId, earlier.readyAt!.getTime()),
		db.selectFrom('firstBoardCheck').select('id').where('runId', '=', earlier.id).where('isRight', '=', false).executeTakeFirst()
	]);
	const used = new Set(before);
	return firstBoardMode(policy, {
		never: false,
		newRevisions: REVISED.flatMap(([name, column]) => (own[column] === earlier[column] ? [] : [name])),
		newLots: now.filter((lot) => !used.has(lot)),
		wrongBefore: wrong !== undefined
	});
}

/** So many of the first panels, and of the latest, are offered to be looked at. */
const FEW = 6;

export interface FirstBoard {
	lines: FirstBoardLine[];
	verdict: ReturnType<typeof judgeFirstBoard>;
	mode: 'hold' | 'roll';
	why: string[];
	/** Panels of the run on which it is looked at: those that were printed first, and the latest. */
	panels: string[];
	/** The placers and ovens that each of them has been through. */
	been: Record<string, string[]>;
	released: { by: string; atMs: number } | null;
	/** Panels of the run that have left the line. */
	through: number;
	/** Panels that were printed before it was released. */
	before: number;
}

/** How the first board of a run stands; null where it has none: it is still set up, or was begun before there was one. */
export async function firstBoardOf(run: CurrentRun, lineId: number, nowMs: number): Promise<FirstBoard | null> {
	if (run.firstBoard === null || run.readyAt === null) return null;
	const [{ slots }, nozzles, stations, lots, tool, recipe, answers, panels, releaser] = await Promise.all([
		slotsOf(run, lineId, nowMs),
		nozzlesNow(),
		stationsOf(lineId),
		lotsOn(lineId, run.readyAt.getTime()),
		run.stencilToolId === null ? null : db.selectFrom('stencilTool').select('code').where('id', '=', run.stencilToolId).executeTakeFirst(),
		db
			.selectFrom('run')
			.leftJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
			.select('printRecipe.revision')
			.where('run.id', '=', run.id)
			.executeTakeFirst(),
		answersOf(run.id),
		db
			.selectFrom('panelPass')
			.innerJoin('panel', 'panel.id', 'panelPass.panelId')
			.select(['panel.serial', 'panelPass.printedAt'])
			.where('panelPass.runId', '=', run.id)
			.orderBy('panelPass.printedAt')
			.orderBy('panelPass.id')
			.execute(),
		run.firstBoardBy === null ? null : db.selectFrom('user').select('name').where('id', '=', run.firstBoardBy).executeTakeFirst()
	]);
	const serials = panels.map(({ serial }) => serial);
	const few = serials.filter((_, i) => i < FEW || i >= serials.length - FEW);
	const [trims, been] = await Promise.all([trimsInUse(run, stations, nowMs), throughWhat(run.id, few)]);
	const codes = slots.flatMap((s) => s.reel ?? s.reported ?? []);
	const reels = codes.length ? await db.selectFrom('reel').select(['code', 'makerLot']).where('code', 'in', codes).execute() : [];
	const lotOf = new Map(reels.map(({ code, makerLot }) => [code, makerLot]));
	const items = firstBoardItems({
		paste: { lots, stencil: tool?.code ?? '', printRecipe: recipe?.revision ?? null },
		slots: run.plan.machines.flatMap(({ machine, loadList }) =>
			loadList.map(({ slot, partNumber, value, refDes }) => {
				const at = slots.find((s) => s.station === machine && s.slot === slot);
				const reel = at?.reel ?? at?.reported ?? null;
				return {
					station: machine,
					slot,
					partNumber,
					value,
					refDes,
					feeder: at?.feeder ?? null,
					reel,
					lot: (reel && lotOf.get(reel)) || null,
					trims: trims
						.filter((t) => t.station === machine)
						.filter(
							(t) => t.name === { feeder: String(slot), part: partNumber, ref: refDes.find((r) => r === t.name), program: '' }[t.level]
						)
						.map((t) => t.revision)
				};
			})
		),
		placers: run.plan.machines.map(({ machine }) => {
			const id = stations.find((s) => s.name === machine)?.id;
			const cared = nozzles.flatMap((n) => (n.stationId === id && n.caredAt ? [n.caredAt.getTime()] : []));
			return {
				station: machine,
				program: run.programRevision,
				nozzlesMs: cared.length ? Math.max(...cared) : null,
				trims: trims.filter((t) => t.station === machine && t.level === 'program').map((t) => t.revision)
			};
		}),
		byHand: run.plan.byHand,
		oven: { station: stations.find((s) => s.role === 'oven')?.name ?? null, recipe: run.recipeRevision }
	});
	const lines = firstBoardLines(items, answers);
	const released = run.firstBoardAt && { by: releaser?.name ?? 'somebody', atMs: run.firstBoardAt.getTime() };
	const of = { number: run.number, mode: run.firstBoard, why: run.firstBoardWhy, lines, printed: run.printed, released };
	return {
		lines,
		verdict: judgeFirstBoard(of),
		mode: run.firstBoard,
		why: run.firstBoardWhy,
		panels: few,
		been: Object.fromEntries(few.map((serial) => [serial, [...(been.get(serial) ?? [])]])),
		released,
		through: run.finished,
		before: panels.filter(({ printedAt }) => !released || printedAt.getTime() < released.atMs).length
	};
}

/** What the placers of a line add to their programs in a run. */
async function trimsInUse(run: CurrentRun, stations: readonly { id: number; name: string; role: string }[], nowMs: number) {
	const placers = stations.filter((s) => s.role === 'place');
	const trims = await Promise.all(placers.map((s) => trimsOf(s.id, run.boardSideId, nowMs)));
	return placers.flatMap(({ name }, i) => trims[i]!.filter((t) => t.inUse).map((t) => ({ ...t, station: name })));
}

/** Panels of a run as they were printed, with the placers and ovens that they have been through; null: all of them. */
async function throughWhat(runId: number, serials: readonly string[] | null = null): Promise<Map<string, Set<string>>> {
	const { rows } = await sql<{ serial: string; machines: string[] }>`
		select panel.serial, array(
			select station.name from station where station.id in (
				select station_id from placement_report where pass_id = pass.id union select station_id from oven_pass where pass_id = pass.id)) as machines
		from panel_pass pass join panel on panel.id = pass.panel_id where pass.run_id = ${runId} and (${serials}::text[] is null or panel.serial = any(${serials}::text[])) order by pass.printed_at, pass.id`.execute(
		db
	);
	return new Map(rows.map(({ serial, machines }) => [serial, new Set(machines)]));
}

async function answersOf(runId: number): Promise<FirstBoardAnswer[]> {
	const rows = await db
		.selectFrom('firstBoardCheck as c')
		.innerJoin('user', 'user.id', 'c.personId')
		.select(['c.key', 'c.rests', 'c.isRight', 'c.note', 'c.panel', 'c.personId', 'c.at', 'user.name'])
		.where('c.runId', '=', runId)
		.orderBy('c.id')
		.execute();
	return rows.map(({ isRight, name, at, ...row }) => ({ ...row, right: isRight, by: name, atMs: at.getTime() }));
}

async function onRun(runId: number) {
	const row = await db.selectFrom('run').select(['lineId', 'endedAt']).where('id', '=', runId).executeTakeFirst();
	const run = row && row.endedAt === null ? await currentRun(row.lineId) : null;
	const nowMs = await plantNow();
	const board = run && (await firstBoardOf(run, row!.lineId, nowMs));
	if (!row || !run) return refuse('run', runId, 'This run is not going on.');
	if (!board) return refuse('run', run.number, `${run.number} does not print yet: it has no first board.`);
	if (board.panels.length === 0) return refuse('run', run.number, `Nothing of ${run.number} is printed yet.`);
	return { run, board, lineId: row.lineId, nowMs };
}

/** Somebody looked at lines of the first board. What each rests on is kept with it: another reel, and it is open again. */
export async function checkFirstBoard(
	actor: Actor,
	runId: number,
	{ keys, right, note, panel }: { keys: string[]; right: boolean; note: string; panel: string | null }
): Promise<{ mark: string }> {
	const { run, board, lineId, nowMs } = await onRun(runId);
	const looks = keys.map(
		(key) => board.lines.find((l) => l.key === key) ?? refuse('keys', key, `The first board of ${run.number} has no such line.`)
	);
	if (!right && note === '') refuse('note', note, 'Say what is wrong with it.');
	const panels = await throughWhat(runId);
	const waits = (machines: ReadonlySet<string>) => looks.find(({ through }) => through !== null && !machines.has(through)) ?? null;
	// Nobody looks at what has not been done to a panel yet.
	const looked = panel ?? [...panels].find(([, machines]) => !waits(machines))?.[0] ?? board.panels[0]!;
	const machines = panels.get(looked) ?? refuse('panel', looked, `${looked} was not printed in this run.`);
	const early = waits(machines);
	if (early) refuse('panel', looked, `${looked} has not been through ${early.through} yet: look at ${early.where} when it has.`);
	await db.transaction().execute(async (trx) => {
		await trx
			.insertInto('firstBoardCheck')
			.values(
				looks.map(({ key, rests }) => ({ runId, key, rests, isRight: right, note, panel: looked, personId: actor.id, at: new Date(nowMs) }))
			)
			.execute();
		const words = right ? 'right' : `wrong: ${note}`;
		await logAction(
			trx,
			actor,
			'firstBoard.check',
			`${run.number}, ${looks.length > 3 ? `${looks.length} lines` : looks.map((l) => l.where).join('; ')}: ${words} (${looked})`,
			null,
			lineId
		);
		await announce(trx, 'runs');
		await announce(trx, 'line');
	});
	return { mark: right ? 'right' : 'wrong' };
}

/** How the first board of a run that is going on stands. */
export const firstBoardNow = async (runId: number): Promise<FirstBoard> => (await onRun(runId)).board;

/** A second person releases the first board: refused while a line is not right, and to whoever looked at one. */
export async function releaseFirstBoard(actor: Actor, runId: number): Promise<{ runId: number }> {
	const { run, board, lineId, nowMs } = await onRun(runId);
	if (board.released) return refuse('run', run.number, `The first board of ${run.number} is released already.`);
	const why = refusesFirstBoard(board.lines, actor.id);
	if (why) return refuse('first board', run.number, why);
	await db.transaction().execute(async (trx) => {
		const done = await trx
			.updateTable('run')
			.set({ firstBoardAt: new Date(nowMs), firstBoardBy: actor.id })
			.where('id', '=', runId)
			.where('firstBoardAt', 'is', null)
			.where('endedAt', 'is', null)
			.returning('id')
			.executeTakeFirst();
		if (!done) refuse('run', run.number, `The first board of ${run.number} was released meanwhile.`);
		await logAction(trx, actor, 'firstBoard.release', `${run.number}, ${board.lines.length} lines right`, null, lineId);
		await announce(trx, 'runs');
		await announce(trx, 'line');
	});
	return { runId };
}
