import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { GUESSING, Guessing, keysOf, type Counted, type Try } from './index.ts';

const MINUTE = 60_000;
const stranger = (more: Partial<Try> = {}): Try => ({ person: 'anwen', address: '10.0.0.9', screen: '10.0.0.9', known: false, ...more });
const known = (more: Partial<Try> = {}): Try => ({ person: 'anwen', address: '10.0.0.2', screen: 'desk', known: true, ...more });
/** Tries until one is refused. */
const answered = (guessing: Guessing, of: (i: number) => Try, nowMs = 0, most = 1000) => {
	let n = 0;
	while (n < most && guessing.take(of(n), nowMs) === 0) n++;
	return n;
};

describe('tries of a PIN', () => {
	test('a badge has ten at screens that do not know it, from however many addresses', () => {
		const guessing = new Guessing();
		expect(answered(guessing, (i) => stranger({ address: `10.0.0.${i}`, screen: `10.0.0.${i}` }))).toBe(GUESSING.person.burst);
		// Two thirds of a try a minute: the next one after 90 s.
		expect(guessing.take(stranger(), 0)).toBe(90);
		expect(guessing.take(stranger(), 1.49 * MINUTE)).toBe(1);
		expect(guessing.take(stranger(), 1.5 * MINUTE)).toBe(0);
		expect(guessing.take(stranger(), 1.5 * MINUTE)).toBeGreaterThan(0);
	});
	test('an address has thirty over all badges, and the plant a hundred over all addresses', () => {
		expect(answered(new Guessing(), (i) => stranger({ person: `p${i}` }))).toBe(GUESSING.address.burst);
		expect(answered(new Guessing(), (i) => stranger({ person: `p${i}`, address: `a${i}` }))).toBe(GUESSING.plant.burst);
	});
	test('none of it touches the person at a screen that knows them, nor a colleague there', () => {
		const guessing = new Guessing();
		answered(guessing, (i) => stranger({ address: `a${i}`, person: i % 2 ? 'anwen' : `p${i}` }));
		expect(guessing.take(known(), 0)).toBe(0);
		expect(guessing.take(known({ person: 'basil' }), 0)).toBe(0);
	});
	test('at a screen that knows them a person has thirty, then six a minute: ten seconds are the longest wait', () => {
		const guessing = new Guessing();
		expect(answered(guessing, () => known())).toBe(GUESSING.known.burst);
		expect(guessing.take(known(), 0)).toBe(10);
		expect(guessing.take(known(), 9_900)).toBe(1);
		expect(guessing.take(known(), 10_000)).toBe(0);
	});
	test('a right one gives its try back, and ends the waits', () => {
		const guessing = new Guessing();
		for (let i = 0; i < 50; i++) {
			expect(guessing.take(stranger(), 0)).toBe(0);
			guessing.right(stranger(), 0);
		}
		for (let i = 0; i < 5; i++) guessing.wrong(stranger(), 0);
		guessing.right(stranger(), 0);
		expect(guessing.wrong(stranger(), 0)).toBe(0);
	});
	test('wrong answers come at once three times, then after 1, 2, 4 and 8 s; five quiet minutes begin anew; a colleague does not wait', () => {
		const guessing = new Guessing();
		expect(Array.from({ length: 9 }, () => guessing.wrong(known(), 0))).toEqual([0, 0, 0, 1000, 2000, 4000, 8000, 8000, 8000]);
		expect(guessing.wrong(known({ person: 'basil' }), 0)).toBe(0);
		expect(guessing.wrong(known({ screen: 'hall' }), 0)).toBe(0);
		expect(guessing.wrong(known(), 5 * MINUTE)).toBe(8000);
		expect(guessing.wrong(known(), 10 * MINUTE + 1)).toBe(0);
	});
	test('however tries come, strangers guess a badge ten times and forty more an hour', () => {
		const tries = fc.array(fc.record({ gapS: fc.integer({ min: 0, max: 60 }), address: fc.integer({ min: 0, max: 5 }) }), {
			maxLength: 300
		});
		fc.assert(
			fc.property(tries, (list) => {
				const guessing = new Guessing();
				let [nowMs, n] = [0, 0];
				for (const { gapS, address } of list) {
					nowMs += gapS * 1000;
					if (guessing.take(stranger({ address: `a${address}` }), nowMs) === 0) n++;
				}
				expect(n).toBeLessThanOrEqual(GUESSING.person.burst + Math.floor((nowMs / 3_600_000) * 40 + 1e-6));
			})
		);
	});
	test('two that count in one map count together, and keep nothing anywhere else', () => {
		const kept = new Map<string, Counted>();
		expect(answered(new Guessing(kept), () => stranger(), 0, 6)).toBe(6);
		expect(answered(new Guessing(kept), () => stranger())).toBe(GUESSING.person.burst - 6);
		for (let i = 0; i < 3; i++) new Guessing(kept).wrong(known(), 0);
		expect(new Guessing(kept).wrong(known(), 0)).toBe(1000);
	});
	test('a try touches what it says and nothing else', () => {
		for (const of of [stranger(), known()]) {
			const kept = new Map<string, Counted>();
			const guessing = new Guessing(kept);
			guessing.take(of, 0);
			guessing.wrong(of, 0);
			expect([...kept.keys()].sort()).toEqual(keysOf(of).sort());
			expect(keysOf(of)).toHaveLength(of.known ? 2 : 4);
			guessing.right(of, 0);
			expect([...kept.keys()].every((key) => keysOf(of).includes(key))).toBe(true);
		}
	});
});
