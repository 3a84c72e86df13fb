import type { FluxClass, PasteRules, PowderType } from '@keen-relay/core/paste';
import { GENERIC_WINDOWS } from '@keen-relay/core/reflow';
import { refuse } from '../../answer.ts';
import { announce, db } from '../../db/index.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { refuseStale } from '../../queries/started-from.ts';

export interface PasteEntry {
	id?: number | undefined;
	/** Revision that the edit was begun from; null for a new paste. */
	startedFrom: number | null;
	name: string;
	partNumber: string;
	maker: string;
	alloy: string;
	powder: PowderType;
	fluxClass: FluxClass;
	wash: string;
	metalMassShare: number;
	metalGPerCm3: number;
	rules: { [K in keyof PasteRules]?: PasteRules[K] | undefined };
}

/** Enters a paste, or changes what is known of it. A water-soluble flux has to be washed off: how is part of it. */
export async function definePaste(actor: Actor, { id, startedFrom, rules, ...given }: PasteEntry): Promise<{ id: number }> {
	if (given.fluxClass === 'waterSoluble' && given.wash === '')
		refuse('wash', '', `${given.name} is water-soluble: say how it is washed off after reflow.`);
	const values = { ...given, wash: given.wash || null, maker: given.maker || null, rules: JSON.stringify(rules) };
	return db.transaction().execute(async (trx) => {
		if (id) {
			const stands = await trx.selectFrom('paste').select('revision').where('id', '=', id).forUpdate().executeTakeFirst();
			if (!stands) return refuse('paste', id, 'There is no such paste.');
			refuseStale(startedFrom, { revision: stands.revision, by: null }, given.name);
		}
		const row = id
			? await trx
					.updateTable('paste')
					.set((eb) => ({ ...values, revision: eb('revision', '+', 1) }))
					.where('id', '=', id)
					.returning('id')
					.executeTakeFirst()
			: await trx
					.insertInto('paste')
					.values({ ...values, window: JSON.stringify(Object.values(GENERIC_WINDOWS)[0]!) })
					.returning('id')
					.executeTakeFirst();
		if (!row) return refuse('paste', id, 'There is no such paste.');
		await logAction(trx, actor, 'paste.define', `${given.name}, ${given.partNumber}`);
		await announce(trx, 'paste');
		return row;
	});
}

export interface SensorEntry {
	name: string;
	kind: 'fridge' | 'room' | 'store' | 'cabinet';
	lineId: number | null;
	calibratedOn: string | null;
	everyMin: number;
	lowC: number;
	highC: number;
	lowRhPct: number | null;
	highRhPct: number | null;
	graceMin: number;
}

export async function addSensor(actor: Actor, given: SensorEntry): Promise<{ id: number }> {
	if (given.highC <= given.lowC) refuse('highC', given.highC, `The upper limit must be above the lower one, ${given.lowC} °C.`);
	return db.transaction().execute(async (trx) => {
		const row = await trx.insertInto('sensor').values(given).returning('id').executeTakeFirstOrThrow();
		await logAction(trx, actor, 'sensor.set', given.name);
		await announce(trx, 'paste');
		return row;
	});
}
