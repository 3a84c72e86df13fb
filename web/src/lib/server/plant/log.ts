import type { Action, Role } from '@keen-relay/core/people';
import type { Undo } from '$lib/model/types.ts';
import type { Db, Trx } from '../db/index.ts';
import { plantNow } from './clock.ts';

/** Who does something, who approved it where that was asked for, and at which shared screen. */
export interface Actor {
	id: string;
	name: string;
	role: Role;
	approvedBy: string | null;
	stationPc: string | null;
}

/** Writes down who did what, in the transaction that did it, with what it takes to reverse it.
 * @param lineId where it concerns one line only: its hand-over then shows it
 * @returns the number of the record */
export async function logAction(
	trx: Db | Trx,
	actor: Actor,
	action: Action,
	subject: string,
	undo: Undo | null = null,
	lineId: number | null = null
): Promise<number> {
	const { id } = await trx
		.insertInto('actionLog')
		.values({
			at: new Date(await plantNow()),
			personId: actor.id,
			action,
			subject,
			approvedBy: actor.approvedBy,
			stationPc: actor.stationPc,
			lineId,
			undo: undo && JSON.stringify(undo),
			reverses: null
		})
		.returning('id')
		.executeTakeFirstOrThrow();
	return id;
}
