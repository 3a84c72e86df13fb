import { createHash, randomBytes } from 'node:crypto';
import { env } from '$env/dynamic/private';
import { db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { refuse } from '../answer.ts';

export const hashOf = (secret: string) => createHash('sha256').update(secret).digest('hex');
export const newSecret = () => randomBytes(24).toString('base64url');

/** A token is looked up again after this long: a revoked one stops working within it, and it outlasts a short absence of the database. */
const TRUSTED_MS = 5000;
const REMEMBERED_MS = 15 * 60_000;
const known = new Map<string, { id: number; name: string; at: number }>();
let sharedKnown = false;

/** The machine whose token this is; null where there is none or it was revoked.
 * While the database is away a token that was good a moment ago is trusted, so that its messages get 503 and not 401.
 */
export async function machineOf(header: string | null): Promise<{ id: number; name: string } | null> {
	const token = /^Bearer (.{16,200})$/.exec(header ?? '')?.[1];
	if (!token) return null;
	const hash = hashOf(token);
	const before = known.get(hash);
	if (before && Date.now() - before.at < TRUSTED_MS) return before;
	try {
		await ensureStartToken();
		const row = await db
			.updateTable('machineToken')
			.set({ usedAt: new Date(await plantNow()) })
			.where('hash', '=', hash)
			.where('revokedAt', 'is', null)
			.returning(['id', 'name'])
			.executeTakeFirst();
		if (!row) {
			known.delete(hash);
			return null;
		}
		known.set(hash, { ...row, at: Date.now() });
		return row;
	} catch (error) {
		if (before && Date.now() - before.at < REMEMBERED_MS) return before;
		throw error;
	}
}

/** The simulated line comes with a token of its own, kept like any other: a lead can revoke it. */
async function ensureStartToken(): Promise<void> {
	if (sharedKnown || !env.MACHINE_TOKEN) return;
	await db
		.insertInto('machineToken')
		.values({
			name: 'Simulated line',
			hash: hashOf(env.MACHINE_TOKEN),
			createdBy: null,
			createdAt: new Date(await plantNow()),
			revokedBy: null,
			revokedAt: null,
			usedAt: null
		})
		.onConflict((conflict) => conflict.doNothing())
		.execute();
	sharedKnown = true;
}

/** Makes a token. @returns the secret: it is shown this once and kept only as a hash */
export async function createToken(actor: Actor, name: string): Promise<{ id: number; token: string }> {
	const token = newSecret();
	const createdAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { id } = await trx
			.insertInto('machineToken')
			.values({ name, hash: hashOf(token), createdBy: actor.id, createdAt, revokedBy: null, revokedAt: null, usedAt: null })
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, actor, 'token.create', name);
		return { id, token };
	});
}

export async function revokeToken(actor: Actor, id: number): Promise<void> {
	const revokedAt = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		const row = await trx
			.updateTable('machineToken')
			.set({ revokedAt, revokedBy: actor.id })
			.where('id', '=', id)
			.where('revokedAt', 'is', null)
			.returning(['name', 'hash'])
			.executeTakeFirst();
		if (!row) return refuse('token', id, 'There is no such token, or it is revoked already.');
		known.delete(row.hash);
		await logAction(trx, actor, 'token.revoke', row.name);
	});
}
