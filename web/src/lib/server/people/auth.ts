import { betterAuth } from 'better-auth';
import { username } from 'better-auth/plugins';
import { sql } from 'kysely';
import { randomUUID } from 'node:crypto';
import { building } from '$app/environment';
import { env } from '$env/dynamic/private';
import type { Role } from '@keen-relay/core/people';
import { pool, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { hashPin, verifyPin } from './pin-hash.ts';
import { type Asking, knowScreen, tryPin } from './guesses.ts';

/** Sign-in with a badge (the user name) and a PIN (the password). People are created by a lead, never by themselves. */
export const auth = betterAuth({
	database: pool,
	// A build has no plant and so no secret; a server without one refuses to start.
	secret: building ? randomUUID() : env.AUTH_SECRET,
	baseURL: building ? 'http://localhost' : env.ORIGIN,
	trustedOrigins: env.ORIGIN ? [env.ORIGIN] : [],
	telemetry: { enabled: false },
	// Guessing is limited by ourselves: the library would lock a whole address, colleagues included.
	rateLimit: { enabled: false },
	emailAndPassword: {
		enabled: true,
		disableSignUp: true,
		minPasswordLength: 4,
		maxPasswordLength: 64,
		password: { hash: hashPin, verify: ({ hash, password }) => verifyPin(hash, password) }
	},
	session: { expiresIn: 60 * 60 * 14 },
	user: { additionalFields: { role: { type: 'string', required: true, input: false } } },
	plugins: [username({ minUsernameLength: 2, usernameValidator: (badge) => /^[A-Za-z0-9-]+$/.test(badge) })]
});

/** What a request that signs in with a starting code is answered: nobody is signed in with it, it only lets its person choose a PIN. */
export const CHOOSE_PIN = 'choose a PIN';

export interface NewPerson {
	name: string;
	badge: string;
	pin: string;
	role: Role;
}

/** Creates a person with a badge. @returns the new id */
export async function createPerson(person: NewPerson): Promise<string> {
	const context = await auth.$context;
	const badge = person.badge.toLowerCase();
	const user = await context.internalAdapter.createUser(
		{
			name: person.name,
			// The sign-in library wants an address; a badge has none.
			email: `${badge}@${randomUUID()}.invalid`,
			emailVerified: true,
			username: badge,
			displayUsername: person.badge,
			role: person.role
		},
		{ method: 'email-password' }
	);
	await context.internalAdapter.linkAccount({
		userId: user.id,
		accountId: user.id,
		providerId: 'credential',
		password: await hashPin(person.pin)
	});
	return user.id;
}

/** Gives a person another PIN. Whoever is signed in with the old one is signed out, wherever that is, and their screens know them no more.
 * @param keep token of the session that may go on: of the person who changes their own
 */
export async function setPin(trx: Trx, personId: string, pin: string, keep: string | null): Promise<void> {
	// Tables of the sign-in library: their columns are written as it writes them.
	await sql`update account set password = ${await hashPin(pin)} where "userId" = ${personId} and "providerId" = 'credential'`.execute(trx);
	await sql`delete from session where "userId" = ${personId} and token is distinct from ${keep}`.execute(trx);
	await trx.updateTable('stationPc').set({ personId: null, seenAt: null }).where('personId', '=', personId).execute();
	await trx.deleteFrom('knownScreen').where('personId', '=', personId).execute();
	await trx.updateTable('user').set({ codeEndsAt: null, codeHash: null }).where('id', '=', personId).execute();
}

/** Token of the session that a request shows; null where it is of none. */
export async function sessionToken(headers: Headers): Promise<string | null> {
	return (await auth.api.getSession({ headers }).catch(() => null))?.session.token ?? null;
}

/** Who holds this badge and knows its PIN; null where the pair is wrong. Does not sign anybody in. Tries are limited. */
export async function personByPin(asking: Asking, pin: string): Promise<{ id: string; name: string; role: Role } | null> {
	const person = await tryPin(asking, () => checkPin(asking.badge, pin));
	if (person && asking.screen) await knowScreen(asking.screen, person.id);
	return person;
}

/** A badge that nobody has takes as long to answer as one that somebody has. */
const nobodysPin = hashPin(randomUUID());

/** Gives a person a starting code. It is kept apart from PINs, so that nothing that asks for a PIN ever takes it; the PIN that they had opens nothing any more. */
export async function setCode(trx: Trx, personId: string, code: string, endsAt: Date): Promise<void> {
	await setPin(trx, personId, randomUUID(), null);
	await trx
		.updateTable('user')
		.set({ codeHash: await hashPin(digitsOf(code)), codeEndsAt: endsAt })
		.where('id', '=', personId)
		.execute();
}

/** A code is told with a dash, and typed as somebody likes. */
const digitsOf = (code: string) => code.replace(/\D/g, '');

type Known = { id: string; name: string; role: Role };

/** Who holds a badge and the starting code that a lead gave them, while it lasts; null where they do not go together. */
export async function checkCode(badge: string, code: string): Promise<Known | null> {
	const found = await pool.query<Known & { codeHash: string }>(
		`select id, name, role, code_hash as "codeHash" from "user" where username = $1 and left_at is null and code_ends_at > $2`,
		[badge.trim().toLowerCase(), new Date(await plantNow())]
	);
	const row = found.rows[0];
	const right = await verifyPin(row?.codeHash ?? (await nobodysPin), digitsOf(code));
	return row && right ? { id: row.id, name: row.name, role: row.role } : null;
}

/** Who holds a badge and knows its PIN; null where they do not go together. Whoever has left holds none. */
async function checkPin(badge: string, pin: string): Promise<Known | null> {
	const found = await pool.query<Known & { password: string }>(
		`select u.id, u.name, u.role, a.password from "user" u join account a on a."userId" = u.id and a."providerId" = 'credential'
		 where u.username = $1 and u.left_at is null`,
		[badge.trim().toLowerCase()]
	);
	const row = found.rows[0];
	const right = await verifyPin(row?.password ?? (await nobodysPin), pin);
	return row && right ? { id: row.id, name: row.name, role: row.role } : null;
}
