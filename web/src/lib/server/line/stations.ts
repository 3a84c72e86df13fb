import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import { announce, db } from '../db/index.ts';
import { logAction, type Actor } from '../plant/log.ts';

/** Enters a line with its stations in the order boards travel. */
export async function createLine(actor: Actor, line: z.infer<typeof bodies.line>): Promise<{ id: number }> {
	return db.transaction().execute(async (trx) => {
		const { id } = await trx
			.insertInto('line')
			.values({ name: line.name, purpose: line.purpose })
			.returning('id')
			.executeTakeFirstOrThrow();
		await trx
			.insertInto('station')
			.values(
				line.stations.map((station, position) => ({
					lineId: id,
					position,
					role: station.role,
					name: station.name,
					spec: JSON.stringify(station.spec),
					state: 'idle' as const,
					stateReason: null,
					stateAt: null
				}))
			)
			.execute();
		await logAction(trx, actor, 'line.create', line.name);
		await announce(trx, 'line');
		return { id };
	});
}
