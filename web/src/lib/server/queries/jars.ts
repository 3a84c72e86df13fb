import {
	foldJar,
	historyOn,
	jarHistory,
	jarStatus,
	PASTE_RULES,
	statusOf,
	type JarEvent,
	type JarFacts,
	type JarFold,
	type JarSpan,
	type JarStatus,
	type PasteRules
} from '@keen-relay/core/paste';
import { db, type Db, type Trx } from '../db/index.ts';

export interface JarNow {
	facts: JarFacts;
	status: JarStatus;
	pasteId: number;
	pasteName: string;
	rules: PasteRules;
	fridgeId: number | null;
	printedExpiry: string;
	fromJar: string | null;
}

/** Events of a jar with what they made of it: worked out once, and again when the jar has another event or is judged by other rules. */
interface KeptJar {
	events: readonly JarEvent[];
	/** What it was folded by, to see whether it changed. */
	by: string;
	fold: JarFold;
	/** Its states up to its last event; null until a page draws them. */
	spans: JarSpan[] | null;
}

const kept = new Map<string, KeptJar>();

/** Jars with their state at an instant: all that are not gone, or the ones asked for. */
export async function jarsNow(nowMs: number, ids: readonly string[] | null = null, trx: Db | Trx = db): Promise<JarNow[]> {
	const jars = await trx
		.selectFrom('pasteJar')
		.innerJoin('paste', 'paste.id', 'pasteJar.pasteId')
		.selectAll('pasteJar')
		.select(['paste.name as pasteName', 'paste.partNumber', 'paste.rules'])
		.select(({ selectFrom }) =>
			selectFrom('pasteJarEvent as own')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('own.jarId', '=', 'pasteJar.id')
				.$asScalar()
				.$notNull()
				.as('events')
		)
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
	if (ids === null) forgetAllBut(new Set(jars.map((jar) => jar.id)));
	// A transaction sees events that may yet be taken back: it neither keeps nor uses what is kept.
	const keeps = trx === db;
	const known = (row: { id: string; events: number }) => keeps && kept.get(row.id)?.events.length === row.events;
	const events = await eventsOf(
		jars.filter((row) => !known(row)).map((jar) => jar.id),
		trx
	);
	return jars.map((row) => {
		const facts = factsOf(row);
		const rules = { ...PASTE_RULES, ...row.rules };
		const own = known(row) ? kept.get(row.id)!.events : (events.get(row.id) ?? []);
		return {
			facts,
			status: keeps ? statusKept(facts, own, nowMs, rules) : jarStatus(facts, own, nowMs, rules),
			pasteId: row.pasteId,
			pasteName: row.pasteName,
			rules,
			fridgeId: row.fridgeId,
			printedExpiry: row.printedExpiry,
			fromJar: row.fromJar
		};
	});
}

/** States that jars went through until an instant, for a picture of their lives. */
export function jarSpans(jars: readonly JarNow[], nowMs: number): JarSpan[][] {
	return jars.map(({ facts, rules }) => {
		const jar = kept.get(facts.id);
		if (!jar) return [];
		if (jar.fold.ms > nowMs) return jarHistory(facts, jar.events, nowMs, rules);
		jar.spans ??= jarHistory(facts, jar.events, jar.fold.ms, rules);
		return historyOn(jar.spans, jar.fold, facts, nowMs, rules);
	});
}

function statusKept(facts: JarFacts, events: readonly JarEvent[], nowMs: number, rules: PasteRules): JarStatus {
	const by = JSON.stringify([facts, rules]);
	const before = kept.get(facts.id);
	const same = before?.events === events && before.by === by;
	const jar = same ? before : { events, by, fold: foldJar(facts, events, Infinity, rules), spans: null };
	kept.set(facts.id, jar);
	// An instant before its last event is asked for when something is entered late.
	return jar.fold.ms > nowMs ? jarStatus(facts, events, nowMs, rules) : statusOf(jar.fold, facts, nowMs, rules);
}

function forgetAllBut(ids: ReadonlySet<string>): void {
	for (const id of kept.keys()) if (!ids.has(id)) kept.delete(id);
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
