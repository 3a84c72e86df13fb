import {
	checkJar,
	expiryEnd,
	pickForRun,
	refuses,
	type Asked,
	type JarEventKind,
	type Refusal as JarRefusal
} from '@keen-relay/core/paste';
import type { Issue } from '@keen-relay/core/judgement';
import { Refusal, refuse } from '../../answer.ts';
import { announce, db, type Trx } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { plantInfo } from '../../plant/settings.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { roomNow } from './sensors.ts';
import { lineOf, type LinePaste } from '../../queries/bead.ts';
import { keepJarHolds } from '../../queries/holds.ts';
import { jarsNow, type JarNow } from '../../queries/jars.ts';

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
	const kept = await db.transaction().execute(async (trx) => {
		// Two scans of one jar at once: the second sees what the first did.
		await trx.selectFrom('pasteJar').select('id').where('id', '=', id).forUpdate().execute();
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
	await keepJarHolds(actor);
	return kept;
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
