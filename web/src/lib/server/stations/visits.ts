import { sql } from 'kysely';
import { z } from 'zod';
import type { KeptOffset } from '$lib/model/types.ts';
import { insertRows, ROWS_AT_ONCE } from '../db/insert-rows.ts';
import { attempt, moment, panel, says, type Said } from './message-parts.ts';
import { Claims, type BatchFacts, type BatchPass, type BatchStation, type PassRows, type Taker } from './module.ts';

/** A visit of one circuit to an inspection or a test, with what was called. */
export const visitOf = <const T extends string, S extends z.ZodRawShape = Record<never, never>>(
	type: T,
	words: string,
	more: S = {} as S
) =>
	says(type, words, ['line', 'results'], {
		panel,
		circuit: z.int().nonnegative().max(1000).meta({ title: 'Circuit, the first is 0' }),
		attempt,
		startedAt: moment.meta({ title: 'Started' }),
		result: z.enum(['pass', 'fail', 'abort']).meta({ title: 'Result' }),
		calls: z
			.array(
				z.object({
					refDes: z.string().trim().min(1).max(40).meta({ title: 'Part' }),
					pin: z.string().max(20).nullable().default(null).meta({ title: 'Pin' }),
					code: z.string().trim().min(1).max(60).meta({ title: 'What is wrong' }),
					measured: z.string().max(120).nullable().default(null).meta({ title: 'Measured' })
				})
			)
			.max(10_000)
			.default([])
			.meta({ title: 'Calls' }),
		...more
	});

/** What an optical inspection may measure beside what it calls. */
export const OFFSETS = {
	offsets: z
		.array(
			z.object({
				refDes: z.string().trim().min(1).max(40).meta({ title: 'Part' }),
				dxUm: z.number().min(-20_000).max(20_000).meta({ title: 'Right of where it should be', unit: 'µm' }),
				dyUm: z.number().min(-20_000).max(20_000).meta({ title: 'Up from it', unit: 'µm' })
			})
		)
		.max(20_000)
		.default([])
		.meta({ title: 'Where parts sit, along the panel' })
};

type Visit = Said<ReturnType<typeof visitOf<string>>> & { offsets?: { refDes: string; dxUm: number; dyUm: number }[] };

export const VISIT_ROWS: PassRows = {
	table: 'inspection_visit',
	at: 'ended_at',
	key: ['station_id', 'circuit', 'attempt'],
	station: 'station_id'
};

/** Visits of circuits: what optical inspection, in-circuit test and bench have in common. */
export function visitTaker({ trx }: BatchFacts): Taker<Visit> {
	const claims = new Claims('visit');
	const visits: { pass: BatchPass; station: BatchStation; m: Visit }[] = [];
	return {
		async read(_messages, passIds) {
			if (passIds.length === 0) return;
			const taken = await sql<{
				key: string;
			}>`select 'visit ' || pass_id || ' ' || station_id || ' ' || circuit || ' ' || attempt as key from inspection_visit
				where pass_id = any(${passIds})`.execute(trx);
			claims.know(taken.rows.map((row) => row.key));
		},
		take(m, { station, pass }) {
			if (!claims.claim(pass!, `${station.id} ${m.circuit} ${m.attempt}`))
				return `circuit ${m.circuit} of panel ${m.panel} has an attempt ${m.attempt} already`;
			visits.push({ pass: pass!, station, m });
			return null;
		},
		async write() {
			for (let i = 0; i < visits.length; i += ROWS_AT_ONCE) {
				const some = visits.slice(i, i + ROWS_AT_ONCE);
				const made = await trx
					.insertInto('inspectionVisit')
					.values(
						some.map(({ pass, station, m }) => ({
							passId: pass.id!,
							stationId: station.id,
							circuit: m.circuit,
							attempt: m.attempt,
							startedAt: new Date(m.startedAt),
							endedAt: new Date(m.at),
							result: m.result,
							offsets: m.offsets?.length
								? JSON.stringify(m.offsets.map(({ refDes, dxUm, dyUm }): KeptOffset => [refDes, dxUm, dyUm]))
								: null
						}))
					)
					.returning(['id', 'passId', 'stationId', 'circuit', 'attempt'])
					.execute();
				const ids = new Map(made.map((v) => [`${v.passId} ${v.stationId} ${v.circuit} ${v.attempt}`, v.id]));
				await insertRows(
					trx,
					'inspectionCall',
					some.flatMap(({ pass, station, m }) => {
						const visitId = ids.get(`${pass.id} ${station.id} ${m.circuit} ${m.attempt}`)!;
						return m.calls.map((call) => ({ visitId, ...call }));
					}),
					(call) => call
				);
			}
		}
	};
}
