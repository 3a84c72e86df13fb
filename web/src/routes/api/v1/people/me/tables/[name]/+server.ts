import { sql } from 'kysely';
import { bodies } from '$lib/api/bodies.ts';
import { refuse } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'person',
	does: 'Remembers how a person set a table: the order of its rows, and the columns that are away.',
	body: bodies.tableView,
	example: { sort: [{ id: 'printed', desc: true }], hidden: ['job'] },
	run: async ({ actor, part, body }) => {
		const name = part('name');
		if (!/^[a-z-]{1,40}$/.test(name)) refuse('name', name, 'A table is named with small letters and dashes.');
		await sql`update "user" set tables = tables || jsonb_build_object(${name}::text, ${JSON.stringify(body)}::jsonb)
			where id = ${actor.id} and (tables ? ${name} or (select count(*) from jsonb_object_keys(tables)) < 100)`.execute(db);
	}
});
