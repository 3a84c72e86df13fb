import { type Kysely, sql } from 'kysely';

/** Backups that were made and verified: the health page says how old the last one is. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table backup (
		id int generated always as identity primary key,
		at timestamptz not null,
		file text not null,
		bytes bigint not null,
		tables int not null
	)`.execute(db);
}
