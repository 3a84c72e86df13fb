import type { RequestEvent } from '@sveltejs/kit';
import type { Role } from '@keen-relay/core/people';
import { sql } from 'kysely';
import { isAway } from '../db/away.ts';
import { db } from '../db/index.ts';
import { auth } from './auth.ts';
import { STATION_COOKIE, stationPcOf } from './station-pc.ts';
import { machineOf } from './tokens.ts';

type Who = Pick<App.Locals, 'person' | 'knownBy' | 'stationPc' | 'machine' | 'readOnly'>;

/** Who was behind a session or a station PC a moment ago: while the database is away they can still read. */
const REMEMBERED_MS = 15 * 60_000;
const MOST_REMEMBERED = 2000;
const remembered = new Map<string, { who: Who; at: number }>();

/** Who a request is from: a machine by its token, a person by their session, a station PC by its own, with the badge that it shows.
 * @throws what the database threw, where it is away and nobody is remembered
 */
export async function identify(event: RequestEvent): Promise<Who> {
	const machine = await machineOf(event.request.headers.get('authorization'));
	const nobody: Who = { person: null, knownBy: 'session', stationPc: null, machine, readOnly: false };
	const key = keyOf(event);
	if (key === '') return nobody;
	try {
		const who = { ...nobody, ...(await lookUp(event)) };
		remember(key, who);
		return who;
	} catch (error) {
		if (!isAway(error)) throw error;
		const before = remembered.get(key);
		if (!before || Date.now() - before.at > REMEMBERED_MS) throw error;
		return { ...before.who, readOnly: true };
	}
}

async function lookUp(event: RequestEvent): Promise<Pick<Who, 'person' | 'knownBy' | 'stationPc'>> {
	const session = await auth.api.getSession({ headers: event.request.headers }).catch((error: unknown) => ({ error }));
	// The library hides why it has no session: only a database that answers can mean that there is none.
	if (!session || 'error' in session) await sql`select 1`.execute(db);
	if (session && 'error' in session) throw session.error;
	if (session) {
		const { id, name, username, role } = session.user as unknown as { id: string; name: string; username: string; role: Role };
		return { person: { id, name, badge: username, role }, knownBy: 'session', stationPc: null };
	}
	const stationPc = await stationPcOf(event.cookies);
	if (!stationPc) return { person: null, knownBy: 'session', stationPc: null };
	const { person, ...pc } = stationPc;
	return { person, knownBy: 'badge', stationPc: pc };
}

function keyOf(event: RequestEvent): string {
	const session = event.cookies.getAll().find(({ name }) => name.endsWith('session_token'))?.value ?? '';
	const station = event.cookies.get(STATION_COOKIE) ?? '';
	return session || station ? `${session} ${station}` : '';
}

function remember(key: string, who: Who): void {
	remembered.delete(key);
	if (!who.person && !who.stationPc) return;
	if (remembered.size >= MOST_REMEMBERED) remembered.delete(remembered.keys().next().value!);
	remembered.set(key, { who, at: Date.now() });
}
