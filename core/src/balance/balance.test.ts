import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { panelsLeft, piecesLeft } from '../feeders/index.ts';
import { dealParts, ovenHeadwayS, placingHours, type MachineLoad, type PartLoad } from './index.ts';

/** Every deal there is: the optimum that the descent is held against. */
function bestOfAll(parts: readonly PartLoad[], machines: readonly MachineLoad[]): number {
	let best = Infinity;
	const go = (i: number, loads: number[], free: number[]) => {
		if (Math.max(...loads) >= best) return;
		const part = parts[i];
		if (!part) {
			best = Math.max(...loads);
			return;
		}
		machines.forEach((_, m) => {
			const each = part.secondsEach[m];
			if (each === null || each === undefined || free[m]! < part.slots[m]!) return;
			go(
				i + 1,
				loads.map((l, k) => (k === m ? l + part.count * each : l)),
				free.map((f, k) => (k === m ? f - part.slots[m]! : f))
			);
		});
	};
	go(
		0,
		machines.map((m) => m.fixedS),
		machines.map((m) => m.slots)
	);
	return best;
}

const partLoads = fc.array(
	fc.record({
		count: fc.integer({ min: 1, max: 60 }),
		slots: fc.integer({ min: 1, max: 3 }),
		fast: fc.double({ min: 0.05, max: 0.2, noNaN: true }),
		slow: fc.option(fc.double({ min: 0.1, max: 0.5, noNaN: true }), { nil: null })
	}),
	{ minLength: 1, maxLength: 9 }
);
const toParts = (list: { count: number; slots: number; fast: number; slow: number | null }[]): PartLoad[] =>
	list.map((p, i) => ({ id: `P${i}`, count: p.count, slots: [p.slots, p.slots], secondsEach: [p.fast, p.slow] }));
const TWO: MachineLoad[] = [
	{ slots: 40, fixedS: 4 },
	{ slots: 40, fixedS: 5 }
];

describe('dealing parts', () => {
	test('on small cases the deal is the best of all deals, and says that it is proven', () => {
		fc.assert(
			fc.property(partLoads, (list) => {
				const parts = toParts(list);
				const deal = dealParts(parts, TWO);
				const best = bestOfAll(parts, TWO);
				expect(deal.left).toEqual([]);
				expect(deal.worstS).toBeGreaterThanOrEqual(best - 1e-9);
				expect(deal.worstS).toBeLessThanOrEqual(best + 1e-6);
				expect(deal.proven).toBe(true);
			}),
			{ numRuns: 60 }
		);
	});

	test('loads are what the deal says, and no deal beats its bound', () => {
		fc.assert(
			fc.property(partLoads, (list) => {
				const parts = toParts(list);
				const deal = dealParts(parts, TWO);
				const loads = TWO.map((m) => m.fixedS);
				for (const part of parts) {
					const m = deal.machineOf[part.id]!;
					loads[m]! += part.count * part.secondsEach[m]!;
				}
				loads.forEach((load, m) => expect(deal.loadS[m]).toBeCloseTo(load, 9));
				expect(deal.worstS).toBeGreaterThanOrEqual(deal.boundS - 1e-9);
			}),
			{ numRuns: 60 }
		);
	});

	test('slots are never overfilled; what does not fit is left with the reason', () => {
		const parts = toParts(Array.from({ length: 8 }, () => ({ count: 10, slots: 2, fast: 0.1, slow: 0.1 })));
		const deal = dealParts(parts, [
			{ slots: 5, fixedS: 0 },
			{ slots: 5, fixedS: 0 }
		]);
		expect(Object.keys(deal.machineOf)).toHaveLength(4);
		expect(deal.left).toHaveLength(4);
		expect(deal.left[0]!.reason).toBe('slots run short: it needs 2 more');
	});

	test('a part that no machine can place is left, the others are dealt', () => {
		const deal = dealParts(
			[{ id: 'X', count: 1, slots: [1, 1], secondsEach: [null, null] }, ...toParts([{ count: 3, slots: 1, fast: 0.1, slow: null }])],
			TWO
		);
		expect(deal.left).toEqual([{ id: 'X', reason: 'no machine of this line can place it' }]);
		expect(deal.machineOf).toEqual({ P0: 0 });
	});

	test('the same seed gives the same deal', () => {
		const parts = toParts(Array.from({ length: 12 }, (_, i) => ({ count: 5 + i, slots: 1, fast: 0.1 + i / 100, slow: 0.12 })));
		expect(dealParts(parts, TWO, 5)).toEqual(dealParts(parts, TWO, 5));
	});

	test('nothing to deal leaves the fixed time', () => {
		expect(dealParts([], TWO)).toMatchObject({ worstS: 5, left: [], machineOf: {} });
	});
});

describe('run-out and takt', () => {
	test('panels left never rise with the loss, and one panel more would not be fed', () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 20000 }), fc.integer({ min: 1, max: 400 }), (pieces, perPanel) => {
				const panels = panelsLeft(pieces, perPanel, 0.01);
				expect(panels).toBeLessThanOrEqual(panelsLeft(pieces, perPanel, 0));
				expect((panels + 1) * perPanel).toBeGreaterThan(pieces * 0.99 - 1e-6);
				expect(panels * perPanel).toBeLessThanOrEqual(pieces * 0.99 + 1e-6);
			})
		);
	});

	test('a reel holds what was loaded less what was taken and lost, and never less than nothing', () => {
		expect(piecesLeft({ loaded: 500, panels: 12, lost: 3 }, 40)).toBe(17);
		expect(piecesLeft({ loaded: 500, panels: 13, lost: 0 }, 40)).toBe(0);
	});

	test('impossible counts are refused by name', () => {
		expect(() => panelsLeft(100, 0)).toThrow('perPanel: expected more than 0 pieces');
		expect(() => panelsLeft(-1, 4)).toThrow('pieces');
		expect(() => panelsLeft(100, 4, 2)).toThrow('lossShare');
	});

	test('the oven’s pace is its headway: a faster belt or a smaller gap lets panels in sooner', () => {
		expect(ovenHeadwayS(200, 60, 80)).toBeLessThan(ovenHeadwayS(200, 60, 70));
		expect(ovenHeadwayS(200, 40, 70)).toBeLessThan(ovenHeadwayS(200, 60, 70));
	});
});

test('panels take the slowest placer’s time each; none are left, or no placer, is no time', () => {
	const plan = { machines: [{ totalS: 36 }, { totalS: 72 }] as Parameters<typeof placingHours>[0]['machines'] };
	expect([placingHours(plan, 100), placingHours(plan, 0), placingHours(plan, -3)]).toEqual([2, 0, 0]);
	expect(placingHours({ machines: [] }, 100)).toBe(0);
});
