import { sql } from 'kysely';
import { countFails, firstPass, yieldOf } from '@keen-relay/core/inspection';
import { localParts, type Shift, type ShiftFacts } from '@keen-relay/core/schedule';
import { stationsOf } from '../boards/release.ts';
import { calls, visits } from '../db/results.ts';
import { db } from '../db/index.ts';
import { plantInfo } from '../line/plant.ts';
import { currentRun } from '../runs/start-run.ts';

const FAILS_SHOWN = 5;

/** Counts what a line did in a shift, from the records. */
export async function shiftFacts(lineId: number, shift: Shift): Promise<ShiftFacts> {
	const between = { from: new Date(shift.startMs), to: new Date(shift.endMs) };
	const [stations, plant] = await Promise.all([stationsOf(lineId), plantInfo()]);
	const [panels, paste, run, changes] = await Promise.all([
		sql<{ printed: number; finished: number }>`
			select count(*) filter (where p.printed_at >= ${between.from} and p.printed_at < ${between.to})::int as printed,
				count(*) filter (where p.finished_at >= ${between.from} and p.finished_at < ${between.to})::int as finished
			from panel p join run r on r.id = p.run_id where r.line_id = ${lineId}`.execute(db),
		sql<{ panels: number; rejected: number }>`
			select count(*)::int as panels, count(*) filter (where s.result = 'reject')::int as rejected
			from paste_summary s join panel p on p.id = s.panel_id join run r on r.id = p.run_id
			where r.line_id = ${lineId} and s.measured_at >= ${between.from} and s.measured_at < ${between.to} and s.inspection_attempt = 1`.execute(
			db
		),
		currentRun(lineId),
		db
			.selectFrom('actionLog')
			.innerJoin('user', 'user.id', 'actionLog.personId')
			.select(['actionLog.at', 'actionLog.action', 'actionLog.subject', 'user.name'])
			.where('actionLog.at', '>=', between.from)
			.where('actionLog.at', '<', between.to)
			.orderBy('actionLog.at')
			.execute()
	]);
	const pasteRow = paste.rows[0]!;
	const yields: ShiftFacts['yields'] = [{ step: 'Paste check', result: yieldOf(pasteRow.panels - pasteRow.rejected, pasteRow.panels) }];
	const fails: ShiftFacts['fails'] = [];
	const open: ShiftFacts['open'] = pasteRow.rejected ? [{ what: 'panels rejected at paste check', count: pasteRow.rejected }] : [];
	for (const station of stations.filter((s) => s.role === 'optical' || s.role === 'inCircuit')) {
		const [seen, failed] = await Promise.all([visits(station.id, between), calls(station.id, between)]);
		const result = firstPass(seen);
		yields.push({ step: station.name, result });
		fails.push(...countFails(failed).byPlace.map(({ key, count }) => ({ step: station.name, what: key, count })));
		if (result.units > result.passed)
			open.push({ what: `circuits failed at ${station.name}, not settled`, count: result.units - result.passed });
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
		open,
		changes: changes.map((c) => ({
			at: localParts(c.at.getTime(), plant.timeZone).time,
			who: c.name,
			what: `${WORDS[c.action] ?? c.action}: ${c.subject}`
		}))
	};
}

const WORDS: Record<string, string> = {
	'board.create': 'new board',
	'panel.set': 'panel set',
	'stencil.release': 'stencil released',
	'program.release': 'program released',
	'recipe.release': 'oven recipe released',
	'job.create': 'new job',
	'run.start': 'run started',
	'run.end': 'run ended',
	'handOver.write': 'hand-over written',
	'handOver.sign': 'hand-over signed',
	'person.create': 'new person',
	'line.create': 'new line',
	'clock.set': 'clock set'
};
