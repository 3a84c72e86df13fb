import { sql } from 'kysely';
import { isAway } from '../db/away.ts';
import { db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { ruleNow } from '../plant/rules.ts';

const EVERY_MS = 6 * 3_600_000;
const DAY_MS = 24 * 3_600_000;

/** Closes the boots that are over (a start of a machine that was silent for the plant's time, while a later start of it spoke) and takes their messages out of the ledger. The promise that nothing counts twice is kept: a closed boot takes no more.
 * @returns rows that went
 */
async function pruneLedger(): Promise<number> {
	const now = new Date(await plantNow());
	const before = new Date(now.getTime() - (await ruleNow('retention')).ledgerDays * DAY_MS);
	return db.transaction().execute(async (trx) => {
		await sql`update message_boot b set closed_at = ${now} where closed_at is null and last_at < ${before}
			and exists (select 1 from message_boot later where later.source = b.source and later.first_at > b.last_at)`.execute(trx);
		const gone = await sql`delete from message_ledger l using message_boot b
			where b.source = l.source and b.boot_id = l.boot_id and b.closed_at is not null`.execute(trx);
		return Number(gone.numAffectedRows ?? 0);
	});
}

/** Where the parts of panels sat is wanted for trims, not for ever: every part of every panel is much. */
async function pruneOffsets(): Promise<void> {
	const before = new Date((await plantNow()) - (await ruleNow('retention')).offsetDays * DAY_MS);
	await db.updateTable('inspectionVisit').set({ offsets: null }).where('endedAt', '<', before).where('offsets', 'is not', null).execute();
}

/** Prunes now and then. */
export function pruneNowAndThen(): void {
	const prune = () =>
		pruneLedger()
			.then(pruneOffsets)
			.catch((error: unknown) => {
				if (!isAway(error)) console.error('what is not kept for ever could not be pruned', error);
			});
	void prune();
	setInterval(prune, EVERY_MS).unref();
}
