import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { instantOf, localParts, MM_PER, nextDay } from './index.ts';

const ZONES = ['UTC', 'Europe/Berlin', 'America/New_York', 'Asia/Kolkata', 'Australia/Adelaide'];

describe('wall clock', () => {
	test('an instant is found again from its wall-clock time, but for the hour that a change repeats', () => {
		fc.assert(
			fc.property(fc.constantFrom(...ZONES), fc.integer({ min: 0, max: 366 * 24 * 60 }), (zone, minutes) => {
				const ms = Date.parse('2026-01-01T00:00:00Z') + minutes * 60_000;
				const { date, time } = localParts(ms, zone);
				const off = Math.abs(instantOf(date, time, zone) - ms);
				expect([0, 3_600_000]).toContain(off);
			}),
			{ numRuns: 200 }
		);
	});
	test('in the hour that is skipped the wall clock goes on after it', () => {
		const ms = instantOf('2026-03-29', '02:30', 'Europe/Berlin');
		expect(['01:30', '03:30']).toContain(localParts(ms, 'Europe/Berlin').time);
	});
	test('a day on which the clocks change has 23 or 25 hours', () => {
		const hours = (date: string) =>
			(instantOf(nextDay(date, 1), '00:00', 'Europe/Berlin') - instantOf(date, '00:00', 'Europe/Berlin')) / 3_600_000;
		expect([hours('2026-03-28'), hours('2026-03-29'), hours('2026-10-25')]).toEqual([24, 23, 25]);
	});
	test('minutes of the day go with the time', () => {
		expect(localParts(Date.parse('2026-07-01T10:05:00Z'), 'Asia/Kolkata')).toEqual({ date: '2026-07-01', time: '15:35', minutes: 935 });
	});
	test('the next day passes months, years and leap days', () => {
		expect(nextDay('2026-12-31', 1)).toBe('2027-01-01');
		expect(nextDay('2028-02-28', 1)).toBe('2028-02-29');
		expect(nextDay('2026-03-01', -1)).toBe('2026-02-28');
	});
	test('what is no date is refused with an example', () => {
		expect(() => instantOf('31.12.2026', '06:00', 'UTC')).toThrow('2026-11-25');
		expect(() => instantOf('2026-13-01', '06:00', 'UTC')).toThrow('2026-13-01');
	});
});

test('lengths are exact by definition', () => {
	expect(MM_PER.inch).toBe(25.4);
	expect(1000 * MM_PER.mil).toBeCloseTo(MM_PER.inch, 12);
	expect(1000 * MM_PER.um).toBe(MM_PER.mm);
});
