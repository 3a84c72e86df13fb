const HOUR_MS = 3_600_000;

export interface HourOfShift {
	fromMs: number;
	/** End of the hour, or of the shift. */
	toMs: number;
	/** Panels that left the line in it. */
	finished: number;
	/** Panels that the takt asks for in that part of it that is over and in which a run was on. */
	asked: number;
}

/** The hours of a shift against the takt: panels that left the line, and what the runs that were on asked for until now.
 * @param shift from and to, ms; @param nowMs plant time
 * @param finishedMs when panels left the line; @param runs from and to (null: goes on), ms, with seconds a panel of their slowest station
 */
export function hoursOfShift(
	shift: { startMs: number; endMs: number },
	nowMs: number,
	finishedMs: readonly number[],
	runs: readonly { fromMs: number; toMs: number | null; taktS: number }[]
): HourOfShift[] {
	const hours: HourOfShift[] = [];
	for (let fromMs = shift.startMs; fromMs < shift.endMs && fromMs <= nowMs; fromMs += HOUR_MS) {
		const toMs = Math.min(shift.endMs, fromMs + HOUR_MS);
		const over = Math.min(toMs, nowMs);
		const asked = runs.reduce((sum, run) => {
			const ms = Math.min(over, run.toMs ?? Infinity) - Math.max(fromMs, run.fromMs);
			return sum + (ms > 0 && run.taktS > 0 ? ms / 1000 / run.taktS : 0);
		}, 0);
		hours.push({ fromMs, toMs, finished: finishedMs.filter((at) => at >= fromMs && at < toMs).length, asked: Math.round(asked) });
	}
	return hours;
}
