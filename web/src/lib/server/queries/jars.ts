import { jarHistory, jarStatus, PASTE_RULES, type JarEvent, type JarFacts, type JarStatus, type PasteRules } from '@keen-relay/core/paste';
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
