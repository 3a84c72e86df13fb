import { sql } from 'kysely';
import { db } from '$lib/server/db/index.ts';

export async function GET() {
	try {
		await sql`select 1`.execute(db);
		return new Response('ok');
	} catch {
		return new Response('database away', { status: 503, headers: { 'retry-after': '5' } });
	}
}
