import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { replayAdaptiveWipe, wipeCosts, wipeInterval, type WipeClass } from './index.ts';

const drift = fc.record({
	b: fc.double({ min: -3, max: -0.1, noNaN: true }),
	sigma: fc.double({ min: 1, max: 8, noNaN: true }),
	level: fc.double({ min: 80, max: 105, noNaN: true })
});

/** A run that was wiped every so many prints and falls by b a print. */
const run = (b: number, level: number, every: number, panels = 60) =>
	Array.from({ length: panels }, (_, i) => ({ meanPct: level + b * (i % every), sinceWipe: i % every }));

describe('a run replayed with wipes only at risk', () => {
	test('never leaves the interval longer than the plant’s cap, and wipes after panels that were there', () => {
		fc.assert(
			fc.property(drift, fc.integer({ min: 2, max: 12 }), fc.integer({ min: 3, max: 20 }), ({ b, sigma, level }, every, longest) => {
				const { wipesAfter } = replayAdaptiveWipe(
					run(b, level, every),
					{ b, sigma, lowestPct: 60 },
					{ wipeS: 10, fixedEvery: every, longest }
				);
				let last = -1;
				for (const at of wipesAfter) {
					expect(at - last).toBeLessThanOrEqual(longest);
					expect(at).toBeLessThan(60);
					last = at;
				}
			})
		);
	});
	test('a greater risk that is taken wipes no more often', () => {
		fc.assert(
			fc.property(drift, fc.integer({ min: 2, max: 12 }), ({ b, sigma, level }, every) => {
				const wipes = (risk: number) =>
					replayAdaptiveWipe(run(b, level, every), { b, sigma, lowestPct: 70 }, { wipeS: 10, fixedEvery: every, risk }).wipesAfter.length;
				expect(wipes(0.2)).toBeLessThanOrEqual(wipes(0.001));
			})
		);
	});
});

describe('the interval', () => {
	test('a wider spread of pads never allows more prints', () => {
		fc.assert(
			fc.property(drift, ({ b, level }) => {
				const allows = (sigma: number) => wipeInterval(run(b, level, 8), sigma, 55).allows ?? 99;
				expect(allows(6)).toBeLessThanOrEqual(allows(3));
			})
		);
	});
	test('dearer defects never ask for a longer interval, dearer wipes never for a shorter one', () => {
		const c = fc.record({ mean: fc.double({ min: 80, max: 100, noNaN: true }), slope: fc.double({ min: -1.5, max: 0, noNaN: true }) });
		fc.assert(
			fc.property(c, ({ mean, slope }) => {
				const classes: WipeClass[] = [{ pads: 400, mean, sigma: 7, slope, lowestPct: 60 }];
				const best = (wipe: number, defect: number) => wipeCosts(wipe, 0.015, defect, classes).best;
				expect(best(18, 5)).toBeLessThanOrEqual(best(18, 0.5));
				expect(best(60, 0.5)).toBeGreaterThanOrEqual(best(18, 0.5));
			})
		);
	});
});
