import { timingSafeEqual } from 'node:crypto';
import { sql } from 'kysely';
import { env } from '$env/dynamic/private';
import { weakPin } from '@keen-relay/core/people';
import { refuse } from '../answer.ts';
import { db } from '../db/index.ts';
import { createPerson } from './auth.ts';
import { tryPin, type Asking } from './guesses.ts';

const nobodyYet = async (): Promise<boolean> => (await db.selectFrom('user').select('id').limit(1).executeTakeFirst()) === undefined;

/** Whether this plant waits for its first lead, who makes themselves known by the code that its start printed. */
export const waitsForFirstLead = async (): Promise<boolean> => Boolean(env.FIRST_CODE) && (await nobodyYet());

/** A plant where nobody is known gets a first lead, who can enter everybody else: as the start says, or by the code that it prints. */
export async function ensureFirstLead(): Promise<void> {
	if (!(await nobodyYet())) return;
	const pin = env.FIRST_PIN;
	if (!pin) {
		if (env.FIRST_CODE)
			console.log(`\nNobody is known to this plant yet. Open ${env.ORIGIN ?? ''}/first and type the code ${env.FIRST_CODE}\n`);
		return;
	}
	const badge = env.FIRST_BADGE ?? 'lead';
	const weak = weakPin(pin, badge, 'lead');
	if (weak) throw new Error(`FIRST_PIN: ${weak}`);
	await createPerson({ name: env.FIRST_NAME ?? 'First lead', badge, pin, role: 'lead' });
	console.log(`first lead created: badge ${badge}`);
}

const plain = (code: string) => code.replace(/[^A-Za-z0-9]/g, '').toUpperCase();
const same = (a: string, b: string) => a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));

/** Makes the first lead of an empty plant. Refused once anybody is known, and without the code that the start printed; tries are limited like those of a PIN. */
export async function makeFirstLead(
	asking: Asking,
	{ code, name, badge, pin }: { code: string; name: string; badge: string; pin: string }
): Promise<{ badge: string }> {
	const wanted = env.FIRST_CODE;
	if (!wanted || !(await nobodyYet())) return refuse('code', '', 'This plant has its first lead. Sign in, or ask a lead to enter you.');
	const right = await tryPin(asking, () => Promise.resolve(same(plain(code), plain(wanted)) || null));
	if (!right) return refuse('code', '', 'This is not the code that the start of the plant printed.');
	const weak = weakPin(pin, badge, 'lead');
	if (weak) return refuse('pin', '', weak);
	return db.transaction().execute(async (trx) => {
		// Two at once: the second one finds that there is a lead.
		await sql`select pg_advisory_xact_lock(hashtext('first lead'))`.execute(trx);
		if (!(await nobodyYet())) return refuse('code', '', 'Somebody else was first. Sign in, or ask that lead to enter you.');
		await createPerson({ name, badge, pin, role: 'lead' });
		return { badge };
	});
}
