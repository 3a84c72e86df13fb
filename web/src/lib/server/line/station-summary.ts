import { judgeChart } from '@keen-relay/core/control';
import { countFails, firstPass, judgeYield, withoutStrokeAndWipe, YIELD_GOALS, yieldOf } from '@keen-relay/core/inspection';
import { combine, noData, type Verdict } from '@keen-relay/core/judgement';
import { judgePlacer } from '@keen-relay/core/placement';
import { judgePrintCycle } from '@keen-relay/core/printing';
import type { StationRole, StationState } from '$lib/model/types.ts';
import type { StationSpec } from '../db/schema.ts';
import { calls, pasteSeries, placementStats, prints, visits } from '../db/results.ts';
import type { currentRun } from '../runs/start-run.ts';

export interface StationRow {
	id: number;
	lineId: number;
	position: number;
	role: StationRole;
	name: string;
	spec: StationSpec;
	state: StationState;
	stateReason: string | null;
	stateAt: Date | null;
}

export type CurrentRun = NonNullable<Awaited<ReturnType<typeof currentRun>>>;

export interface StationSummary {
	verdict: Verdict;
	/** The one number that matters now. */
	figure: string;
	unit: string;
}

const NOTHING: Omit<StationSummary, 'verdict'> = { figure: '–', unit: 'no run' };

/** How a station stands: its verdict and its number, from the run that is on. A machine that stands still says so first. */
export async function summarise(station: StationRow, run: CurrentRun | null): Promise<StationSummary> {
	if (!run) return { ...NOTHING, verdict: noData('No run on this line.', ['Start a job']) };
	const summary = await BY_ROLE[station.role](station, run);
	if (station.state !== 'stopped') return summary;
	const reason = station.stateReason ?? 'no reason given';
	return {
		...summary,
		verdict: { ...summary.verdict, level: 'stopped', statement: `${station.name} has stopped: ${reason}.`, doNext: [`Clear it: ${reason}`] }
	};
}

const percent = (share: number) => (share * 100).toFixed(1);

const BY_ROLE: Record<StationRole, (station: StationRow, run: CurrentRun) => Promise<StationSummary>> = {
	async print(_station, run) {
		const latest = await prints(run.id, 30);
		if (run.held)
			return {
				figure: String(run.printed),
				unit: 'first prints',
				verdict: {
					level: 'act',
					statement: 'The printer waits: the first prints are not released.',
					because: [],
					doNext: ['Look at them on Set-up and release the run']
				}
			};
		const { meanS, verdict } = judgePrintCycle(
			latest.map((print) => print.cycleS),
			Math.max(...run.plan.machines.map((m) => m.totalS))
		);
		return { figure: meanS?.toFixed(1) ?? '–', unit: 's', verdict };
	},
	async pasteCheck(_station, run) {
		const series = await pasteSeries(run.id, 200);
		const passed = yieldOf(series.filter((s) => s.result !== 'reject').length, series.length);
		const means = series.map((s) => s.meanVolumePct);
		const { verdict } = judgeChart('Mean volume', '%', withoutStrokeAndWipe(means, series).cleared);
		const worst = countFails(series.flatMap((s) => s.worst.map((w) => ({ refDes: `pad ${w.pad + 1}`, code: w.code })))).byPlace[0];
		return {
			figure: series.length ? percent(passed.passed / passed.units) : '–',
			unit: '%',
			verdict: combine([judgeYield('Paste check', passed, YIELD_GOALS.pasteCheck, worst && worst.count > 1 ? worst.key : null), verdict])
		};
	},
	async place(station, run) {
		const seen = await placementStats(station.id, run.id);
		const plan = run.plan.machines.find((m) => m.machine === station.name);
		return {
			figure: seen.cycleS?.toFixed(1) ?? '–',
			unit: 's',
			verdict: judgePlacer(seen, plan ?? { totalS: 0, placements: 0 })
		};
	},
	async oven(_station, run) {
		return {
			figure: run.usePct === null ? '–' : run.usePct.toFixed(0),
			unit: '% used',
			verdict: run.ovenVerdict
		};
	},
	optical: (station, run) => inspected(station, run, YIELD_GOALS.optical),
	inCircuit: (station, run) => inspected(station, run, YIELD_GOALS.inCircuit)
};

async function inspected(station: StationRow, run: CurrentRun, goal: number): Promise<StationSummary> {
	const [seen, failed] = await Promise.all([visits(station.id, { runId: run.id }), calls(station.id, { runId: run.id })]);
	const result = firstPass(seen);
	const leader = countFails(failed).byPlace[0];
	return {
		figure: result.units ? percent(result.passed / result.units) : '–',
		unit: '%',
		verdict: judgeYield(station.name, result, goal, leader && leader.count > 1 ? leader.key : null)
	};
}
