import type { Issue } from '../judgement/index.ts';
import { instantOf, localParts, nextDay } from '../units/index.ts';

/** A shift by the wall clock; it may cross midnight. */
export interface ShiftPattern {
	name: string;
	/** "06:00". */
	from: string;
	to: string;
	/** Weekdays on which it begins, 1 Monday to 7 Sunday; every day where it says none. */
	days?: readonly number[];
	/** Dates on which it does not begin, "2026-12-25". */
	notOn?: readonly string[];
	/** When its people are away, by the wall clock. */
	breaks?: readonly { from: string; to: string }[];
}

/** A day on which no shift begins. */
export interface Holiday {
	date: string;
	name: string;
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

const weekday = (date: string) => new Date(`${date}T00:00:00Z`).getUTCDay() || 7;

/** The first day of the week that a date lies in. @param firstWeekday Monday = 1
 * @example weekOf('2026-12-06') // => '2026-11-30'
 */
export function weekOf(date: string, firstWeekday = 1): string {
	const back = (weekday(date) - firstWeekday + 7) % 7;
	return new Date(Date.parse(`${date}T00:00:00Z`) - back * 86_400_000).toISOString().slice(0, 10);
}

/** Whether a shift begins on a date. */
export function isWorked(date: string, { days, notOn }: ShiftPattern): boolean {
	return (days === undefined || days.includes(weekday(date))) && !(notOn?.includes(date) ?? false);
}

/** The shift that runs at an instant; null in a gap of the pattern. */
export function shiftAt(ms: number, patterns: readonly ShiftPattern[], timeZone: string): Shift | null {
	const today = localParts(ms, timeZone).date;
	for (const date of [today, nextDay(today, -1)])
		for (const pattern of patterns) {
			if (!isWorked(date, pattern)) continue;
			const shift = shiftOn(date, pattern, timeZone);
			if (shift.startMs <= ms && ms < shift.endMs) return shift;
		}
	return null;
}

/** A plant that is shut longer than this has no shift before or after. */
const LONGEST_SHUT_DAYS = 35;

/** The shift before or after another, over nights, weekends and holidays on which nobody works; null where none is near. */
export function neighbourShift(shift: Shift, patterns: readonly ShiftPattern[], timeZone: string, step: -1 | 1): Shift | null {
	for (let d = 0; d <= LONGEST_SHUT_DAYS; d++) {
		const date = nextDay(shift.date, d * step);
		const near = patterns
			.filter((pattern) => isWorked(date, pattern))
			.map((pattern) => shiftOn(date, pattern, timeZone))
			.filter((other) => (step === 1 ? other.startMs >= shift.endMs : other.endMs <= shift.startMs))
			.sort((a, b) => step * (a.startMs - b.startMs));
		if (near[0]) return near[0];
	}
	return null;
}

/** The breaks of a shift as instants, in their order. */
export function breaksOf({ name, date }: Shift, patterns: readonly ShiftPattern[], timeZone: string): { fromMs: number; toMs: number }[] {
	const pattern = patterns.find((p) => p.name === name);
	if (!pattern?.breaks) return [];
	// What comes before the shift's own beginning is after midnight.
	const at = (time: string) => instantOf(time < pattern.from ? nextDay(date, 1) : date, time, timeZone);
	return pattern.breaks.map(({ from, to }) => ({ fromMs: at(from), toMs: at(to) })).sort((a, b) => a.fromMs - b.fromMs);
}

const DAY_MIN = 24 * 60;
const minutesOf = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3));
/** Minutes from one wall-clock time to the next other one. */
const span = (from: number, to: number) => (((to - from) % DAY_MIN) + DAY_MIN) % DAY_MIN;

/** What is wrong with the shifts of a plant: names that are not their own, shifts that run at the same time, breaks outside their shift. Times are "hh:mm".
 * @returns issues, each with the field's path; none where the pattern can be used
 */
export function checkShifts(patterns: readonly ShiftPattern[]): Issue[] {
	const issues: Issue[] = [];
	const say = (field: string, value: string, message: string) => issues.push({ severity: 'error', code: 'invalid', field, value, message });
	const lengthOf = ({ from, to }: ShiftPattern) => span(minutesOf(from), minutesOf(to)) || DAY_MIN;
	patterns.forEach((pattern, i) => {
		if (patterns.findIndex((other) => other.name === pattern.name) !== i)
			say(`shifts.${i}.name`, pattern.name, `Two shifts are called ${pattern.name}: a hand-over could not tell them apart.`);
		for (const [k, { from, to }] of (pattern.breaks ?? []).entries()) {
			const start = span(minutesOf(pattern.from), minutesOf(from));
			const length = span(minutesOf(from), minutesOf(to));
			if (length === 0 || start + length > lengthOf(pattern))
				say(
					`shifts.${i}.breaks.${k}`,
					`${from} to ${to}`,
					`This break does not lie within ${pattern.name}, ${pattern.from} to ${pattern.to}.`
				);
		}
		for (const other of patterns.slice(i + 1)) {
			const shares = (pattern.days ?? [1, 2, 3, 4, 5, 6, 7]).some((day) => (other.days ?? [1, 2, 3, 4, 5, 6, 7]).includes(day));
			const apart =
				span(minutesOf(pattern.from), minutesOf(other.from)) >= lengthOf(pattern) &&
				span(minutesOf(other.from), minutesOf(pattern.from)) >= lengthOf(other);
			if (shares && !apart)
				say(
					`shifts.${patterns.indexOf(other)}.from`,
					other.from,
					`${other.name} runs while ${pattern.name} does: one instant belongs to one shift.`
				);
		}
	});
	return issues;
}
