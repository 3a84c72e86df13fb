import { sql } from 'kysely';
import { db, type Db, type Trx } from './index.ts';

/** Months whose partition is known to be there. */
const months = new Set<string>();

const nameOf = (month: string) => `paste_reading_${month.replace('-', '_')}`;

/** Makes the partition of a month where it is missing: before the first reading falls into it, or with that. A month that was detached is not made again in silence.
 * @param month "2026-11"
 */
export async function ensureMonth(trx: Db | Trx, month: string): Promise<void> {
	if (months.has(month)) return;
	const from = new Date(`${month}-01T00:00:00Z`);
	const to = new Date(Date.UTC(from.getUTCFullYear(), from.getUTCMonth() + 1, 1));
	const known = await sql<{ exists: boolean }>`select to_regclass(${nameOf(month)}) is not null as exists`.execute(trx);
	if (!known.rows[0]?.exists)
		await sql`create table if not exists ${sql.table(nameOf(month))} partition of paste_reading
			for values from (${sql.lit(from.toISOString())}) to (${sql.lit(to.toISOString())})`.execute(trx);
	months.add(month);
}

const MONTHS_AHEAD = 3;
const EVERY_MS = 12 * 3_600_000;

/** Months are made before anything falls into them: at the start, and twice a day. @param nowMs plant time, asked for each time */
export function makeMonthsAhead(nowMs: () => Promise<number>): void {
	const make = async () => {
		const now = new Date(await nowMs());
		for (let ahead = 0; ahead <= MONTHS_AHEAD; ahead++)
			await ensureMonth(db, new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + ahead, 1)).toISOString().slice(0, 7));
	};
	const tried = () => void make().catch((error: unknown) => console.error('the months ahead were not made:', error));
	tried();
	setInterval(tried, EVERY_MS).unref();
}
