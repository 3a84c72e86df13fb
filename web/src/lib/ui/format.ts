import { instantOf, localParts, sayLength } from '@keen-relay/core/units';

export { sayLength };
import { theirs } from './theirs.svelte.ts';

/** Wall-clock time in the plant, "13:42". */
export function clockTime(at: number | Date | string, timeZone: string): string {
	return theirs().clockTime(at, timeZone);
}

/** Date and time in the plant, "24 Nov 13:42", as the one before the screen writes it. */
export function dayTime(at: number | Date | string, timeZone: string): string {
	return theirs().dayTime(at, timeZone);
}

/** What is coming, said as "in 14 min" or "4 min ago". */
export function sayWhen(atMs: number, nowMs: number): string {
	const minutes = Math.round((atMs - nowMs) / 60000);
	if (minutes === 0) return 'now';
	const words = sayLength(minutes * 60000);
	return minutes > 0 ? `in ${words}` : `${words} ago`;
}

/** ISO time of what was typed into a date-and-time field, by the plant's clock. */
export function plantInstant(typed: string, timeZone: string): string {
	const seconds = Number(typed.slice(17, 19) || 0);
	return new Date(instantOf(typed.slice(0, 10), typed.slice(11, 16), timeZone) + seconds * 1000).toISOString();
}

/** Back: an instant as date and time by the plant's clock, "2026-11-27T13:42". */
export function plantLocal(at: string | number, timeZone: string): string {
	const { date, time } = localParts(new Date(at).getTime(), timeZone);
	return `${date}T${time}`;
}
