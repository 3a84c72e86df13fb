/** Who can prevent a stop. */
export const CHARGED = ['machine', 'material', 'method', 'unknown'] as const;

/** Why a machine stood, in the words that a person touches; a plant may list others. The machine's own reason stays beside it.
 * Assists are cleared on the spot; the others are charged to who can prevent them. A two-level list, common practice.
 */
export const STOP_REASONS = {
	pick: { words: 'Pick or feeder', charged: 'machine' },
	partsOut: { words: 'Parts ran out', charged: 'material' },
	jam: { words: 'Panel jam', charged: 'machine' },
	paste: { words: 'Paste or stencil', charged: 'material' },
	quality: { words: 'Checked quality', charged: 'method' },
	setUp: { words: 'Set-up', charged: 'method' },
	repair: { words: 'Repair', charged: 'machine' },
	waiting: { words: 'Waited for somebody', charged: 'method' },
	other: { words: 'Something else', charged: 'unknown' }
} as const satisfies Record<string, { words: string; charged: (typeof CHARGED)[number] }>;
/** Code of a reason: one of these, or one of the plant's own. */
export type StopReason = string;

export interface Stop {
	station: string;
	fromMs: number;
	/** null while it lasts. */
	toMs: number | null;
	machineReason: string | null;
	reason: StopReason | null;
	/** What the plant calls the reason, where it has words of its own. */
	words?: string | null;
}

/** A machine's word on what it does from then on. */
export interface StateSaid {
	atMs: number;
	stopped: boolean;
	reason: string | null;
}

export interface StopSpan {
	fromMs: number;
	/** null while it lasts. */
	toMs: number | null;
	machineReason: string | null;
}

/** Stops as the states of a machine say them: one begins with the first "stopped", with the reason given then, and ends with the next other state.
 * @param states in the order of their own times
 */
export function stopsOfStates(states: readonly StateSaid[]): StopSpan[] {
	const stops: StopSpan[] = [];
	let open: StopSpan | null = null;
	for (const { atMs, stopped, reason } of states) {
		if (stopped && !open) stops.push((open = { fromMs: atMs, toMs: null, machineReason: reason }));
		else if (!stopped && open) {
			open.toMs = atMs;
			open = null;
		}
	}
	return stops;
}

/** What has to change on record so that it holds the stops that the states say, when some of them were heard late. A stop on record stays itself where it
 * begins at the same moment, or overlaps one that is left over: whoever explained it explained that one.
 * @param onRecord and `said`, both within the same span of time
 */
export function settleStops<T extends StopSpan>(
	onRecord: readonly T[],
	said: readonly StopSpan[]
): { begun: StopSpan[]; changed: { was: T; now: StopSpan }[]; gone: T[] } {
	const left = new Set(onRecord);
	const pairs = new Map<StopSpan, T>();
	const end = (s: StopSpan) => s.toMs ?? Infinity;
	const take = (fits: (was: T, now: StopSpan) => boolean) => {
		for (const now of said) {
			if (pairs.has(now)) continue;
			const was = [...left].find((r) => fits(r, now));
			if (!was) continue;
			pairs.set(now, was);
			left.delete(was);
		}
	};
	take((was, now) => was.fromMs === now.fromMs);
	take((was, now) => was.fromMs < end(now) && now.fromMs < end(was));
	return {
		begun: said.filter((now) => !pairs.has(now)),
		changed: [...pairs].flatMap(([now, was]) =>
			was.fromMs === now.fromMs && was.toMs === now.toMs && was.machineReason === now.machineReason ? [] : [{ was, now }]
		),
		gone: [...left]
	};
}

export interface LostTime {
	/** Time at least one machine of the line stood, ms: overlaps are counted once. */
	totalMs: number;
	/** Adds up to the total: an overlap goes to the stop that began first. */
	rows: { station: string; reason: StopReason | null; words: string | null; ms: number; stops: number }[];
	/** Shorter than five minutes of wall time. */
	assists: number;
	major: number;
	running: number;
	/** Share of the lost time that nobody has explained, 0 to 1. */
	unexplainedShare: number;
}

const MAJOR_MS = 5 * 60_000;
const usualWords = (code: StopReason | null) =>
	code === null ? null : ((STOP_REASONS as Record<string, { words: string }>)[code]?.words ?? code);

/** Lost time of a line between two moments.
 * Intervals are clipped to the window and united on the line; shorter than 5 min is an assist, judged on wall length (common practice).
 * @param untilMs end of the window, or now while it lasts: an open stop counts up to there
 */
export function lostTime(stops: readonly Stop[], fromMs: number, untilMs: number): LostTime {
	const clipped = stops
		.map((stop) => ({ ...stop, from: Math.max(fromMs, stop.fromMs), to: Math.min(untilMs, stop.toMs ?? untilMs) }))
		.filter((stop) => stop.to > stop.from)
		.sort((a, b) => a.fromMs - b.fromMs);
	const rows = new Map<string, LostTime['rows'][number]>();
	let covered = fromMs;
	let totalMs = 0;
	for (const stop of clipped) {
		const ms = Math.max(0, stop.to - Math.max(stop.from, covered));
		covered = Math.max(covered, stop.to);
		totalMs += ms;
		const key = `${stop.station} ${stop.reason}`;
		const row = rows.get(key) ?? {
			station: stop.station,
			reason: stop.reason,
			words: stop.words ?? usualWords(stop.reason),
			ms: 0,
			stops: 0
		};
		row.ms += ms;
		row.stops++;
		rows.set(key, row);
	}
	const wall = (stop: (typeof clipped)[number]) => (stop.toMs ?? untilMs) - stop.fromMs;
	const unexplained = [...rows.values()].filter((row) => row.reason === null || row.reason === 'other');
	return {
		totalMs,
		rows: [...rows.values()].sort((a, b) => b.ms - a.ms),
		assists: clipped.filter((stop) => wall(stop) < MAJOR_MS).length,
		major: clipped.filter((stop) => wall(stop) >= MAJOR_MS).length,
		running: clipped.filter((stop) => stop.toMs === null).length,
		unexplainedShare: totalMs ? unexplained.reduce((sum, row) => sum + row.ms, 0) / totalMs : 0
	};
}

/** Sentences on the lost time, the largest first. */
export function lostTimeLines(lost: LostTime): string[] {
	const minutes = (ms: number) => (ms < 60_000 ? 'under a minute' : `${Math.round(ms / 60_000)} min`);
	if (lost.totalMs === 0) return ['No machine stopped'];
	const counted = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;
	return [
		`${minutes(lost.totalMs)} stood: ${counted(lost.assists, 'short stop')}, ${lost.major} of five minutes or more${lost.running ? `, ${lost.running} still standing` : ''}`,
		...lost.rows.map(
			(row) => `${row.station}, ${row.words?.toLowerCase() ?? 'no reason given yet'}: ${minutes(row.ms)}, ${counted(row.stops, 'stop')}`
		),
		...(lost.unexplainedShare > 0.1
			? [`${Math.round(lost.unexplainedShare * 100)} % of it is not explained: ask those who were there before they leave`]
			: [])
	];
}
