import {
	afterPause,
	BEAD_MM,
	beadAge,
	beadOf,
	checkJar,
	expiryEnd,
	jarHistory,
	jarStatus,
	pasteDensity,
	PASTE_RULES,
	pickForRun,
	refuses,
	type Asked,
	type BeadPortion,
	type JarEvent,
	type JarEventKind,
	type JarFacts,
	type JarStatus,
	type PasteRules,
	type Refusal as JarRefusal
} from '@keen-relay/core/paste';
import { panelGeometry } from '@keen-relay/core/artwork';
import type { Issue } from '@keen-relay/core/judgement';
import { pasteGPerPanel } from '@keen-relay/core/printing';
import { asMade, deliveredMm3 } from '@keen-relay/core/stencil';
import { Refusal, refuse } from '../answer.ts';
import { boardSide } from '../db/boards.ts';
import { announce, db, type Db, type Trx } from '../db/index.ts';
import { plantNow } from '../line/clock.ts';
import { plantInfo } from '../line/plant.ts';
import { logAction, type Actor } from '../people/log.ts';
import { currentFactors, currentModel } from '../printing/opening-rules.ts';
import { roomNow } from './sensors.ts';

export interface JarNow {
	facts: JarFacts;
	status: JarStatus;
	pasteId: number;
	pasteName: string;
	rules: PasteRules;
	fridgeId: number | null;
	printedExpiry: string;
	fromJar: string | null;
	history: { state: JarStatus['state']; fromMs: number }[];
}

/** Jars with their state at an instant: all that are not gone, or the ones asked for. */
export async function jarsNow(nowMs: number, ids: readonly string[] | null = null, trx: Db | Trx = db): Promise<JarNow[]> {
	const jars = await trx
		.selectFrom('pasteJar')
		.innerJoin('paste', 'paste.id', 'pasteJar.pasteId')
		.selectAll('pasteJar')
		.select(['paste.name as pasteName', 'paste.partNumber', 'paste.rules'])
		.$if(ids !== null, (q) => q.where('pasteJar.id', 'in', [...(ids ?? []), '']))
		// What was emptied or thrown away long ago is history: its page still shows it.
		.$if(ids === null, (q) =>
			q.where(({ not, exists, selectFrom }) =>
				not(
					exists(
						selectFrom('pasteJarEvent as e')
							.select('e.id')
							.whereRef('e.jarId', '=', 'pasteJar.id')
							.where('e.kind', 'in', ['discard', 'empty'])
							.where('e.at', '<', new Date(nowMs - 24 * 3_600_000))
					)
				)
			)
		)
		.orderBy('pasteJar.expiresAt')
		.orderBy('pasteJar.id')
		.execute();
	const events = await eventsOf(
		jars.map((jar) => jar.id),
		trx
	);
	return jars.map((row) => {
		const facts = factsOf(row);
		const rules = { ...PASTE_RULES, ...row.rules };
		return {
			facts,
			status: jarStatus(facts, events.get(row.id) ?? [], nowMs, rules),
			pasteId: row.pasteId,
			pasteName: row.pasteName,
			rules,
			fridgeId: row.fridgeId,
			printedExpiry: row.printedExpiry,
			fromJar: row.fromJar,
			history: jarHistory(facts, events.get(row.id) ?? [], nowMs, rules)
		};
	});
}

function factsOf(row: {
	id: string;
	lot: string;
	partNumber: string | null;
	pasteName: string;
	receivedAt: Date;
	expiresAt: Date;
	grams: number;
	inherits: JarFacts['inherits'] | null;
}): JarFacts {
	return {
		id: row.id,
		lot: row.lot,
		paste: row.partNumber ?? row.pasteName,
		receivedMs: row.receivedAt.getTime(),
		expiryMs: row.expiresAt.getTime(),
		grams: row.grams,
		...(row.inherits ? { inherits: row.inherits } : {})
	};
}

async function eventsOf(ids: readonly string[], trx: Db | Trx): Promise<Map<string, JarEvent[]>> {
	const byJar = new Map<string, JarEvent[]>();
	if (ids.length === 0) return byJar;
	const rows = await trx
		.selectFrom('pasteJarEvent')
		.leftJoin('stencilTool', 'stencilTool.id', 'pasteJarEvent.stencilToolId')
		.selectAll('pasteJarEvent')
		.select('stencilTool.code as stencil')
		.where('jarId', 'in', ids)
		.execute();
	for (const row of rows) {
		const event: JarEvent = {
			id: row.id,
			kind: row.kind,
			atMs: row.at.getTime(),
			...(row.stirred === null ? {} : { stirred: row.stirred }),
			...(row.grams === null ? {} : { grams: row.grams }),
			...(row.stencil === null ? {} : { stencil: row.stencil }),
			...(row.airC === null ? {} : { airC: row.airC }),
			...(row.ofEvent === null ? {} : { of: row.ofEvent })
		};
		const list = byJar.get(row.jarId);
		if (list) list.push(event);
		else byJar.set(row.jarId, [event]);
	}
	return byJar;
}

/** Receives a sealed jar: its label's number, paste, lot and printed date. */
export async function receiveJar(
	actor: Actor,
	jar: { id: string; pasteId: number; lot: string; expiry: string; grams: number; received?: string; fridgeId: number | null }
): Promise<{ id: string }> {
	const [nowMs, plant] = await Promise.all([plantNow(), plantInfo()]);
	const receivedMs = jar.received ? Date.parse(jar.received) : nowMs;
	if (receivedMs > nowMs + 120_000) refuse('received', jar.received, `${jar.id} cannot be received in the future.`);
	const expiryMs = expiryEnd(jar.expiry, plant.timeZone);
	checkJar({ id: jar.id, lot: jar.lot, paste: '', receivedMs, expiryMs, grams: jar.grams });
	return db.transaction().execute(async (trx) => {
		await trx
			.insertInto('pasteJar')
			.values({
				id: jar.id,
				pasteId: jar.pasteId,
				lot: jar.lot,
				receivedAt: new Date(receivedMs),
				printedExpiry: jar.expiry,
				expiresAt: new Date(expiryMs),
				grams: jar.grams,
				fridgeId: jar.fridgeId,
				fromJar: null,
				inherits: null,
				enteredBy: actor.id,
				enteredAt: new Date(nowMs)
			})
			.execute();
		await logAction(trx, actor, 'jar.receive', `${jar.id}, lot ${jar.lot}`);
		await announce(trx, 'paste');
		return { id: jar.id };
	});
}

export interface JarReport {
	kind: JarEventKind;
	at?: string | undefined;
	stirred?: boolean | undefined;
	by?: 'hand' | 'mixer' | undefined;
	grams?: number | undefined;
	lineId?: number | undefined;
	pasteC?: number | undefined;
	of?: number | undefined;
	fact: boolean;
	note: string;
}

/** Moves a jar through its life. A request is refused with every reason that speaks against it; a fact is recorded and what it broke is named.
 * Scraped-off paste becomes a jar of its own that brings every clock along.
 */
export async function reportJar(actor: Actor, id: string, report: JarReport) {
	const nowMs = await plantNow();
	const atMs = report.at ? Date.parse(report.at) : nowMs;
	if (atMs > nowMs + 120_000) refuse('at', report.at, `${id}: this has not happened yet.`);
	return db.transaction().execute(async (trx) => {
		const [jar] = await jarsNow(atMs, [id], trx);
		if (!jar) return refuse('jar', id, `There is no jar ${id}.`);
		const line = report.lineId ? await lineOf(report.lineId, atMs, trx) : null;
		if (report.kind === 'load_stencil' && !line) refuse('lineId', '', `${id}: say on which line it goes on the stencil.`);
		if (!report.fact && report.kind !== 'mis_scan') {
			const reasons = await reasonsAgainst(jar, report, line, atMs);
			if (reasons.length) throw new Refusal(reasons.map((r) => issueOf(id, r)));
		}
		const event = await trx
			.insertInto('pasteJarEvent')
			.values({
				jarId: id,
				kind: report.kind,
				at: new Date(atMs),
				enteredAt: new Date(nowMs),
				personId: actor.id,
				source: null,
				stirred: report.stirred ?? null,
				byMeans: report.by ?? null,
				grams: report.grams ?? null,
				stencilToolId: line?.stencilToolId ?? null,
				lineId: report.lineId ?? null,
				runId: line?.runId ?? null,
				airC: report.kind === 'take_out' ? ((await roomNow(atMs, null, trx))?.temperatureC ?? null) : null,
				ofEvent: report.of ?? null,
				note: report.note || null
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		const [after] = await jarsNow(atMs, [id], trx);
		const scraped =
			report.kind === 'scrape_off' && (report.grams ?? 0) > 0 ? await keepScraped(trx, actor, jar, after!, report.grams!, atMs) : null;
		await logAction(
			trx,
			actor,
			report.kind === 'review_ok' ? 'jar.review' : 'jar.scan',
			`${id}: ${report.kind.replace('_', ' ')}`,
			null,
			report.lineId ?? null
		);
		await announce(trx, 'paste');
		return { eventId: event.id, state: after!.status.state, next: after!.status.next, quarantine: after!.status.quarantine, scraped };
	});
}

async function reasonsAgainst(jar: JarNow, report: JarReport, line: LinePaste | null, atMs: number): Promise<JarRefusal[]> {
	const asked = askedOn(line, await roomNow(atMs, report.lineId ?? null));
	const { kind, pasteC = null, by } = report;
	return refuses(jar.facts, jar.status, { ...asked, kind, pasteC, ...(by ? { by } : {}) }, atMs, jar.rules);
}

/** What a line asks of a jar: its job's paste, what lies on its stencil, its air. */
export function askedOn(line: LinePaste | null, air: Awaited<ReturnType<typeof roomNow>>): Omit<Asked, 'kind'> {
	return {
		wanted: line?.wanted ? { paste: line.wanted } : null,
		bead: line && line.portions.length ? { paste: line.beadPaste, lots: [...new Set(line.portions.map((p) => p.lot))] } : null,
		air: air && air.rhPct !== null ? { airC: air.temperatureC, rhPct: air.rhPct } : null
	};
}

function issueOf(id: string, r: JarRefusal): Issue {
	return { severity: 'error', code: r.code, field: 'jar', value: id, message: `${r.why} ${r.fix}.` };
}

/** A jar for what was scraped off: marked with where it came from, its clocks as old as they are. */
async function keepScraped(trx: Trx, actor: Actor, jar: JarNow, after: JarNow, grams: number, atMs: number): Promise<string> {
	const parent = await trx.selectFrom('pasteJar').selectAll().where('id', '=', jar.facts.id).executeTakeFirstOrThrow();
	const n = await trx
		.selectFrom('pasteJar')
		.select(({ fn }) => fn.countAll<number>().as('n'))
		.where('fromJar', '=', jar.facts.id)
		.executeTakeFirstOrThrow();
	const id = `${jar.facts.id}-S${n.n + 1}`;
	const s = after.status;
	await trx
		.insertInto('pasteJar')
		.values({
			...parent,
			id,
			grams,
			fromJar: jar.facts.id,
			receivedAt: new Date(Math.min(atMs, jar.facts.receivedMs)),
			inherits: JSON.stringify({ openedMs: s.openedMs, stencilH: s.stencilH, sealedOutH: 0, coldReturns: s.coldReturns }),
			enteredBy: actor.id,
			enteredAt: new Date(atMs)
		})
		.execute();
	return id;
}

/** What lies on a line's stencil and what its run asks for. */
export async function lineOf(lineId: number, nowMs: number, trx: Db | Trx = db) {
	const run = await trx
		.selectFrom('run')
		.innerJoin('ovenRecipe', 'ovenRecipe.id', 'run.ovenRecipeId')
		.innerJoin('paste', 'paste.id', 'ovenRecipe.pasteId')
		.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
		.leftJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
		.select([
			'run.id',
			'run.stencilId',
			'printRecipe.recipe',
			'stencilTool.measuredUm',
			'run.stencilToolId',
			'paste.id as pasteId',
			'paste.name',
			'paste.partNumber',
			'paste.wash',
			'paste.rules'
		])
		.where('run.lineId', '=', lineId)
		.orderBy('run.startedAt', 'desc')
		.executeTakeFirst();
	const loads = await trx
		.selectFrom('pasteJarEvent as e')
		.innerJoin('pasteJar', 'pasteJar.id', 'e.jarId')
		.innerJoin('paste', 'paste.id', 'pasteJar.pasteId')
		.select(['e.id', 'e.kind', 'e.at', 'e.grams', 'e.jarId', 'pasteJar.lot', 'pasteJar.inherits', 'paste.partNumber', 'paste.name'])
		.where('e.lineId', '=', lineId)
		.where('e.kind', 'in', ['load_stencil', 'scrape_off'])
		.where('e.at', '>=', new Date(nowMs - 48 * 3_600_000))
		.where('e.at', '<=', new Date(nowMs))
		.where(({ not, exists, selectFrom }) =>
			not(exists(selectFrom('pasteJarEvent as m').select('m.id').whereRef('m.ofEvent', '=', 'e.id').where('m.kind', '=', 'mis_scan')))
		)
		.orderBy('e.at')
		.execute();
	// A bead begins with the first load after the last one was taken off.
	const from = loads.findLastIndex((l) => l.kind === 'scrape_off') + 1;
	const own = loads.slice(from).filter((l) => l.kind === 'load_stencil');
	const prints = own.length
		? await trx
				.selectFrom('print')
				.innerJoin('panelPass', 'panelPass.id', 'print.passId')
				.innerJoin('run', 'run.id', 'panelPass.runId')
				.select('print.printedAt')
				.where('run.lineId', '=', lineId)
				.where('print.printedAt', '>=', own[0]!.at)
				.where('print.printedAt', '<=', new Date(nowMs))
				.orderBy('print.printedAt')
				.execute()
		: [];
	const lastPrint = await trx
		.selectFrom('print')
		.innerJoin('panelPass', 'panelPass.id', 'print.passId')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.select('print.printedAt')
		.where('run.lineId', '=', lineId)
		.where('print.printedAt', '<=', new Date(nowMs))
		.orderBy('print.printedAt', 'desc')
		.limit(1)
		.executeTakeFirst();
	const taken = run && (await pasteOfPanel(run.stencilId, run.pasteId, run.measuredUm, trx));
	const gPerPanel = taken ? pasteGPerPanel(taken.deliveredMm3, taken.pasteGPerCm3, run.recipe?.wipes ?? []) : 0.5;
	const portions: BeadPortion[] = beadOf(
		[
			...own.map((l) => ({
				kind: 'load' as const,
				atMs: l.at.getTime(),
				jar: l.jarId,
				lot: l.lot,
				grams: l.grams ?? 0,
				ageH: l.inherits?.stencilH ?? 0
			})),
			...prints.map((p) => ({ kind: 'print' as const, atMs: p.printedAt.getTime(), grams: gPerPanel }))
		],
		nowMs
	);
	const last = own.at(-1);
	return {
		runId: run?.id ?? null,
		stencilToolId: run?.stencilToolId ?? null,
		wanted: run ? (run.partNumber ?? run.name) : null,
		wantedName: run?.name ?? null,
		/** How its flux is washed off, where it has to be. */
		wash: run?.wash ?? null,
		pasteId: run?.pasteId ?? null,
		rules: { ...PASTE_RULES, ...run?.rules },
		portions,
		beadPaste: last ? (last.partNumber ?? last.name) : '',
		gPerPanel,
		/** Bead that a run starts with, mm. */
		beadMm: run?.recipe?.beadMm ?? BEAD_MM.start,
		/** Panel along the blade, and so the bead's length, mm. */
		acrossMm: taken?.acrossMm ?? null,
		lastLoadMs: last?.at.getTime() ?? null,
		lastPrintMs: lastPrint?.printedAt.getTime() ?? null
	};
}

interface PasteOfPanel {
	/** What its openings deliver, mm³. */
	deliveredMm3: number;
	pasteGPerCm3: number;
	/** Its size along the blade, mm. */
	acrossMm: number;
}

/** A design's openings never change once it was run: what a print takes is computed once for all that it depends on. */
const perPanel = new Map<string, PasteOfPanel>();

/** Paste that one panel takes: what the openings of a stencil's design deliver with a paste.
 * @param foilUm as it was measured; null: as the design says
 */
export async function pasteOfPanel(
	stencilId: number,
	pasteId: number,
	foilUm: number | null = null,
	trx: Db | Trx = db
): Promise<PasteOfPanel> {
	const design = await trx
		.selectFrom('stencil')
		.select(['boardSideId', 'foilUm', 'wall', 'taperUm'])
		.where('id', '=', stencilId)
		.executeTakeFirstOrThrow();
	const paste = await trx
		.selectFrom('paste')
		.select(['metalMassShare', 'metalGPerCm3'])
		.where('id', '=', pasteId)
		.executeTakeFirstOrThrow();
	const [model, factors] = [await currentModel(trx), await currentFactors(pasteId, trx)];
	const make = { taperUm: design.taperUm, factors: factors[design.wall] ?? [] };
	const key = JSON.stringify([stencilId, paste, foilUm, model, make]);
	const known = perPanel.get(key);
	if (known) return known;
	const side = (await boardSide(design.boardSideId))!;
	const { origins, widthMm } = panelGeometry(side, side.panel, side.side);
	const ofCircuit = deliveredMm3(asMade(side.apertures, make), (foilUm ?? design.foilUm) / 1000, design.wall, model);
	const { pasteGPerCm3 } = pasteDensity(paste.metalMassShare, paste.metalGPerCm3);
	const taken = { deliveredMm3: ofCircuit * origins.length, pasteGPerCm3, acrossMm: widthMm };
	perPanel.set(key, taken);
	return taken;
}

export type LinePaste = Awaited<ReturnType<typeof lineOf>>;

/** How the bead of a line stands. */
export function beadNow(line: LinePaste, nowMs: number) {
	const age = beadAge(line.portions, nowMs, line.rules.stencilLifeH);
	const gapMin = line.lastPrintMs === null ? null : (nowMs - line.lastPrintMs) / 60_000;
	return { ...age, gapMin, afterPause: gapMin === null ? null : afterPause(gapMin) };
}

/** Jars for the run that is on: first expired first out. */
export function pickFor(jars: readonly JarNow[], line: LinePaste, panelsToGo: number, taktS: number, nowMs: number) {
	if (line.wanted === null) return null;
	return pickForRun(
		jars.map(({ facts, status }) => ({ jar: facts, status })),
		{
			paste: line.wanted,
			panelsToGo,
			panelsPerH: 3600 / taktS,
			gPerPanel: line.gPerPanel,
			beadG: line.portions.reduce((sum, p) => sum + p.grams, 0),
			own: new Set(line.portions.map((p) => p.jar))
		},
		nowMs,
		line.rules
	);
}
