import { type Kysely, sql } from 'kysely';

export async function up(db: Kysely<unknown>): Promise<void> {
	// Sums by class of inspections whose readings were not kept: one that turns out to be of another board side takes them along in the day's sums.
	await sql`alter table paste_summary add column class_sums jsonb`.execute(db);
	// The index for parts of a serial also offered itself for whole ones, where it takes a hundred times as long as the unique one: on the lower case it does not.
	await sql`drop index if exists panel_serial_part`.execute(db);
	await sql`do $$ begin
		create index panel_serial_part on panel using gin (lower(serial) gin_trgm_ops);
	exception when others then raise notice 'no index for parts of a serial: %', sqlerrm; end $$`.execute(db);
}
