import { InputError } from '../judgement/index.ts';

/** Making a format costs more than a thousand uses of it. */
const formats = new Map<string, Intl.DateTimeFormat>();

function formatOf(timeZone: string): Intl.DateTimeFormat {
	const known = formats.get(timeZone);
	if (known) return known;
	const format = new Intl.DateTimeFormat('en-GB', {
		timeZone,
		year: 'numeric',
		month: '2-digit',
		day: '2-digit',
		hour: '2-digit',
		minute: '2-digit',
		hourCycle: 'h23'
	});
	formats.set(timeZone, format);
	return format;
}

/** Wall-clock parts of an instant in a time zone.
 * @throws {RangeError} where there is no such time zone
 */
export function localParts(ms: number, timeZone: string): { date: string; time: string; minutes: number } {
	const parts = Object.fromEntries(
		formatOf(timeZone)
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

/** The date that many days later. */
export function nextDay(date: string, days: number): string {
	return new Date(Date.parse(`${date}T12:00:00Z`) + days * 86400000).toISOString().slice(0, 10);
}
