import { type Kysely, sql } from 'kysely';

/** How numbers and dates are written and in which units they are said: of the plant, and of each person where it is not the plant's. How a person set their tables. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`alter table plant add column locale text not null default 'en-GB', add column units text not null default 'metric'`.execute(db);
	await sql`alter table "user" add column locale text, add column units text, add column tables jsonb not null default '{}'`.execute(db);
}
