import { db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';

/** What somebody has typed and not saved, by person: offered when they come back, also at another screen. */
export async function draftOf(personId: string, subject: string) {
	const row = await db.selectFrom('draft').selectAll().where('personId', '=', personId).where('subject', '=', subject).executeTakeFirst();
	return row ? { content: row.content, base: row.base, savedAt: row.savedAt } : null;
}

export async function keepDraft(personId: string, subject: string, content: unknown, base: string): Promise<void> {
	const values = { content: JSON.stringify(content), base, savedAt: new Date(await plantNow()) };
	await db
		.insertInto('draft')
		.values({ personId, subject, ...values })
		.onConflict((conflict) => conflict.columns(['personId', 'subject']).doUpdateSet(values))
		.execute();
}

export async function dropDraft(personId: string, subject: string): Promise<void> {
	await db.deleteFrom('draft').where('personId', '=', personId).where('subject', '=', subject).execute();
}
