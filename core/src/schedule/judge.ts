import { type Verdict, noData } from '../judgement/index.ts';

/** When the last panel of a run leaves the line at its takt, ms. */
export function runEndMs(nowMs: number, panelsToFinish: number, taktS: number): number {
	return nowMs + Math.max(0, panelsToFinish) * taktS * 1000;
}

/** How a line's run stands.
 * @param stopped names of the stations that stand still
 */
export function judgeRun(
	lineName: string,
	run: { number: string; finished: number; panels: number; settingUp?: boolean } | null,
	stopped: readonly string[]
): Verdict {
	if (!run) return noData(`${lineName} is idle.`, ['Start a job']);
	const because = [
		{
			quantity: 'Panels finished',
			value: run.finished,
			unit: '',
			limit: `${run.panels} of the job`,
			source: 'reported by the last station'
		}
	];
	if (run.settingUp)
		return {
			level: 'act',
			statement: `${run.number} is being set up; nothing is printed yet.`,
			because,
			doNext: ['Prove its set-up, then start']
		};
	const count = `${run.finished} of ${run.panels} panels finished`;
	if (stopped.length)
		return {
			level: 'stopped',
			statement: `${run.number} is held up: ${stopped.join(', ')} stopped; ${count}.`,
			because,
			doNext: stopped.map((name) => `Clear ${name}`)
		};
	// What is built is not running: until somebody ends it the line waits for a job that it has.
	if (run.finished >= run.panels)
		return { level: 'act', statement: `${run.number} is done: ${count}.`, because, doNext: ['End the run, and start the next job'] };
	return { level: 'good', statement: `${run.number} is running, ${count}.`, because, doNext: [] };
}

/** Whether a shift was handed over: only two signatures count. */
export function judgeHandOver(shiftName: string, current: boolean, outgoing: string | null, incoming: string | null): Verdict {
	const because = [
		{
			quantity: 'Signatures',
			value: Number(outgoing !== null) + Number(incoming !== null),
			unit: '',
			limit: 'two different people',
			source: 'plant rule'
		}
	];
	if (outgoing && incoming)
		return { level: 'good', statement: `${shiftName} shift handed over by ${outgoing} to ${incoming}.`, because, doNext: [] };
	if (outgoing)
		return {
			level: 'watch',
			statement: `${outgoing} has signed; the person taking over has not.`,
			because,
			doNext: ['The person taking over signs']
		};
	return {
		level: 'watch',
		statement: `${shiftName} shift ${current ? 'is running' : 'was never handed over'}; nobody has signed.`,
		because,
		doNext: ['Write the hand-over, then both sign']
	};
}
