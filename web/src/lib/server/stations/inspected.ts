import { judgeYield, yieldOf } from '@keen-relay/core/inspection';
import type { StationRole } from '$lib/stations/index.ts';
import type { RuleValue } from '$lib/rules/index.ts';
import { db } from '../db/index.ts';
import { ruleNow } from '../plant/rules.ts';
import { firstAttempts, leadingFail } from '../queries/results.ts';
import type { StoryPart } from './story.ts';
import { noRun, percent, type LineContext, type StationRow, type StationSummary } from './summary.ts';

const LATELY_MS = 12 * 3_600_000;

/** A station that passes or fails circuits: its first-pass yield in the run that is on. */
export function inspected(kind: keyof RuleValue<'yieldGoals'>) {
	return async (station: StationRow, { run, nowMs }: LineContext): Promise<StationSummary> => {
		// A line of finishing has no run of its own: what was seen lately counts.
		const of = run ? { runId: run.id } : { from: new Date(nowMs - LATELY_MS), to: new Date(nowMs + 1) };
		const [{ units, passed }, leader, goals] = await Promise.all([
			firstAttempts(station.id, of),
			leadingFail(station.id, of),
			ruleNow('yieldGoals')
		]);
		if (!run && units === 0) return noRun();
		return {
			parts: [{ verdict: judgeYield(station.name, yieldOf(passed, units), goals[kind], leader), where: '', right: null }],
			dues: [],
			figure: units ? percent(passed / units) : '–',
			words: 'pass at first'
		};
	};
}

/** Visits of a pass at the stations of one kind. */
export function visitStory(role: StationRole) {
	return async (pass: { id: number }): Promise<StoryPart> => {
		const rows = await db
			.selectFrom('inspectionVisit')
			.innerJoin('station', 'station.id', 'inspectionVisit.stationId')
			.leftJoin('inspectionCall', 'inspectionCall.visitId', 'inspectionVisit.id')
			.select(['station.name', 'inspectionVisit.circuit', 'inspectionVisit.startedAt', 'inspectionVisit.result'])
			.select(['inspectionCall.refDes', 'inspectionCall.pin', 'inspectionCall.code', 'inspectionCall.measured'])
			.where('passId', '=', pass.id)
			.where('station.role', '=', role)
			.orderBy('inspectionVisit.startedAt')
			.orderBy('inspectionVisit.circuit')
			.execute();
		const failed = new Set(rows.filter((r) => r.result === 'fail').map((r) => r.circuit));
		return {
			lines: rows.map((r) => ({
				at: r.startedAt,
				what: r.name,
				level: r.result === 'pass' ? 'good' : 'act',
				text: `circuit ${r.circuit + 1}: ${r.result}${r.refDes ? `, ${r.refDes}${r.pin ? ` pin ${r.pin}` : ''} ${r.code}` : ''}${r.measured ? `, ${r.measured}` : ''}`,
				notes: []
			})),
			parts: rows.flatMap((r) => (r.refDes ? [{ circuit: r.circuit, refDes: r.refDes }] : [])),
			inspected: { circuits: new Set(rows.map((r) => r.circuit)).size, failed: failed.size }
		};
	};
}
