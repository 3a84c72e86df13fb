import { checkThresholds, SIGNATURE_THRESHOLDS } from '@keen-relay/core/inspection';
import { ACTIONS } from '@keen-relay/core/people';
import { describe, expect, test } from 'vitest';
import { THRESHOLD_GROUPS } from './thresholds.ts';
import { ACTION_WORDS } from './words.ts';

describe('words for what the core names', () => {
	test('every action has its own words, short enough for the log', () => {
		const words = ACTIONS.map((action) => ACTION_WORDS[action]);
		expect(new Set(words).size).toBe(ACTIONS.length);
		for (const w of words) expect(w.length).toBeLessThan(32);
	});
	test('every threshold stands on the page once, with words of its own', () => {
		const rows = THRESHOLD_GROUPS.flatMap((g) => g.rows);
		expect(rows.map((r) => r.name).sort()).toEqual(Object.keys(SIGNATURE_THRESHOLDS).sort());
		expect(new Set(rows.map((r) => r.words)).size).toBe(rows.length);
	});
	test('each threshold may be moved by a fifth either way', () => {
		for (const { name } of THRESHOLD_GROUPS.flatMap((g) => g.rows)) {
			const start = SIGNATURE_THRESHOLDS[name];
			const whole = name.startsWith('least') && name !== 'leastT';
			for (const share of [0.8, 1.2]) {
				const value = whole ? Math.round(start * share) : start * share;
				expect(() => checkThresholds({ ...SIGNATURE_THRESHOLDS, [name]: value }), name).not.toThrow();
			}
		}
	});
});
