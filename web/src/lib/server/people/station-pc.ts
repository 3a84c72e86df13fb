import type { Cookies } from '@sveltejs/kit';
import type { Role } from '@keen-relay/core/people';
import { refuse } from '../answer.ts';
import { db } from '../db/index.ts';
import { ruleNow } from '../plant/rules.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { hashOf, newSecret } from './tokens.ts';

export const STATION_COOKIE = 'keen_station';
const YEAR_S = 365 * 24 * 3600;

export interface StationPc {
	id: number;
	name: string;
	lineId: number | null;
	person: { id: string; name: string; badge: string; role: Role } | null;
}

/** The shared screen that a request comes from, with the person whose badge it shows. */
export async function stationPcOf(cookies: Cookies): Promise<StationPc | null> {
	const secret = cookies.get(STATION_COOKIE);
	if (!secret) return null;
	const row = await db
		.selectFrom('stationPc')
		.leftJoin('user', 'user.id', 'stationPc.personId')
		.select([
			'stationPc.id',
			'stationPc.name',
			'stationPc.lineId',
			'stationPc.seenAt',
			'user.id as personId',
			'user.name as personName',
			'user.username',
			'user.role'
		])
		.where('hash', '=', hashOf(secret))
		.where('revokedAt', 'is', null)
		.executeTakeFirst();
	if (!row) return null;
	const fresh = row.seenAt !== null && Date.now() - row.seenAt.getTime() < (await ruleNow('pins')).badgeIdleS * 1000;
	const person = fresh && row.personId ? { id: row.personId, name: row.personName!, badge: row.username!, role: row.role! } : null;
	return { id: row.id, name: row.name, lineId: row.lineId, person };
}

/** Makes the browser of this request a station PC: from now on it is signed in as a device. */
export async function createStationPc(actor: Actor, cookies: Cookies, name: string, lineId: number | null): Promise<{ id: number }> {
	const secret = newSecret();
	const made = await db.transaction().execute(async (trx) => {
		const row = await trx
			.insertInto('stationPc')
			.values({
				name,
				lineId,
				hash: hashOf(secret),
				createdBy: actor.id,
				createdAt: new Date(),
				revokedAt: null,
				personId: null,
				seenAt: null
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, actor, 'stationPc.create', name);
		return row;
	});
	cookies.set(STATION_COOKIE, secret, { path: '/', httpOnly: true, sameSite: 'strict', secure: false, maxAge: YEAR_S });
	return made;
}

export async function revokeStationPc(actor: Actor, id: number): Promise<void> {
	await db.transaction().execute(async (trx) => {
		const row = await trx
			.updateTable('stationPc')
			.set({ revokedAt: new Date(), personId: null })
			.where('id', '=', id)
			.where('revokedAt', 'is', null)
			.returning('name')
			.executeTakeFirst();
		if (!row) return refuse('station PC', id, 'There is no such station PC, or it is signed out already.');
		await logAction(trx, actor, 'stationPc.revoke', row.name);
	});
}

/** A badge names the person for what is done next at this screen; the next badge takes over. */
export async function showBadge(stationPcId: number, badge: string): Promise<{ name: string; role: Role }> {
	const person = await db
		.selectFrom('user')
		.select(['id', 'name', 'role'])
		.where('username', '=', badge.trim().toLowerCase())
		.where('leftAt', 'is', null)
		.executeTakeFirst();
	if (!person) return refuse('badge', badge, `${badge.trim()} is no badge of this plant.`);
	await db.updateTable('stationPc').set({ personId: person.id, seenAt: new Date() }).where('id', '=', stationPcId).execute();
	return { name: person.name, role: person.role };
}

export async function clearBadge(stationPcId: number): Promise<void> {
	await db.updateTable('stationPc').set({ personId: null, seenAt: null }).where('id', '=', stationPcId).execute();
}

/** Somebody is still at the screen. */
export async function touchBadge(stationPcId: number): Promise<void> {
	await db.updateTable('stationPc').set({ seenAt: new Date() }).where('id', '=', stationPcId).where('personId', 'is not', null).execute();
}
