import { InputError } from '../judgement/index.ts';

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

/** Wall-clock parts of an instant in a time zone. */
export function localParts(ms: number, timeZone: string): { date: string; time: string; minutes: number } {
	const parts = Object.fromEntries(
		new Intl.DateTimeFormat('en-GB', {
			timeZone,
			year: 'numeric',
			month: '2-digit',
			day: '2-digit',
			hour: '2-digit',
			minute: '2-digit',
			hourCycle: 'h23'
		})
			.formatToParts(ms)
			.map((part) => [part.type, part.value])
	);
	return {
		date: `${parts.year}-${parts.month}-${parts.day}`,
		time: `${parts.hour}:${parts.minute}`,
		minutes: Number(parts.hour) * 60 + Number(parts.minute)
	};
}

/** The instant of a wall-clock time. In the hour that a clock change skips, the instant after the change. */
export function instantOf(date: string, time: string, timeZone: string): number {
	const asUtc = Date.parse(`${date}T${time}:00Z`);
	if (!Number.isFinite(asUtc))
		throw new InputError('unknown', 'date', 'a date such as 2026-11-25 and a time such as 06:00', `${date} ${time}`);
	let guess = asUtc;
	for (let i = 0; i < 3; i++) {
		const local = localParts(guess, timeZone);
		const miss = asUtc - Date.parse(`${local.date}T${local.time}:00Z`);
		if (miss === 0) return guess;
		guess += miss;
	}
	return guess;
}

function nextDay(date: string, days: number): string {
	return new Date(Date.parse(`${date}T12:00:00Z`) + days * 86400000).toISOString().slice(0, 10);
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
