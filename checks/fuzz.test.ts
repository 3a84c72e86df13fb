import { describe, expect, test } from 'vitest';
import { seededRandom } from '@keen-relay/core/numerics';
import { TARGETS } from './fuzz/targets.ts';
import { tryOne } from './fuzz/try.ts';

/** A sample; `npm run fuzz` reads a million. */
const SAMPLE = 400;

describe('a stranger’s file of any kind: no error but the reader’s own, no figure that is none, an answer in time', () => {
	test.each(TARGETS)('$name', (target) => {
		const random = seededRandom(41);
		const tried = Array.from({ length: SAMPLE }, () => tryOne(target, random));
		expect(tried.flatMap(({ fault }) => fault ?? [])).toEqual([]);
		expect(tried.filter(({ pastHeader }) => pastHeader).length).toBeGreaterThan(SAMPLE / 2);
	});
	test.each(TARGETS)('$name: the files that it begins from are read', (target) => {
		for (const seed of target.seeds) expect(target.read(seed).pastHeader, seed).toBe(true);
	});
});
