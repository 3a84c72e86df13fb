import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { AREA_RATIO_LIMIT, checkStencil, forecastOpening, STOCK_FOILS_MM, transfer, type NamedOpening, type Wall } from './index.ts';

const rectangle = (lengthMm: number, widthMm: number, name = 'R1 opening 1'): NamedOpening => ({
	name,
	areaMm2: lengthMm * widthMm,
	perimeterMm: 2 * (lengthMm + widthMm),
	widthMm,
	lengthMm
});
const foil = fc.double({ min: 0.05, max: 0.25, noNaN: true });
const side = fc.double({ min: 0.15, max: 4, noNaN: true });

describe('ratios', () => {
	test('both fall as the foil grows, the volume grows', () => {
		fc.assert(
			fc.property(side, side, foil, (a, b, mm) => {
				const opening = rectangle(Math.max(a, b), Math.min(a, b));
				const thin = forecastOpening(opening, mm);
				const thick = forecastOpening(opening, mm * 1.1);
				expect(thick.areaRatio).toBeLessThan(thin.areaRatio);
				expect(thick.aspectRatio).toBeLessThan(thin.aspectRatio);
				expect(thick.volumeNl).toBeGreaterThan(thin.volumeNl);
			})
		);
	});

	test('they have no unit: an opening and a foil twice as large give the same', () => {
		fc.assert(
			fc.property(side, side, fc.double({ min: 0.05, max: 0.14, noNaN: true }), (a, b, mm) => {
				const small = forecastOpening(rectangle(Math.max(a, b), Math.min(a, b)), mm);
				const large = forecastOpening(rectangle(2 * Math.max(a, b), 2 * Math.min(a, b)), 2 * mm);
				expect(large.areaRatio).toBeCloseTo(small.areaRatio, 9);
				expect(large.aspectRatio).toBeCloseTo(small.aspectRatio, 9);
				expect(large.volumeNl).toBeCloseTo(8 * small.volumeNl, 6);
			})
		);
	});

	test('at its thickest foil an opening meets its limit exactly, and passes', () => {
		fc.assert(
			fc.property(side, side, (a, b) => {
				const opening = rectangle(Math.max(a, b), Math.min(a, b));
				const { thickestMm } = forecastOpening(opening, 0.1);
				fc.pre(thickestMm > 0.03 && thickestMm < 0.29);
				const at = forecastOpening(opening, thickestMm);
				expect(at.use).toBeCloseTo(1, 9);
				expect(at.result).toBe('marginal');
				expect(forecastOpening(opening, thickestMm * 1.02).result).toBe('fail');
			})
		);
	});

	test('over five widths long the aspect ratio rules, up to five the area ratio', () => {
		expect(forecastOpening(rectangle(1.5, 0.3), 0.12).ruledBy).toBe('area');
		expect(forecastOpening(rectangle(1.51, 0.3), 0.12).ruledBy).toBe('aspect');
	});

	test.each([0, 0.02, 0.31, 120, NaN])('a foil of %f mm is refused', (mm) => {
		expect(() => forecastOpening(rectangle(1, 0.5), mm)).toThrow('foilMm');
	});

	test('finer walls allow smaller openings', () => {
		const order: Wall[] = ['laser', 'fineGrain', 'electropolished', 'nanoCoated'];
		const limits = order.map((wall) => AREA_RATIO_LIMIT[wall].limit);
		expect(limits).toEqual([...limits].sort((a, b) => b - a));
		const small = rectangle(0.3, 0.3);
		expect(forecastOpening(small, 0.12, 'laser').result).toBe('fail');
		expect(forecastOpening(small, 0.12, 'nanoCoated').result).toBe('pass');
	});
});

describe('transfer', () => {
	test('more area ratio delivers more and scatters less', () => {
		let before = { efficiency: 0, cvPct: Infinity };
		for (let ar = 0.3; ar < 1.6; ar += 0.05) {
			const now = transfer(ar);
			expect(now.efficiency).toBeGreaterThan(before.efficiency);
			expect(now.cvPct).toBeLessThan(before.cvPct);
			expect(now.efficiency).toBeLessThanOrEqual(1);
			before = now;
		}
	});

	test('a coated wall delivers more at the same ratio', () => {
		expect(transfer(0.6, 'nanoCoated').efficiency).toBeGreaterThan(transfer(0.6).efficiency);
	});
});

describe('the check of a stencil', () => {
	const openings = [rectangle(2, 1.2, 'J1 opening 1'), rectangle(0.3, 0.3, 'C1 opening 1'), rectangle(1.4, 0.25, 'U1 pin 7')];

	test('the ranking is by use of the limit, ties by order in the file', () => {
		const check = checkStencil([rectangle(0.3, 0.3, 'a'), rectangle(0.3, 0.3, 'b'), rectangle(0.25, 0.25, 'c')], 0.1, 'laser');
		expect(check.ranking).toEqual([2, 0, 1]);
	});

	test('counts add up to the openings', () => {
		fc.assert(
			fc.property(fc.array(fc.tuple(side, side), { minLength: 1, maxLength: 30 }), foil, (sizes, mm) => {
				const list = sizes.map(([a, b], i) => rectangle(Math.max(a, b), Math.min(a, b), String(i)));
				const { counts, ranking, forecasts } = checkStencil(list, mm, 'laser');
				expect(counts.pass + counts.marginal + counts.fail).toBe(list.length);
				for (let i = 1; i < ranking.length; i++)
					expect(forecasts[ranking[i]!]!.use).toBeGreaterThanOrEqual(forecasts[ranking[i - 1]!]!.use);
			})
		);
	});

	test('a foil is said to work exactly when nothing fails at it', () => {
		fc.assert(
			fc.property(fc.array(fc.tuple(side, side), { minLength: 1, maxLength: 20 }), (sizes) => {
				const list = sizes.map(([a, b], i) => rectangle(Math.max(a, b), Math.min(a, b), String(i)));
				const working = checkStencil(list, 0.1, 'laser').workingFoilsMm;
				for (const mm of STOCK_FOILS_MM) expect(working.includes(mm)).toBe(checkStencil(list, mm, 'laser').counts.fail === 0);
			})
		);
	});

	test('the statement names the worst by its own name', () => {
		expect(checkStencil(openings, 0.15, 'laser').verdict.statement).toBe(
			'150 µm does not work: 1 of 3 openings release badly, C1 opening 1 worst.'
		);
	});

	test('close to the limit is watched, with the openings to watch', () => {
		const { verdict, counts } = checkStencil([rectangle(0.27, 0.27, 'C9 opening 2')], 0.1, 'laser');
		expect(counts.marginal).toBe(1);
		expect(verdict.level).toBe('watch');
		expect(verdict.doNext[0]).toBe('Watch those openings at paste check');
	});

	test('a thinner foil than needed says which carries more paste', () => {
		const { verdict } = checkStencil([rectangle(2, 1.2)], 0.08, 'laser');
		expect(verdict).toMatchObject({ level: 'good', doNext: ['150 µm would work too and carries more paste'] });
	});

	test('the working holds the formula with its numbers and the source of the limit', () => {
		const [reason] = checkStencil(openings, 0.12, 'laser').verdict.because;
		expect(reason).toMatchObject({ limit: 'at least 0.66, plain laser cut', source: 'IPC-7525 (value from memory)' });
		expect(reason!.formula).toBe('0.0900 mm² / (1.200 mm · 0.12 mm)');
		expect(reason!.value).toBeCloseTo(0.625, 9);
	});

	test('nothing to check is no data', () => {
		expect(checkStencil([], 0.1, 'laser').verdict.level).toBe('noData');
	});
});
