import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { layoutBank, pickPosition, type FeederNeed } from './index.ts';

describe('slots of a bank', () => {
	/** Every order at every start. */
	function cheapest(needs: readonly FeederNeed[], bank: { slots: number; cameraSlot: number }): number {
		let best = Infinity;
		const go = (left: readonly FeederNeed[], order: FeederNeed[]) => {
			if (left.length === 0) {
				const total = order.reduce((sum, need) => sum + need.slots, 0);
				for (let start = 1; start + total - 1 <= bank.slots; start++) {
					let slot = start;
					let cost = 0;
					for (const need of order) {
						cost += need.picks * Math.abs(pickPosition(slot, need.slots) - bank.cameraSlot);
						slot += need.slots;
					}
					best = Math.min(best, cost);
				}
				return;
			}
			for (const need of left)
				go(
					left.filter((other) => other !== need),
					[...order, need]
				);
		};
		go(needs, []);
		return best;
	}

	test('within 2 % of the best contiguous order, camera anywhere', () => {
		fc.assert(
			fc.property(
				fc.array(fc.record({ picks: fc.integer({ min: 1, max: 120 }), slots: fc.integer({ min: 1, max: 3 }) }), {
					minLength: 1,
					maxLength: 6
				}),
				fc.integer({ min: 1, max: 20 }),
				(list, cameraSlot) => {
					const needs = list.map((need, i) => ({ id: `F${i}`, ...need }));
					const bank = { slots: 20, pitchMm: 1, cameraSlot };
					expect(layoutBank(needs, bank).costPickMm).toBeLessThanOrEqual(cheapest(needs, bank) * 1.02 + 1e-9);
				}
			),
			{ numRuns: 40 }
		);
	});

	test('no two feeders share a slot and none hangs over the end', () => {
		fc.assert(
			fc.property(
				fc.array(fc.record({ picks: fc.integer({ min: 0, max: 90 }), slots: fc.integer({ min: 1, max: 4 }) }), { maxLength: 12 }),
				(list) => {
					const needs = list.map((need, i) => ({ id: `F${i}`, ...need }));
					const { firstSlot } = layoutBank(needs, { slots: 60, pitchMm: 14, cameraSlot: 20 });
					const taken = needs.flatMap((need) => Array.from({ length: need.slots }, (_, k) => firstSlot[need.id]! + k));
					expect(new Set(taken).size).toBe(taken.length);
					for (const slot of taken) expect(slot >= 1 && slot <= 60).toBe(true);
				}
			),
			{ numRuns: 40 }
		);
	});

	test('on one side of the camera the order is that of picks by slot, whatever the order they come in', () => {
		const needs = [
			{ id: 'A', picks: 30, slots: 1 },
			{ id: 'B', picks: 80, slots: 2 },
			{ id: 'C', picks: 50, slots: 1 },
			{ id: 'D', picks: 60, slots: 3 }
		];
		const bank = { slots: 7, pitchMm: 14, cameraSlot: 1 };
		for (const order of [needs, [...needs].reverse()]) {
			const { firstSlot, costPickMm } = layoutBank(order, bank);
			expect(firstSlot).toEqual({ C: 1, B: 2, A: 4, D: 5 });
			expect(costPickMm).toBeCloseTo(7140, 9);
		}
	});

	test('on both sides of it the optimum, with room left over at the better end', () => {
		const needs = [
			{ id: 'A', picks: 30, slots: 1 },
			{ id: 'B', picks: 80, slots: 2 },
			{ id: 'C', picks: 50, slots: 1 },
			{ id: 'D', picks: 60, slots: 3 }
		];
		const { firstSlot, costPickMm } = layoutBank(needs, { slots: 9, pitchMm: 14, cameraSlot: 5 });
		expect(costPickMm).toBeCloseTo(4620, 9);
		const cost = needs.reduce((sum, { id, picks, slots }) => sum + picks * Math.abs(pickPosition(firstSlot[id]!, slots) - 5) * 14, 0);
		expect(cost).toBeCloseTo(4620, 9);
	});

	test('a feeder picks at the middle of its slots', () => {
		expect([pickPosition(3, 1), pickPosition(3, 2), pickPosition(3, 3)]).toEqual([3, 3.5, 4]);
	});

	test('alone it stands at the camera, at the end where the camera is beyond it; nothing stands nowhere', () => {
		const alone = [{ id: 'A', picks: 10, slots: 1 }];
		expect(layoutBank(alone, { slots: 9, pitchMm: 10, cameraSlot: 7 })).toEqual({ firstSlot: { A: 7 }, costPickMm: 0 });
		expect(layoutBank(alone, { slots: 9, pitchMm: 10, cameraSlot: 12 })).toEqual({ firstSlot: { A: 9 }, costPickMm: 300 });
		expect(layoutBank([], { slots: 9, pitchMm: 10, cameraSlot: 12 })).toEqual({ firstSlot: {}, costPickMm: 0 });
	});

	test('a bank that is just full is laid out', () => {
		const full = [
			{ id: 'A', picks: 10, slots: 2 },
			{ id: 'B', picks: 90, slots: 2 }
		];
		expect(layoutBank(full, { slots: 4, pitchMm: 10, cameraSlot: 1 }).firstSlot).toEqual({ B: 1, A: 3 });
	});

	test('too many feeders are refused with how many slots they need', () => {
		expect(() => layoutBank([{ id: 'A', picks: 1, slots: 5 }], { slots: 4, pitchMm: 14, cameraSlot: 1 })).toThrow(
			'bank.slots: expected at least 5 slots for 1 feeders'
		);
	});
});
