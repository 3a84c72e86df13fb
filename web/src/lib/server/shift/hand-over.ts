import { handOverLines, shiftOn, type Shift } from '@keen-relay/core/schedule';
import { aRole, may, rolesThatMay } from '@keen-relay/core/people';
import { announce, db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { plantInfo } from '../plant/settings.ts';
import { personByPin } from '../people/auth.ts';
import type { Asking } from '../people/guesses.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { rightsNow } from '../people/rights.ts';
import { Conflict, refuse } from '../answer.ts';
import { countShift } from './shift-facts.ts';

/** The hand-over of a shift with the names under it; undefined before it is written. */
export function handOverOf(lineId: number, date: string, name: string) {
	return db
		.selectFrom('handOver')
		.leftJoin('user as outgoing', 'outgoing.id', 'handOver.outgoingId')
		.leftJoin('user as incoming', 'incoming.id', 'handOver.incomingId')
		.selectAll('handOver')
		.select(['outgoing.name as outgoingName', 'incoming.name as incomingName'])
		.where('lineId', '=', lineId)
		.where('shiftDate', '=', date)
		.where('shiftName', '=', name)
		.executeTakeFirst();
}

/** The sheet of a shift, held until the transaction ends: two people at once sign one after the other. */
async function lockedSheet(trx: Trx, lineId: number, date: string, name: string) {
	// One that is not there yet cannot be held: its line is.
	await trx.selectFrom('line').select('id').where('id', '=', lineId).forUpdate().execute();
	return trx
		.selectFrom('handOver')
		.select(['id', 'note', 'outgoingId', 'incomingId'])
		.where('lineId', '=', lineId)
		.where('shiftDate', '=', date)
		.where('shiftName', '=', name)
		.forUpdate()
		.executeTakeFirst();
}

export async function shiftOf(date: string, name: string): Promise<Shift> {
	const plant = await plantInfo();
	const pattern = plant.shifts.find((p) => p.name === name);
	if (!pattern) return refuse('shift', name, `There is no shift "${name}".`);
	return shiftOn(date, pattern, plant.timeZone);
}

/** Writes or rewrites the note of a shift; the counted lines are taken at the first signature and then stand. */
export async function writeNote(
	actor: Actor,
	lineId: number,
	date: string,
	name: string,
	note: string,
	startedFrom: string | null
): Promise<{ actionId: number }> {
	const shift = await shiftOf(date, name);
	const lines = JSON.stringify(handOverLines(await countShift(lineId, shift)));
	return db.transaction().execute(async (trx) => {
		const before = await lockedSheet(trx, lineId, date, name);
		if (before?.outgoingId) return refuse('note', date, 'The hand-over is signed; its note stands.');
		if ((before?.note ?? null) !== startedFrom && before?.note !== note)
			throw new Conflict(
				before?.note ?? null,
				`Somebody else wrote this note meanwhile: “${(before?.note ?? '').slice(0, 200)}”. Take it in, then keep yours.`
			);
		await trx
			.insertInto('handOver')
			.values({
				lineId,
				shiftDate: date,
				shiftName: name,
				lines,
				note,
				outgoingId: null,
				outgoingAt: null,
				incomingId: null,
				incomingAt: null
			})
			.onConflict((conflict) => conflict.columns(['lineId', 'shiftDate', 'shiftName']).doUpdateSet({ note, lines }))
			.execute();
		const actionId = await logAction(trx, actor, 'handOver.write', `${name} shift, ${date}`, {
			kind: 'note',
			lineId,
			date,
			shift: name,
			before: before?.note ?? null
		});
		await announce(trx, 'shift');
		return { actionId };
	});
}

/** Signs with badge and PIN, in place: the first signature is the outgoing person's, the second must be somebody else's. */
export async function sign(lineId: number, date: string, name: string, asking: Asking, pin: string): Promise<void> {
	const { badge, stationPc } = asking;
	const person = await personByPin(asking, pin);
	if (!person) return refuse('badge and PIN', badge, 'This badge and PIN do not go together.');
	const rights = await rightsNow();
	if (!may(person.role, 'handOver.sign', rights))
		return refuse(
			'badge',
			badge,
			`${aRole(person.role)} may not sign a hand-over. Ask: ${rolesThatMay('handOver.sign', rights).join(', ')}.`
		);
	const shift = await shiftOf(date, name);
	const at = new Date(await plantNow());
	const counted = JSON.stringify(handOverLines(await countShift(lineId, shift)));
	await db.transaction().execute(async (trx) => {
		const before = await lockedSheet(trx, lineId, date, name);
		if (!before) return refuse('hand-over', date, 'Write the hand-over first.');
		if (before.incomingId) return refuse('hand-over', date, 'Both people have signed already.');
		if (before.outgoingId === person.id)
			return refuse('badge', badge, `${person.name} signed as the outgoing person. Somebody else takes over.`);
		// The counted lines are taken at the first signature and then stand.
		const lines = before.outgoingId ? null : counted;
		await trx
			.updateTable('handOver')
			.set(lines === null ? { incomingId: person.id, incomingAt: at } : { outgoingId: person.id, outgoingAt: at, lines })
			.where('id', '=', before.id)
			.execute();
		await logAction(trx, { ...person, approvedBy: person.id, stationPc }, 'handOver.sign', `${name} shift, ${date}`);
		await announce(trx, 'shift');
		await announce(trx, 'line');
	});
}
