import { describe, expect, test } from 'vitest';
import { BURST_MS, judgeScanner, SCANNER_TEST_CODE, SLOW_BURST_MS, type KeyHeard } from './index.ts';

/** A code as a scanner types it. */
const typed = (text: string, end: string | null = 'Enter', gapMs = 5): KeyHeard[] =>
	[...text, ...(end ? [end] : [])].map((key, i) => ({ key, atMs: 1000 + i * gapMs }));
const says = (keys: KeyHeard[]) => {
	const { level, statement, doNext } = judgeScanner(keys);
	return [level, `${statement} ${doNext.join(' ')}`] as const;
};

describe('a scanner is tried out', () => {
	test('right, ended and fast is good, by Enter or Tab', () => {
		for (const end of ['Enter', 'Tab'])
			expect(says(typed(SCANNER_TEST_CODE, end))).toEqual(['good', expect.stringContaining(`ends with ${end}`)]);
	});
	test('nothing that ends it, and nothing at all', () => {
		expect(says(typed(SCANNER_TEST_CODE, null))).toEqual(['act', expect.stringContaining('send Enter, or Tab')]);
		expect(says([])[0]).toBe('noData');
	});
	test('the pause between keys: limits on both sides', () => {
		const at = (gapMs: number) => says(typed(SCANNER_TEST_CODE, 'Enter', gapMs))[0];
		expect([at(BURST_MS), at(BURST_MS + 1), at(SLOW_BURST_MS), at(SLOW_BURST_MS + 1)]).toEqual(['good', 'watch', 'watch', 'act']);
		// One slow key is enough.
		const keys = typed(SCANNER_TEST_CODE);
		expect(judgeScanner(keys.map((k, i) => (i < 9 ? k : { ...k, atMs: k.atMs + 200 }))).level).toBe('act');
	});
	test('another layout is named by the letters that it exchanges', () => {
		const exchanged = [...SCANNER_TEST_CODE].map((c) => ({ y: 'z', z: 'y', Y: 'Z', Z: 'Y' })[c] ?? c).join('');
		expect(says(typed(exchanged))).toEqual(['act', expect.stringContaining('y comes as z, z comes as y')]);
		expect(says(typed(SCANNER_TEST_CODE.replace('-', 'ß').replace('/', '-')))).toEqual([
			'act',
			expect.stringContaining('- comes as ß, / comes as -')
		]);
	});
	test('Caps Lock, lost capitals, a prefix, a code that is cut, another code', () => {
		const flipped = [...SCANNER_TEST_CODE].map((c) => (c === c.toLowerCase() ? c.toUpperCase() : c.toLowerCase())).join('');
		expect(says(typed(flipped))).toEqual(['act', expect.stringContaining('Caps Lock')]);
		expect(says(typed(SCANNER_TEST_CODE.toLowerCase()))).toEqual(['act', expect.stringContaining('Capitals are lost')]);
		expect(says(typed(`]C1${SCANNER_TEST_CODE}#`))).toEqual(['watch', expect.stringContaining('“]C1” before and “#” after')]);
		expect(says(typed(SCANNER_TEST_CODE.slice(0, 9)))).toEqual(['act', expect.stringContaining(`Only 9 of ${SCANNER_TEST_CODE.length}`)]);
		expect(says(typed('J-2411-0002'))).toEqual(['act', expect.stringContaining('another code')]);
	});
});
