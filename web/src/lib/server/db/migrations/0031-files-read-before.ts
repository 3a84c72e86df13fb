import { type Kysely, sql } from 'kysely';

/** How a customer's files were read: the next file with the same titles is read the same way, and says so. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table file_reading (
		id serial primary key,
		customer text not null,
		file text not null check (file in ('paste', 'positions', 'bom')),
		columns jsonb,
		unit text,
		decimal text,
		side text check (side in ('top', 'bottom')),
		board_revision_id int not null references board_revision on delete cascade,
		read_at timestamptz not null
	)`.execute(db);
	await sql`create index on file_reading (lower(customer), read_at desc)`.execute(db);
	await sql`create index on file_reading (board_revision_id)`.execute(db);
}
