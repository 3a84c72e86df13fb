import { InputError } from '@keen-relay/core/judgement';
import { builtShare, miscounted } from '@keen-relay/core/placement';
import { sql } from 'kysely';
import { insertRows } from '../../db/insert-rows.ts';
import type { Trx } from '../../db/index.ts';
import type { Said } from '../message-parts.ts';
import { Claims, type BatchFacts, type BatchPass, type BatchStation, type Taker } from '../module.ts';
import type { feederLoaded, placement, PlaceMessage } from './messages.ts';

type Placed = Said<typeof placement>;

/** Feeders and nozzles wear by picking: each counts what it has done. */
async function wear(trx: Trx, placed: readonly { station: BatchStation; m: Placed }[]): Promise<void> {
	const sums = { slot: new Map<string, [number, string, number, number]>(), nozzle: new Map<string, [number, string, number, number]>() };
	for (const { station, m } of placed)
		for (const n of m.nozzles)
			for (const of of ['slot', 'nozzle'] as const) {
				const key = `${station.id} ${n[of]}`;
				const sum = sums[of].get(key) ?? [station.id, String(n[of]), 0, 0];
				sums[of].set(key, [sum[0], sum[1], sum[2] + n.picks, sum[3] + n.lost]);
			}
	if (sums.slot.size === 0) return;
	const columns = (of: 'slot' | 'nozzle') => {
		// In one order, so that two batches do not wait for each other.
		const rows = [...sums[of].values()].sort((a, b) => a[0] - b[0] || (a[1] < b[1] ? -1 : 1));
		return [0, 1, 2, 3].map((i) => rows.map((row) => row[i]!));
	};
	const [stations, slots, picks, lost] = columns('slot');
	await sql`update feeder f set picks = f.picks + c.picks, lost = f.lost + c.lost
		from unnest(${stations}::int[], ${slots}::int[], ${picks}::bigint[], ${lost}::bigint[]) as c(station_id, slot, picks, lost)
		where f.station_id = c.station_id and f.slot = c.slot`.execute(trx);
	const [at, names, tried, failed] = columns('nozzle');
	await sql`insert into nozzle (station_id, name, picks, lost)
		select * from unnest(${at}::int[], ${names}::text[], ${tried}::bigint[], ${failed}::bigint[])
		on conflict (station_id, name) do update set picks = nozzle.picks + excluded.picks, lost = nozzle.lost + excluded.lost`.execute(trx);
}

/** Panels that were placed, and reels that were loaded. */
export function placeTaker({ trx, pads }: BatchFacts): Taker<PlaceMessage> {
	const claims = new Claims('place');
	const placed: { pass: BatchPass; station: BatchStation; m: Placed; goodShare: number }[] = [];
	const loads: { station: BatchStation; m: Said<typeof feederLoaded> }[] = [];
	return {
		async read(_messages, passIds) {
			if (passIds.length === 0) return;
			const taken = await sql<{ key: string }>`select 'place ' || pass_id || ' ' || station_id as key from placement_report
				where pass_id = any(${passIds})`.execute(trx);
			claims.know(taken.rows.map((row) => row.key));
		},
		take(m, { station, pass }) {
			if (m.type === 'feeder_loaded') {
				loads.push({ station, m });
				return null;
			}
			const wrong = miscounted(m);
			if (wrong) return wrong;
			let goodShare = 1;
			try {
				goodShare = builtShare(m.skipped, pads(pass!.run.boardSideId).circuits);
			} catch (error) {
				if (error instanceof InputError) return error.message;
				throw error;
			}
			if (!claims.claim(pass!, String(station.id))) return `panel ${m.panel} was reported by ${station.name} already`;
			placed.push({ pass: pass!, station, m, goodShare });
			return null;
		},
		async write() {
			await insertRows(trx, 'placementReport', placed, ({ pass, station, m, goodShare }) => ({
				passId: pass.id!,
				stationId: station.id,
				placedAt: new Date(m.at),
				cycleS: m.cycleS,
				lost: JSON.stringify(m.lost),
				skipped: m.skipped,
				goodShare,
				nozzles: m.nozzles.length ? JSON.stringify(m.nozzles) : null
			}));
			await wear(trx, placed);
			await insertRows(trx, 'feederLoad', loads, ({ station, m }) => ({
				stationId: station.id,
				runId: m.runId,
				slot: m.slot,
				partNumber: m.partNumber,
				reel: m.reel,
				makerLot: m.makerLot,
				pieces: m.pieces,
				spliced: m.spliced,
				loadedAt: new Date(m.at)
			}));
		}
	};
}
