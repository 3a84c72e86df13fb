import type { Magazine } from '@keen-relay/core/feeders';
import { sql } from 'kysely';
import { db } from '../db/index.ts';

/** What stands at the ends of a line: as it was said last, and the panels that have moved since. An end of which nobody has said anything is not in it. */
export async function magazinesOf(lineId: number): Promise<(Magazine & { setAt: Date })[]> {
	const { rows } = await sql<Magazine & { setAt: Date }>`
		select distinct on (m."end") m."end", m.panels, m.set_at as "setAt", (
			select count(*)::int from panel_pass p join run r on r.id = p.run_id
			where r.line_id = m.line_id and (case when m."end" = 'loader' then p.printed_at else p.finished_at end) > m.set_at) as moved
		from magazine m where m.line_id = ${lineId} order by m."end", m.set_at desc, m.id desc`.execute(db);
	return rows;
}
