import { sql } from 'kysely';
import type { Stop, StopReason } from '@keen-relay/core/schedule';
import { reasonWords } from '$lib/rules/index.ts';
import { db } from '../db/index.ts';
import { ruleNow } from '../plant/rules.ts';

/** A stop with who explained it. */
export interface StopRow extends Stop {
	id: number;
	explainedBy: string | null;
}

/** Stops of a line that touch a span of time, oldest first; the latest reason that was not withdrawn counts. */
export async function stopsOf(lineId: number, from: Date, to: Date): Promise<StopRow[]> {
	const rows = await sql<{
		id: number;
		station: string;
		fromAt: Date;
		toAt: Date | null;
		machineReason: string | null;
		reason: StopReason | null;
		explainedBy: string | null;
	}>`
		select s.id, st.name as station, s.from_at as "fromAt", s.to_at as "toAt", s.machine_reason as "machineReason", r.reason,
			r.name as "explainedBy"
		from stop s join station st on st.id = s.station_id
		left join lateral (
			select sr.reason, u.name from stop_reason sr join "user" u on u.id = sr.person_id
			where sr.stop_id = s.id and not sr.withdrawn order by sr.id desc limit 1) r on true
		where st.line_id = ${lineId} and s.from_at < ${to} and (s.to_at > ${from} or s.to_at is null)
		order by s.from_at`.execute(db);
	const reasons = await ruleNow('stopReasons');
	return rows.rows.map(({ fromAt, toAt, ...row }) => ({
		...row,
		words: row.reason && reasonWords(row.reason, reasons),
		fromMs: fromAt.getTime(),
		toMs: toAt?.getTime() ?? null
	}));
}
