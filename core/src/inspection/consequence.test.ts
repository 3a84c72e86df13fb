import { describe, expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import { consequenceLimits, DEFECTS_TO_WIDEN, DEPOSIT_LIMITS, jointOfCall, thinned, type DepositOutcome } from './index.ts';

const NOW = DEPOSIT_LIMITS.fineLead;

/** Deposits of a process whose defects rise with missing paste, excess paste and offset. */
function outcomes(n: number, seed: number, [level, low, high, offset]: [number, number, number, number], spread = 16): DepositOutcome[] {
	const random = seededRandom(seed);
	return Array.from({ length: n }, () => {
		const volumePct = Math.min(300, Math.max(5, 95 + spread * random.normal()));
		const offsetShare = Math.abs(0.05 * random.normal());
		const logit =
			level + (low * Math.max(0, 100 - volumePct)) / 10 + (high * Math.max(0, volumePct - 100)) / 10 + (offset * offsetShare) / 0.1;
		return { volumePct, offsetShare, defect: random.uniform() < 1 / (1 + Math.exp(-logit)) };
	});
}

describe('limits from what deposits led to', () => {
	test('the curve and the break-even come back from simulated outcomes', () => {
		const truth: [number, number, number, number] = [-7, 1.1, 0.6, 0.5];
		const found = consequenceLimits(outcomes(60_000, 3, truth), NOW, 0.2, 4);
		// P* = 0.05: the logit is ln(0.05/0.95); below 100 % it is reached at this volume.
		const expected = 100 - (10 * (Math.log(0.05 / 0.95) - truth[0])) / truth[1];
		const low = found.limits.find((l) => l.side === 'low')!;
		expect(low.value).not.toBeNull();
		expect(Math.abs(low.value! - expected)).toBeLessThan(3);
		expect(low.low).toBeLessThan(expected);
		expect(low.high).toBeGreaterThan(expected);
		expect(found.coefficients[1]).toBeCloseTo(truth[1], 0);
	});
	test('a dearer defect asks for a tighter limit', () => {
		const data = outcomes(30_000, 4, [-7, 1.1, 0.6, 0.5]);
		const at = (cost: number) => consequenceLimits(data, NOW, 0.2, cost).limits.find((l) => l.side === 'low')!.value!;
		expect(at(20)).toBeGreaterThan(at(4));
		expect(at(4)).toBeGreaterThan(at(1));
	});
	test('nothing is widened on fewer than 30 defects, whatever the curve says', () => {
		// Hardly any deposit fails, so the break-even lies far below the limit that holds.
		let few = outcomes(4000, 9, [-6.5, 0.45, 0.3, 0.2], 22);
		const bad = few.filter((o) => o.defect);
		few = [...few.filter((o) => !o.defect), ...bad.slice(0, DEFECTS_TO_WIDEN - 1)];
		const found = consequenceLimits(few, { ...NOW, volumePct: { ...NOW.volumePct, fail: [80, 110] } }, 1, 3);
		expect(found.defects).toBeLessThan(DEFECTS_TO_WIDEN);
		expect(found.mayWiden).toBe(false);
		for (const limit of found.limits) {
			if (limit.side === 'low') expect(limit.proposed).toBeGreaterThanOrEqual(limit.now);
			else expect(limit.proposed).toBeLessThanOrEqual(limit.now);
		}
	});
	test('with enough defects the careful end of the interval is what widens', () => {
		const found = consequenceLimits(
			outcomes(40_000, 12, [-6, 0.9, 0.5, 0.4], 22),
			{ ...NOW, volumePct: { ...NOW.volumePct, fail: [85, 115] } },
			1,
			3
		);
		const low = found.limits.find((l) => l.side === 'low')!;
		expect(found.mayWiden).toBe(true);
		expect(low.proposed).toBeLessThan(85);
		expect(low.proposed).toBeCloseTo(low.high, 6);
		expect(found.verdict.level).toBe('watch');
	});
	test('outside the range that was seen nothing is said', () => {
		const found = consequenceLimits(outcomes(20_000, 7, [-6, 0.2, 0.2, 0.1], 6), NOW, 0.5, 1.2);
		for (const limit of found.limits) {
			expect(limit.value).toBeNull();
			expect(limit.proposed).toBe(limit.now);
		}
	});
	test('good deposits that were sampled weigh for those left out', () => {
		const all = outcomes(30_000, 21, [-6, 0.9, 0.5, 0.4]);
		const good = all.filter((o) => !o.defect);
		const sampled = thinned(all, Math.ceil(good.length / 5));
		expect(sampled.filter((o) => o.defect)).toEqual(all.filter((o) => o.defect));
		expect(new Set(sampled.filter((o) => !o.defect).map((o) => o.weight))).toEqual(new Set([5]));
		const [whole, part] = [consequenceLimits(all, NOW, 0.2, 4), consequenceLimits(sampled, NOW, 0.2, 4)];
		expect(Math.round(part.deposits / 100)).toBe(Math.round(whole.deposits / 100));
		expect(part.limits[0]!.value!).toBeCloseTo(whole.limits[0]!.value!, -1);
	});
	test('defects that have nothing to do with the paste say nothing of its limits', () => {
		const random = seededRandom(44);
		const chance = outcomes(8000, 15, [-30, 0, 0, 0]).map((o) => ({ ...o, defect: random.chance(0.01) }));
		const found = consequenceLimits(chance, NOW, 0.2, 4);
		for (const slope of found.coefficients.slice(1)) expect(slope).toBeGreaterThanOrEqual(0);
		// Along the curve the chance only rises away from the nominal.
		const at = (pct: number) =>
			found.curve.reduce((a, b) => (Math.abs(b.volumePct - pct) < Math.abs(a.volumePct - pct) ? b : a)).probability;
		expect(at(60)).toBeGreaterThanOrEqual(at(95) - 1e-12);
		expect(at(130)).toBeGreaterThanOrEqual(at(105) - 1e-12);
		for (const limit of found.limits) expect(limit.proposed).toBe(limit.now);
	});
	test('a call is put to its pin’s deposit; one without a pin to the part’s deposit that is farthest off, thick or thin', () => {
		const volume = [100, 55, 160, 98];
		const pads = ['1', '2', '3', null].map((pin, index) => ({ index, pin }));
		expect(jointOfCall(pads, '3', (i) => volume[i]!)).toBe(2);
		expect(jointOfCall(pads, null, (i) => volume[i]!)).toBe(1);
		expect(jointOfCall(pads, '9', (i) => volume[i]!)).toBe(1);
		expect(jointOfCall([], null, () => 100)).toBeNull();
	});
	test('too few defects: no data, and the limits are kept', () => {
		const found = consequenceLimits(
			Array.from({ length: 500 }, (_, i) => ({ volumePct: 90 + (i % 20), offsetShare: 0, defect: i < 3 })),
			NOW,
			0.2,
			4
		);
		expect(found.verdict.level).toBe('noData');
		expect(found.limits).toEqual([]);
		expect(found.verdict.statement).toContain('3 defects on 500');
	});
	test.each([
		[0, 4, 'stopCost'],
		[2, 1, 'defectCost']
	])('costs that make no sense are named: %d and %d', (stop, defect, field) => {
		expect(() => consequenceLimits([], NOW, stop, defect)).toThrow(field);
	});
	test('a volume that cannot be is named by its place', () => {
		expect(() => consequenceLimits([{ volumePct: -3, offsetShare: 0, defect: false }], NOW, 1, 5)).toThrow('outcomes[0].volumePct');
	});
});
