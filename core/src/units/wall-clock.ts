import { Temporal } from 'temporal-polyfill';
import { InputError } from '../judgement/index.ts';

/** Wall-clock parts of an instant in a time zone.
 * @throws {RangeError} where there is no such time zone
 */
export function localParts(ms: number, timeZone: string): { date: string; time: string; minutes: number } {
	const local = Temporal.Instant.fromEpochMilliseconds(Math.floor(ms)).toZonedDateTimeISO(timeZone);
	return {
		date: local.toPlainDate().toString(),
		time: local.toPlainTime().toString({ smallestUnit: 'minute', roundingMode: 'floor' }),
		minutes: local.hour * 60 + local.minute
	};
}

/** The instant of a wall-clock time. In the hour that a clock change skips, the instant after the change; in one that it repeats, the first.
 * @throws InputError where date or time are none
 */
export function instantOf(date: string, time: string, timeZone: string): number {
	try {
		return Temporal.PlainDate.from(date, { overflow: 'reject' })
			.toPlainDateTime(Temporal.PlainTime.from(time, { overflow: 'reject' }))
			.toZonedDateTime(timeZone, { disambiguation: 'compatible' }).epochMilliseconds;
	} catch {
		throw new InputError('unknown', 'date', 'a date such as 2026-11-25 and a time such as 06:00', `${date} ${time}`);
	}
}

/** Whether there is such a day. */
export function isDate(date: string): boolean {
	try {
		return Temporal.PlainDate.from(date, { overflow: 'reject' }).toString() === date;
	} catch {
		return false;
	}
}

/** The date that many days later.
 * @throws {RangeError} where there is no such date
 */
export function nextDay(date: string, days: number): string {
	return Temporal.PlainDate.from(date).add({ days }).toString();
}

/** A length of time, "14 min" or "1 h 05". */
export function sayLength(ms: number): string {
	const minutes = Math.round(Math.abs(ms) / 60000);
	return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}
