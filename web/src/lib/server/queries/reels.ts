import { reelStatus, type MoistureLevel, type ReelEvent, type ReelKind, type ReelStatus } from '@keen-relay/core/parts';
import { piecesLeft } from '@keen-relay/core/feeders';
import type { Selectable } from 'kysely';
import { db, type Db, type Trx } from '../db/index.ts';
import type { DB } from '../db/tables.ts';
import { takenFrom } from './reel-use.ts';

export interface ReelNow {
	code: string;
	partNumber: string;
	kind: ReelKind;
	makerPart: string;
	makerLot: string;
	dateCode: string;
	owner: string | null;
	tapeMm: number | null;
	pitchMm: number | null;
	quadrant: number | null;
	moistureLevel: MoistureLevel | null;
	splitFrom: string | null;
	receivedAt: Date;
	/** Counted, less what panels have taken since. */
	pieces: number;
	/** The feeder that it is in; null: in none. */
	feeder: { code: string; stationId: number | null; slot: number | null } | null;
	status: ReelStatus;
}

/** Reels as they are now: all of them, or some by their codes. */
export async function reelsNow(nowMs: number, codes: readonly string[] | null = null, trx: Db | Trx = db): Promise<ReelNow[]> {
	const rows = await trx
		.selectFrom('reel')
		.selectAll()
		.$if(codes !== null, (q) =>
			q.where(({ fn, eb }) =>
				eb(
					fn<string>('lower', ['code']),
					'in',
					codes!.map((code) => code.toLowerCase())
				)
			)
		)
		.orderBy('receivedAt', 'desc')
		.orderBy('code')
		.execute();
	if (rows.length === 0) return [];
	const own = rows.map((row) => row.code);
	const family = await withParents(rows, trx);
	const [events, feeders] = await Promise.all([
		trx
			.selectFrom('reelEvent')
			.selectAll()
			.where('reel', 'in', [...family.keys()])
			.orderBy('at')
			.orderBy('id')
			.execute(),
		trx.selectFrom('feeder').select(['code', 'reel', 'stationId', 'slot']).where('reel', 'in', own).execute()
	]);
	const told = (code: string): ReelEvent[] =>
		events
			.filter((e) => e.reel === code)
			.map(({ kind, at, pieces, rhPct, note, place }) => ({
				kind,
				atMs: at.getTime(),
				pieces,
				rhPct,
				note,
				place
			}));
	const statuses = new Map(rows.map((row) => [row.code, statusOf(row)]));
	const taken = await takenFrom(new Map([...statuses].map(([code, { countedMs }]) => [code, countedMs])), trx);
	return rows.map((row) => {
		const status = statuses.get(row.code)!;
		const feeder = feeders.find((f) => f.reel === row.code);
		return {
			...row,
			kind: row.kind,
			moistureLevel: row.moistureLevel,
			pieces: (taken.get(row.code) ?? []).reduce((left, load) => piecesLeft({ ...load, loaded: left }, load.perPanel), status.pieces),
			feeder: feeder ? { code: feeder.code, stationId: feeder.stationId, slot: feeder.slot } : null,
			status
		};
	});
	function statusOf(row: (typeof rows)[number]): ReelStatus {
		// What was split off was as long in the air as what it was split from.
		const parents: { code: string; untilMs: number }[] = [];
		let first = row;
		for (let untilMs = row.receivedAt.getTime(); first.splitFrom !== null; first = family.get(first.splitFrom)!) {
			parents.push({ code: first.splitFrom, untilMs });
			untilMs = family.get(first.splitFrom)!.receivedAt.getTime();
		}
		const before = parents.flatMap(({ code, untilMs }) =>
			told(code).filter(
				(e) => e.atMs <= untilMs && (e.kind === 'open' || e.kind === 'air' || e.kind === 'cabinet' || e.kind === 'bag' || e.kind === 'bake')
			)
		);
		const status = reelStatus(
			{
				receivedMs: first.receivedAt.getTime(),
				pieces: row.pieces,
				place: row.place,
				moistureLevel: row.moistureLevel,
				labelH: row.labelH
			},
			[...before.map((e) => ({ ...e, place: '' })), ...told(row.code)],
			nowMs
		);
		return { ...status, countedMs: Math.max(status.countedMs, row.receivedAt.getTime()) };
	}
}

/** Reels with all that they were split from. */
async function withParents(rows: readonly Selectable<DB['reel']>[], trx: Db | Trx): Promise<Map<string, Selectable<DB['reel']>>> {
	const family = new Map(rows.map((row) => [row.code, row]));
	for (;;) {
		const missing = [...family.values()].flatMap((row) => (row.splitFrom !== null && !family.has(row.splitFrom) ? [row.splitFrom] : []));
		if (missing.length === 0) return family;
		for (const row of await trx.selectFrom('reel').selectAll().where('code', 'in', missing).execute()) family.set(row.code, row);
	}
}

/** Feeders with what is in them, where they stand, and how often a scan of them was right. */
export const feedersNow = () =>
	db
		.selectFrom('feeder')
		.leftJoin('reel', 'reel.code', 'feeder.reel')
		.leftJoin('station', 'station.id', 'feeder.stationId')
		.leftJoin('line', 'line.id', 'station.lineId')
		.select([
			'feeder.code',
			'feeder.tapeMm',
			'feeder.pitchMm',
			'feeder.reel',
			'feeder.slot',
			'feeder.stationId',
			'feeder.outOfService',
			'feeder.picks',
			'feeder.lost',
			'feeder.caredPicks',
			'reel.partNumber',
			'station.name as station',
			'line.name as line',
			'line.id as lineId',
			({ selectFrom }) =>
				selectFrom('feederScan')
					.select(({ fn }) => fn.countAll<number>().as('n'))
					.whereRef('feederScan.feeder', '=', 'feeder.code')
					.where('feederScan.ok', '=', true)
					.as('scans')
		])
		.orderBy('feeder.code')
		.execute();
