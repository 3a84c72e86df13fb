import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PAD_CLASS_NAMES, PAD_CLASSES } from '../parts/index.ts';
import {
	checkLimits,
	classSpreads,
	DEPOSIT_LIMITS,
	judgeDeposit,
	judgePanelPaste,
	statisticalLimits,
	widened,
	type DepositCode,
	type SignatureRun
} from './index.ts';

/** A pad as wide as it is long. */
const even = (mm: number) => ({ xMm: mm, yMm: mm });
const deposit = fc.record({
	volumePct: fc.double({ min: 0, max: 300, noNaN: true }),
	heightPct: fc.double({ min: 0, max: 250, noNaN: true }),
	areaPct: fc.double({ min: 0, max: 250, noNaN: true }),
	offsetXUm: fc.double({ min: -200, max: 200, noNaN: true }),
	offsetYUm: fc.double({ min: -200, max: 200, noNaN: true }),
	bridge: fc.boolean()
});
const padClass = fc.constantFrom(...PAD_CLASSES);
const ORDER: DepositCode[] = ['bridge', 'missing', 'insufficient', 'excess', 'offset', 'height', 'area'];

describe('a deposit', () => {
	test('its codes stand in the order of their weight, none twice, and a fail is no warning', () => {
		fc.assert(
			fc.property(padClass, deposit, (c, d) => {
				const { codes, warn } = judgeDeposit(c, even(0.4), d);
				expect(codes).toEqual(ORDER.filter((code) => codes.includes(code)));
				if (codes.length) expect(warn).toBe(false);
			})
		);
	});
	test('the same deposit mirrored is judged the same', () => {
		fc.assert(
			fc.property(padClass, deposit, (c, d) => {
				expect(judgeDeposit(c, even(0.4), { ...d, offsetXUm: -d.offsetXUm, offsetYUm: -d.offsetYUm })).toEqual(
					judgeDeposit(c, even(0.4), d)
				);
			})
		);
	});
	test('a wider opening never makes an offset worse', () => {
		fc.assert(
			fc.property(padClass, deposit, (c, d) => {
				const off = (widthMm: number) => judgeDeposit(c, even(widthMm), d).codes.includes('offset');
				if (off(1.2)) expect(off(0.4)).toBe(true);
			})
		);
	});
	test('tighter limits fail whatever looser ones fail', () => {
		fc.assert(
			fc.property(padClass, deposit, fc.double({ min: 1, max: 15, noNaN: true }), (c, d, sigma) => {
				const tight = statisticalLimits(DEPOSIT_LIMITS[c], 95, sigma);
				const loose = judgeDeposit(c, even(0.4), d).codes;
				const strict = judgeDeposit(c, even(0.4), d, tight).codes;
				for (const code of loose) if (code !== 'insufficient' && code !== 'excess') expect(strict).toContain(code);
				if (loose.includes('insufficient')) expect(strict).toContain('insufficient');
			})
		);
	});
});

describe('limits', () => {
	test('those to start from are in order, and nothing widens itself', () => {
		expect(() => checkLimits(DEPOSIT_LIMITS)).not.toThrow();
		expect(widened(DEPOSIT_LIMITS, structuredClone(DEPOSIT_LIMITS))).toEqual([]);
	});
	test('what is widened one way is tightened the other', () => {
		fc.assert(
			fc.property(padClass, fc.integer({ min: 1, max: 20 }), (c, by) => {
				const other = structuredClone(DEPOSIT_LIMITS);
				other[c].heightPct[0] -= by;
				expect(widened(DEPOSIT_LIMITS, other)).toEqual([`${PAD_CLASS_NAMES[c]} height`]);
				expect(widened(other, DEPOSIT_LIMITS)).toEqual([]);
			})
		);
	});
	test('a panel is never better with more fails or more warnings', () => {
		const rank = { pass: 0, review: 1, reject: 2 };
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 5000 }), fc.nat(5), fc.nat(200), fc.nat(4), (pads, fails, warnings, most) => {
				const at = rank[judgePanelPaste(pads, fails, warnings, most)];
				expect(rank[judgePanelPaste(pads, fails + 1, warnings, most)]).toBeGreaterThanOrEqual(at);
				expect(rank[judgePanelPaste(pads, fails, warnings + 1, most)]).toBeGreaterThanOrEqual(at);
			})
		);
	});
});

describe('limits from the spread', () => {
	const fixed = DEPOSIT_LIMITS.chip;

	test('mean and spreads in whole per cent, never outside the fixed ones', () => {
		expect(statisticalLimits(fixed, 95.2, 6.1, 4).volumePct).toEqual({ fail: [70, 120], warn: [70, 120] });
		expect(statisticalLimits(fixed, 95.2, 40, 4)).toEqual(fixed);
		fc.assert(
			fc.property(
				padClass,
				fc.double({ min: 0, max: 250, noNaN: true }),
				fc.double({ min: 0.1, max: 60, noNaN: true }),
				(c, level, sigma) => {
					const set = { ...DEPOSIT_LIMITS, [c]: statisticalLimits(DEPOSIT_LIMITS[c], level, sigma) };
					expect(() => checkLimits(set)).not.toThrow();
					expect(widened(DEPOSIT_LIMITS, set)).toEqual([]);
				}
			)
		);
	});

	test('a process far from the nominal sets no limits', () => {
		expect(statisticalLimits(fixed, 220, 3, 4)).toEqual(fixed);
		expect(statisticalLimits(fixed, 80, 3, 4)).toEqual(fixed);
	});

	test('the spread is that of single deposits of a class, with the panels that it comes from', () => {
		const pad = (refDes: string, c: 'chip' | 'large') => ({
			name: refDes,
			refDes,
			pin: null,
			padClass: c,
			xMm: 0,
			yMm: 0,
			minSideMm: 0.5,
			areaRatio: 1
		});
		const blank = new Float32Array(6).fill(100);
		const run: SignatureRun = {
			pads: [pad('R1', 'chip'), pad('R2', 'chip'), pad('J1', 'large')],
			panels: [0, 1].map((i) => ({
				serial: `P${i}`,
				tMin: i,
				stroke: 'F',
				printsSinceWipe: i,
				printsSinceTopup: i,
				minutesSincePrevious: 1
			})),
			volumePct: Float32Array.from([90, 110, 80, 94, 106, NaN]),
			heightUm: blank,
			areaPct: blank,
			offsetXUm: blank,
			offsetYUm: blank,
			bridges: [0, 0],
			foilUm: 100,
			strokeAxis: 'y'
		};
		const spreads = classSpreads(run);
		expect(spreads).toHaveLength(1);
		expect(spreads[0]).toMatchObject({ padClass: 'chip', panels: 2, readings: 4, meanPct: 100 });
		expect(spreads[0]!.sigmaPct).toBeCloseTo(Math.sqrt((100 + 100 + 36 + 36) / 3), 9);
	});
});
