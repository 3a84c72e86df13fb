import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PAD_CLASSES } from '../parts/index.ts';
import { checkLimits, DEPOSIT_LIMITS, judgeDeposit, judgePanelPaste, statisticalLimits, widened, type DepositCode } from './index.ts';

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
				const { codes, warn } = judgeDeposit(c, 0.4, d);
				expect(codes).toEqual(ORDER.filter((code) => codes.includes(code)));
				if (codes.length) expect(warn).toBe(false);
			})
		);
	});
	test('the same deposit mirrored is judged the same', () => {
		fc.assert(
			fc.property(padClass, deposit, (c, d) => {
				expect(judgeDeposit(c, 0.4, { ...d, offsetXUm: -d.offsetXUm, offsetYUm: -d.offsetYUm })).toEqual(judgeDeposit(c, 0.4, d));
			})
		);
	});
	test('a wider opening never makes an offset worse', () => {
		fc.assert(
			fc.property(padClass, deposit, (c, d) => {
				const off = (widthMm: number) => judgeDeposit(c, widthMm, d).codes.includes('offset');
				if (off(1.2)) expect(off(0.4)).toBe(true);
			})
		);
	});
	test('tighter limits fail whatever looser ones fail', () => {
		fc.assert(
			fc.property(padClass, deposit, fc.double({ min: 1, max: 15, noNaN: true }), (c, d, sigma) => {
				const tight = statisticalLimits(DEPOSIT_LIMITS[c], 95, sigma);
				const loose = judgeDeposit(c, 0.4, d).codes;
				const strict = judgeDeposit(c, 0.4, d, tight).codes;
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
				expect(widened(DEPOSIT_LIMITS, other)).toEqual([`${c} height`]);
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
