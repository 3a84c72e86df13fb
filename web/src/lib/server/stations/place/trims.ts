import { causeWords, offsetWords } from '@keen-relay/core/placement';
import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import { refuse } from '../../answer.ts';
import { announce, db } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { currentRun } from '../../queries/runs.ts';
import { refuseStale } from '../../queries/started-from.ts';
import { stationsOf } from '../../queries/stations.ts';
import { trimsOf } from '../../queries/trims.ts';
import { offsetsOf } from './offsets.ts';

/** A trim lapses after this time: wear and repairs make it wrong (ours). */
export const TRIM_DAYS = 30;
/** What is accepted is what was read: so far it may have moved meanwhile, µm. */
const MOVED_UM = 10;

/** The placer of that id, with its line's stations and the run that is on there. */
async function placerOf(stationId: number) {
	const row = await db.selectFrom('station').select(['id', 'name', 'role', 'lineId']).where('id', '=', stationId).executeTakeFirst();
	if (!row || row.role !== 'place') return refuse('station', stationId, 'This is no placer.');
	const [stations, run] = await Promise.all([stationsOf(row.lineId), currentRun(row.lineId)]);
	return { ...row, stations, run };
}

/** What is off at a placer now. */
export async function offsetsAt(stationId: number) {
	const { run, stations, ...station } = await placerOf(stationId);
	if (!run) return null;
	const { report, afterOven, verdict, asks, trims, since } = await offsetsOf(station, stations, run, await plantNow());
	return { sideId: run.boardSideId, report, afterOven, verdict, asks, trims, since };
}

/** Adds a correction to what a placer's program says: only one that what was measured asks for now, and never twice. */
export async function acceptTrim(actor: Actor, stationId: number, given: z.infer<typeof bodies.trim>) {
	const { run, stations, ...station } = await placerOf(stationId);
	if (!run || run.boardSideId !== given.sideId) return refuse('sideId', given.sideId, `${station.name} builds another side now.`);
	const nowMs = await plantNow();
	const found = await offsetsOf(station, stations, run, nowMs);
	const nth = found.asks.findIndex((ask) => ask?.level === given.level && ask.name === given.name);
	const [cause, ask] = [found.report.causes[nth], found.asks[nth]];
	const at = new Date(nowMs);
	return db.transaction().execute(async (trx) => {
		await trx.selectFrom('station').select('id').where('id', '=', stationId).forUpdate().execute();
		const [last] = await trimsOf(stationId, given.sideId, nowMs, trx);
		refuseStale(given.startedFrom, last, `The trims of ${station.name}`);
		if (!cause || !ask) return refuse('name', given.name, `What was measured does not ask for a trim of ${causeWords(given)} now.`);
		if (Math.hypot(ask.dxUm - given.dxUm, ask.dyUm - given.dyUm) > MOVED_UM)
			return refuse(
				'dxUm',
				given.dxUm,
				`What was measured asks for ${offsetWords(ask)} by now, not ${offsetWords(given)}: look at it, then decide again.`
			);
		const feeder =
			given.level === 'feeder'
				? await trx
						.selectFrom('feeder')
						.select('code')
						.where('stationId', '=', stationId)
						.where('slot', '=', Number(given.name))
						.executeTakeFirst()
				: undefined;
		const revision = (last?.revision ?? 0) + 1;
		const { id } = await trx
			.insertInto('trim')
			.values({
				stationId,
				boardSideId: given.sideId,
				revision,
				level: given.level,
				name: given.name,
				feeder: feeder?.code ?? null,
				dxUm: given.dxUm,
				dyUm: given.dyUm,
				wasDxUm: cause.dxUm,
				wasDyUm: cause.dyUm,
				placements: cause.rows,
				panels: cause.panels,
				afterOven: found.afterOven,
				dataFrom: found.since ?? run.startedAt,
				personId: actor.id,
				at,
				expiresAt: new Date(nowMs + TRIM_DAYS * 86_400_000)
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		const subject = `${station.name}, ${run.board} ${run.side}, trim ${revision}: ${causeWords(given)} ${offsetWords(given)}`;
		const actionId = await logAction(trx, actor, 'trim.accept', subject, { kind: 'trim', id }, station.lineId);
		for (const topic of ['results', 'line'] as const) await announce(trx, topic);
		return { revision, actionId };
	});
}
