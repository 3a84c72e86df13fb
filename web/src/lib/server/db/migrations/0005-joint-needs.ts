import { type Kysely, sql } from 'kysely';

/** Paste that the joints of a part need: coplanarity, pin in paste. The latest row of a part counts; one without a value takes it back. */
export async function up(db: Kysely<unknown>): Promise<void> {
	await sql`create table joint_need (
		id int generated always as identity primary key, board_side_id int not null references board_side, ref_des text not null,
		needed_mm3 real check (needed_mm3 > 0), why text not null, set_by text not null references "user"(id), set_at timestamptz not null
	)`.execute(db);
	await sql`create index joint_need_by_side on joint_need (board_side_id, ref_des, id)`.execute(db);
}
