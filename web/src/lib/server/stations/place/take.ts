import { sql } from 'kysely';
import { insertRows } from '../../db/insert-rows.ts';
import type { Said } from '../message-parts.ts';
import { Claims, type BatchFacts, type BatchPass, type BatchStation, type Taker } from '../module.ts';
import type { feederLoaded, placement, PlaceMessage } from './messages.ts';

/** Panels that were placed, and reels that were loaded. */
export function placeTaker({ trx }: BatchFacts): Taker<PlaceMessage> {
	const claims = new Claims('place');
	const placed: { pass: BatchPass; station: BatchStation; m: Said<typeof placement> }[] = [];
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
			if (!claims.claim(pass!, String(station.id))) return `panel ${m.panel} was reported by ${station.name} already`;
			placed.push({ pass: pass!, station, m });
			return null;
		},
		async write() {
			await insertRows(trx, 'placementReport', placed, ({ pass, station, m }) => ({
				passId: pass.id!,
				stationId: station.id,
				placedAt: new Date(m.at),
				cycleS: m.cycleS,
				lost: JSON.stringify(m.lost)
			}));
			await insertRows(trx, 'feederLoad', loads, ({ station, m }) => ({
				stationId: station.id,
				runId: m.runId,
				slot: m.slot,
				partNumber: m.partNumber,
				reel: m.reel,
				makerLot: m.makerLot,
				pieces: m.pieces,
				loadedAt: new Date(m.at)
			}));
		}
	};
}
