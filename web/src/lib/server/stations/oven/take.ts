import { insertRows } from '../../db/insert-rows.ts';
import type { BatchFacts, BatchPass, BatchStation, Taker } from '../module.ts';
import type { OvenMessage } from './messages.ts';

/** Panels that went through the oven. */
export function ovenTaker({ trx }: BatchFacts): Taker<OvenMessage> {
	const passes: { pass: BatchPass; station: BatchStation; m: OvenMessage }[] = [];
	return {
		take(m, { station, pass }) {
			passes.push({ pass: pass!, station, m });
			return null;
		},
		write: () =>
			insertRows(trx, 'ovenPass', passes, ({ pass, station, m }) => ({
				passId: pass.id!,
				stationId: station.id,
				enteredAt: new Date(m.enteredAt),
				leftAt: new Date(m.at),
				zoneC: m.zoneC,
				beltCmPerMin: m.beltCmPerMin
			}))
	};
}
