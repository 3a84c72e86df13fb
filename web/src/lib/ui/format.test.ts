import { describe, expect, test } from 'vitest';
import { roomFor } from './chart-parts.ts';
import { speakTo } from './theirs.svelte.ts';
import { clockTime, dayTime, sayWhen } from './format.ts';

const AT = Date.UTC(2026, 10, 25, 12, 42);

describe('times', () => {
	test('in the plant’s zone, whatever the computer’s', () => {
		expect(clockTime(AT, 'Europe/Berlin')).toBe('13:42');
		expect(clockTime(AT, 'Europe/Dublin')).toBe('12:42');
		expect(dayTime(AT, 'Europe/Berlin')).toBe('25 Nov 13:42');
		expect(clockTime(new Date(AT).toISOString(), 'UTC')).toBe('12:42');
		speakTo({ locale: 'en-US', units: 'metric' });
		expect(dayTime(AT, 'Europe/Berlin')).toBe('Nov 25 13:42');
		speakTo({ locale: 'de-DE', units: 'metric' });
		expect(dayTime(AT, 'Europe/Berlin')).toBe('25 Nov 13:42');
	});

	test.each([
		[14, 'in 14 min'],
		[0, 'now'],
		[-4, '4 min ago'],
		[75, 'in 1 h 15'],
		[-125, '2 h 05 ago']
	])('%i minutes away: "%s"', (minutes, text) => {
		expect(sayWhen(AT + minutes * 60_000, AT)).toBe(text);
	});
});

describe('the room of an axis', () => {
	test('values and limits lie inside it', () => {
		const { min, max } = roomFor([95, 101, 99], [92, 104]);
		expect(min).toBeLessThan(92);
		expect(max).toBeGreaterThan(104);
	});

	test('equal values still have room', () => {
		const { min, max } = roomFor([50, 50], []);
		expect(max).toBeGreaterThan(min);
	});
});
