import { instantOf, localParts, nextDay } from '../units/index.ts';

/** A shift by the wall clock; it may cross midnight. */
export interface ShiftPattern {
	name: string;
	/** "06:00". */
	from: string;
	to: string;
}

export interface Shift {
	name: string;
	/** Local date on which the shift starts, "2026-11-25": the production date. */
	date: string;
	startMs: number;
	endMs: number;
}

/** The shift of a name and date, with real hours: a night of a clock change has 7 or 9. */
export function shiftOn(date: string, pattern: ShiftPattern, timeZone: string): Shift {
	const startMs = instantOf(date, pattern.from, timeZone);
	const endMs = instantOf(pattern.to > pattern.from ? date : nextDay(date, 1), pattern.to, timeZone);
	return { name: pattern.name, date, startMs, endMs };
}

/** The shift that runs at an instant; null in a gap of the pattern. */
export function shiftAt(ms: number, patterns: readonly ShiftPattern[], timeZone: string): Shift | null {
	const today = localParts(ms, timeZone).date;
	for (const date of [today, nextDay(today, -1)])
		for (const pattern of patterns) {
			const shift = shiftOn(date, pattern, timeZone);
			if (shift.startMs <= ms && ms < shift.endMs) return shift;
		}
	return null;
}

/** The shift before or after another, in the pattern's order. */
export function neighbourShift(shift: Shift, patterns: readonly ShiftPattern[], timeZone: string, step: -1 | 1): Shift | null {
	const at = step === 1 ? shift.endMs : shift.startMs - 1;
	return shiftAt(at, patterns, timeZone);
}
