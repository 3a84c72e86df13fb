import { describe, expect, test } from 'vitest';
import { same } from './same.ts';

describe('the same values', () => {
	test('the order of fields does not matter, that of a list does', () => {
		expect(same({ low: 60, high: 140 }, { high: 140, low: 60 })).toBe(true);
		expect(same([60, 140], [140, 60])).toBe(false);
	});
	test('deep down one difference is seen', () => {
		const limits = { chip: { volumePct: { fail: [50, 170] } } };
		expect(same(limits, structuredClone(limits))).toBe(true);
		expect(same(limits, { chip: { volumePct: { fail: [50, 171] } } })).toBe(false);
	});
	test('a missing field, a list for an object, a number for its text, and null are different', () => {
		expect(same({ a: 1 }, { a: 1, b: undefined })).toBe(false);
		expect(same([], {})).toBe(false);
		expect(same(1, '1')).toBe(false);
		expect(same(null, {})).toBe(false);
		expect(same(NaN, NaN)).toBe(true);
	});
});
