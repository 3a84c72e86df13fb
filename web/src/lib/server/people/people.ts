import { randomInt, randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { z } from 'zod';
import { weakPin } from '@keen-relay/core/people';
import type { bodies } from '$lib/api/bodies.ts';
import { refuse } from '../answer.ts';
import { announce, db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { ruleNow } from '../plant/rules.ts';
import { checkCode, createPerson, setCode, setPin } from './auth.ts';
import { tryPin, type Asking } from './guesses.ts';

/** A starting code that nobody used ends after this. */
const CODE_MS = 7 * 24 * 3_600_000;

/** A code that is told once: its person chooses a PIN with it. */
export interface StartingCode {
	code: string;
	endsAt: string;
}

const newCode = () => `${randomInt(1000, 10_000)}-${randomInt(1000, 10_000)}`;

async function giveCode(trx: Trx, personId: string, nowMs: number): Promise<StartingCode> {
	const code = newCode();
	const endsAt = new Date(nowMs + CODE_MS);
	await setCode(trx, personId, code, endsAt);
	return { code, endsAt: endsAt.toISOString() };
}

/** Enters a person: with a PIN, or with a starting code by which they choose their own. */
export async function enterPerson(actor: Actor, person: z.infer<typeof bodies.person>): Promise<{ id: string } & Partial<StartingCode>> {
	const { pin, ...rest } = person;
	const weak = pin === undefined ? null : weakPin(pin, person.badge, person.role, await ruleNow('pins'));
	if (weak) refuse('pin', '', weak);
	const taken = await db.selectFrom('user').select('name').where('username', '=', person.badge.toLowerCase()).executeTakeFirst();
	if (taken)
		refuse('badge', person.badge, `${person.badge} is the badge of ${taken.name}. Each person has their own, leavers keep theirs.`);
	// The sign-in library writes the person by a connection of its own; nobody can use them before the code is given.
	const id = await createPerson({ ...rest, pin: pin ?? randomUUID() });
	const nowMs = await plantNow();
	return db.transaction().execute(async (trx) => {
		const code = pin === undefined ? await giveCode(trx, id, nowMs) : {};
		await logAction(trx, actor, 'person.create', `${person.name}, ${person.role}`);
		await announce(trx, 'people');
		return { id, ...code };
	});
}

async function personOrRefuse(trx: Trx, id: string) {
	const person = await trx
		.selectFrom('user')
		.select(['id', 'name', 'username', 'role', 'leftAt'])
		.where('id', '=', id)
		.forUpdate()
		.executeTakeFirst();
	return person ?? refuse('person', id, 'There is no such person.');
}

/** Nobody could change the plant any more once its last lead is none. */
async function refuseLastLead(trx: Trx, id: string, why: string): Promise<void> {
	await sql`select pg_advisory_xact_lock(hashtext('leads'))`.execute(trx);
	const other = await trx
		.selectFrom('user')
		.select('id')
		.where('role', '=', 'lead')
		.where('leftAt', 'is', null)
		.where('codeEndsAt', 'is', null)
		.where('id', '!=', id)
		.executeTakeFirst();
	if (!other) refuse('person', why, `${why} Enter another lead first, who has chosen a PIN.`);
}

/** Gives a person another starting code: the PIN that they had opens nothing any more, and they are signed out. */
export async function resetPin(actor: Actor, id: string): Promise<StartingCode> {
	const nowMs = await plantNow();
	return db.transaction().execute(async (trx) => {
		const person = await personOrRefuse(trx, id);
		if (person.leftAt) return refuse('person', person.name, `${person.name} has left. Take them back first.`);
		if (person.role === 'lead') await refuseLastLead(trx, id, 'This is the only lead: without their PIN nobody could change the plant.');
		const code = await giveCode(trx, id, nowMs);
		await logAction(trx, actor, 'person.change', `a starting code for ${person.name}`);
		await announce(trx, 'people');
		return code;
	});
}

/** Corrects a person's name or role, says that they have left, or takes them back, with a starting code. What they did stays theirs. */
export async function changePerson(
	actor: Actor,
	id: string,
	{ name, role, left }: z.infer<typeof bodies.personChange>
): Promise<Partial<StartingCode>> {
	const nowMs = await plantNow();
	return db.transaction().execute(async (trx) => {
		const person = await personOrRefuse(trx, id);
		const leaves = left === true && person.leftAt === null;
		const returns = left === false && person.leftAt !== null;
		const demoted = role !== undefined && role !== person.role && person.role === 'lead';
		if (person.role === 'lead' && (leaves || demoted)) await refuseLastLead(trx, id, 'This is the only lead.');
		if (person.leftAt && !returns) return refuse('person', person.name, `${person.name} has left. Take them back first.`);
		// A person with another role may do other things at once, and a lead's PIN is longer: they sign in anew, with a PIN that fits it.
		const promoted = role === 'lead' && person.role !== 'lead';
		await trx
			.updateTable('user')
			.set({
				name: name ?? person.name,
				role: role ?? person.role,
				...(left === undefined ? {} : { leftAt: left ? new Date(nowMs) : null })
			})
			.where('id', '=', id)
			.execute();
		if (leaves) await setPin(trx, id, randomUUID(), null);
		const code = returns || promoted ? await giveCode(trx, id, nowMs) : {};
		const words = [
			name !== undefined && name !== person.name ? `${person.name} is called ${name}` : null,
			role !== undefined && role !== person.role ? `${person.name}: ${person.role} → ${role}` : null,
			leaves ? `${person.name} has left` : null,
			returns ? `${person.name} is back` : null
		].filter((word) => word !== null);
		if (words.length) await logAction(trx, actor, 'person.change', words.join('; '));
		await announce(trx, 'people');
		return code;
	});
}

/** Chooses the PIN of a person who holds a starting code. */
export async function chooseFirstPin(asking: Asking, { badge, code, newPin }: z.infer<typeof bodies.firstPin>): Promise<{ badge: string }> {
	const digits = code.replace(/\D/g, '');
	const person = await tryPin(asking, () => checkCode(badge, code));
	if (!person)
		return refuse('code', '', 'This badge and starting code do not go together, or the code has ended. Ask a lead for another one.');
	const weak = weakPin(newPin, badge, person.role, await ruleNow('pins'));
	if (weak) return refuse('newPin', '', weak);
	if (newPin.replace(/\D/g, '') === digits)
		return refuse('newPin', '', 'This is the starting code, which others may have seen. Choose a PIN.');
	await db.transaction().execute(async (trx) => {
		await setPin(trx, person.id, newPin, null);
		const actor = { id: person.id, name: person.name, role: person.role, approvedBy: person.id, stationPc: asking.stationPc };
		await logAction(trx, actor, 'person.change', `${person.name} chose a PIN`);
		await announce(trx, 'people');
	});
	return { badge: badge.trim().toLowerCase() };
}
