import { touchedBy, type JarEventKind } from '@keen-relay/core/paste';
import { sql } from 'kysely';
import { db, type Db, type Trx } from '../../db/index.ts';

/** When a jar, bead or reel stood somewhere; null: still there. */
interface Stay {
	name: string;
	fromMs: number;
	toMs: number | null;
}

/** What was there while a sensor read outside its limits. */
export interface Touched {
	jars: string[];
	/** On the line's stencil, by the jars that it holds. */
	beads: string[];
	reels: string[];
}

const INTO_FRIDGE: JarEventKind[] = ['store_cold', 'return_cold'];
const GONE: JarEventKind[] = ['discard', 'empty'];

/** Names what an excursion touched: in a fridge its jars; at a line what lay on the stencil and stood in the feeders; in a room the jars that were out of their fridge. */
export async function touchedDuring(
	sensor: { id: number; kind: string; lineId: number | null },
	excursion: { fromMs: number; toMs: number },
	trx: Db | Trx = db
): Promise<Touched> {
	const names = (stays: Stay[]) => [...new Set(touchedBy(excursion, stays).map((s) => s.name))].sort();
	const { id, kind, lineId } = sensor;
	if (kind === 'fridge') return { jars: names(await staysIn(trx, id)), beads: [], reels: [] };
	if (kind !== 'room') return { jars: [], beads: [], reels: [] };
	if (lineId === null) return { jars: names(await staysOf(trx, ['take_out'], [...INTO_FRIDGE, ...GONE])), beads: [], reels: [] };
	const [beads, reels] = [await beadsOn(trx, lineId), await reelsOn(trx, lineId)];
	return { jars: [], beads: names(beads), reels: names(reels) };
}

/** When each jar stood in a fridge: from each time it was put in until it was taken out. */
export function staysIn(trx: Db | Trx, fridgeId: number): Promise<Stay[]> {
	return staysOf(trx, INTO_FRIDGE, ['take_out', ...GONE], fridgeId);
}

/** Scans that nobody took back as a slip. */
const MEANT = sql<boolean>`not exists (select from paste_jar_event slip where slip.of_event = e.id and slip.kind = 'mis_scan')`;

async function staysOf(trx: Db | Trx, begin: JarEventKind[], end: JarEventKind[], fridgeId?: number): Promise<Stay[]> {
	const rows = await trx
		.selectFrom('pasteJarEvent as e')
		.innerJoin('pasteJar', 'pasteJar.id', 'e.jarId')
		.select(['e.jarId', 'e.kind', 'e.at'])
		.where('e.kind', 'in', [...begin, ...end])
		.where(MEANT)
		.$if(fridgeId !== undefined, (q) => q.where('pasteJar.fridgeId', '=', fridgeId!))
		.orderBy('e.at')
		.orderBy('e.id')
		.execute();
	return pair(rows.map(({ jarId, kind, at }) => ({ name: jarId, begins: begin.includes(kind), atMs: at.getTime() })));
}

/** From each begin of a name to its next end. */
function pair(events: { name: string; begins: boolean; atMs: number }[]): Stay[] {
	const stays: Stay[] = [];
	const open = new Map<string, Stay>();
	for (const { name, begins, atMs } of events) {
		const running = open.get(name);
		if (begins && !running) {
			const stay = { name, fromMs: atMs, toMs: null };
			stays.push(stay);
			open.set(name, stay);
		} else if (!begins && running) {
			running.toMs = atMs;
			open.delete(name);
		}
	}
	return stays;
}

/** Paste on a line's stencil: from each load until the bead was taken off. */
async function beadsOn(trx: Db | Trx, lineId: number): Promise<Stay[]> {
	const rows = await trx
		.selectFrom('pasteJarEvent as e')
		.select(['e.jarId', 'e.kind', 'e.at'])
		.where('e.lineId', '=', lineId)
		.where('e.kind', 'in', ['load_stencil', 'scrape_off'])
		.where(MEANT)
		.orderBy('e.at')
		.orderBy('e.id')
		.execute();
	return rows.flatMap(({ jarId, kind, at }, i) => {
		if (kind !== 'load_stencil') return [];
		const off = rows.slice(i + 1).find((r) => r.kind === 'scrape_off');
		return [{ name: jarId, fromMs: at.getTime(), toMs: off ? off.at.getTime() : null }];
	});
}

/** Reels in a line's feeders: each until the next one in its slot. */
async function reelsOn(trx: Db | Trx, lineId: number): Promise<Stay[]> {
	const rows = await trx
		.selectFrom('feederLoad')
		.innerJoin('station', 'station.id', 'feederLoad.stationId')
		.select(['feederLoad.reel', 'feederLoad.loadedAt'])
		.select(
			sql<Date | null>`lead(feeder_load.loaded_at) over (partition by feeder_load.station_id, feeder_load.slot order by feeder_load.loaded_at)`.as(
				'until'
			)
		)
		.where('station.lineId', '=', lineId)
		.execute();
	return rows.map(({ reel, loadedAt, until }) => ({
		name: reel,
		fromMs: loadedAt.getTime(),
		toMs: until === null ? null : until.getTime()
	}));
}
