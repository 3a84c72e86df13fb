import { sql } from 'kysely';
import { ACTIONS } from '@keen-relay/core/people';
import { countFails, firstPass, yieldOf } from '@keen-relay/core/inspection';
import { lostTime, notInOrder, type Shift, type ShiftFacts } from '@keen-relay/core/schedule';
import { localParts } from '@keen-relay/core/units';
import { ACTION_WORDS } from '$lib/model/words.ts';
import { stationsOf } from '../queries/stations.ts';
import { calls, visits } from '../queries/results.ts';
import { db } from '../db/index.ts';
import { plantInfo } from '../plant/settings.ts';
import { plantNow } from '../plant/clock.ts';
import { currentRun } from '../queries/runs.ts';
import { lineNow } from '../line/memory.ts';
import { stopsOf } from '../queries/stops.ts';

const FAILS_SHOWN = 5;

/** A shift that is over changes only by what is heard late: its counts hold for a while, real ms. */
const OVER_HOLDS_MS = 60_000;
const over = new Map<string, { at: number; facts: Promise<ShiftFacts> }>();
const MOST_KEPT = 200;

/** Counts what a line did in a shift, from the records. */
export async function shiftFacts(lineId: number, shift: Shift): Promise<ShiftFacts> {
	if ((await plantNow()) < shift.endMs) return countShift(lineId, shift);
	const key = `${lineId} ${shift.date} ${shift.name}`;
	const known = over.get(key);
	if (known && Date.now() - known.at < OVER_HOLDS_MS) return known.facts;
	const facts = countShift(lineId, shift);
	facts.catch(() => over.delete(key));
	if (over.size >= MOST_KEPT) over.clear();
	over.set(key, { at: Date.now(), facts });
	return facts;
}

/** The same, counted just now: what is signed stands for good. */
export async function countShift(lineId: number, shift: Shift): Promise<ShiftFacts> {
	const between = { from: new Date(shift.startMs), to: new Date(shift.endMs) };
	const [stations, plant] = await Promise.all([stationsOf(lineId), plantInfo()]);
	const [panels, paste, run, stops, nowMs, changes] = await Promise.all([
		sql<{ printed: number; finished: number }>`
			select (select count(*)::int from panel_pass p join run r on r.id = p.run_id
					where r.line_id = ${lineId} and p.printed_at >= ${between.from} and p.printed_at < ${between.to}) as printed,
				(select count(*)::int from panel_pass p join run r on r.id = p.run_id
					where r.line_id = ${lineId} and p.finished_at >= ${between.from} and p.finished_at < ${between.to}) as finished`.execute(db),
		sql<{ panels: number; rejected: number }>`
			select count(*)::int as panels, count(*) filter (where s.result = 'reject')::int as rejected
			from paste_summary s join panel_pass p on p.id = s.pass_id join run r on r.id = p.run_id
			where r.line_id = ${lineId} and s.measured_at >= ${between.from} and s.measured_at < ${between.to} and s.inspection_attempt = 1`.execute(
			db
		),
		currentRun(lineId),
		stopsOf(lineId, between.from, between.to),
		plantNow(),
		db
			.selectFrom('actionLog')
			.innerJoin('user', 'user.id', 'actionLog.personId')
			.leftJoin('user as approver', 'approver.id', 'actionLog.approvedBy')
			.select(['actionLog.at', 'actionLog.action', 'actionLog.subject', 'user.name', 'approver.name as approver'])
			.where('actionLog.action', 'in', CHANGES)
			.where((eb) => eb.or([eb('actionLog.lineId', 'is', null), eb('actionLog.lineId', '=', lineId)]))
			.where('actionLog.at', '>=', between.from)
			.where('actionLog.at', '<', between.to)
			.orderBy('actionLog.at')
			.execute()
	]);
	const pasteRow = paste.rows[0]!;
	const yields: ShiftFacts['yields'] = [{ step: 'Paste check', result: yieldOf(pasteRow.panels - pasteRow.rejected, pasteRow.panels) }];
	const fails: ShiftFacts['fails'] = [];
	const open: ShiftFacts['open'] = pasteRow.rejected
		? [{ what: pasteRow.rejected === 1 ? 'panel rejected at paste check' : 'panels rejected at paste check', count: pasteRow.rejected }]
		: [];
	for (const station of stations.filter((s) => s.role === 'optical' || s.role === 'inCircuit')) {
		const [seen, failed] = await Promise.all([visits(station.id, between), calls(station.id, between)]);
		const result = firstPass(seen);
		yields.push({ step: station.name, result });
		fails.push(...countFails(failed).byPlace.map(({ key, count }) => ({ step: station.name, what: key, count })));
		if (result.units > result.passed)
			open.push({
				what: `${result.units - result.passed === 1 ? 'circuit' : 'circuits'} failed at ${station.name}, not settled`,
				count: result.units - result.passed
			});
	}
	return {
		panelsPrinted: panels.rows[0]!.printed,
		panelsFinished: panels.rows[0]!.finished,
		yields,
		fails: fails.sort((a, b) => b.count - a.count).slice(0, FAILS_SHOWN),
		running:
			run && run.startedAt < between.to
				? [{ job: run.number, board: `${run.board} ${run.side}`, done: run.finished, quantity: run.panels }]
				: [],
		// How the stations stand is said of the shift that runs: the sentences of their tiles.
		stands: nowMs >= shift.startMs && nowMs < shift.endMs ? notInOrder((await lineNow(lineId))?.stations ?? []) : [],
		lost: lostTime(stops, shift.startMs, Math.min(shift.endMs, Math.max(shift.startMs, nowMs))),
		open,
		changes: changes.map((c) => ({
			at: localParts(c.at.getTime(), plant.timeZone).time,
			who: c.approver && c.approver !== c.name ? `${c.name} with ${c.approver}` : c.name,
			what: `${ACTION_WORDS[c.action]}: ${c.subject}`
		}))
	};
}

/** What the next shift must know; who explained a stop or wrote a note is on the sheet anyway. */
const CHANGES = ACTIONS.filter((action) => !['stop.explain', 'handOver.write', 'handOver.sign', 'package.set'].includes(action));
