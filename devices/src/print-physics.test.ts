import { describe, expect, test } from 'vitest';
import { median, seededRandom } from '@keen-relay/core/numerics';
import {
	measureDeposits,
	PrintPhysics,
	PRINT_FAULTS,
	type Deposits,
	type PrintFault,
	type PrintFaultKind,
	type Stroke
} from './print-physics.ts';

/** Small square openings on the left and right, large ones between them. */
const PADS = Array.from({ length: 240 }, (_, i) => {
	const side = i % 4 === 3 ? 1.4 : i % 4 === 2 ? 0.6 : 0.3;
	return { xMm: (i % 20) * 6, yMm: Math.floor(i / 20) * 6, areaMm2: side * side, perimeterMm: 4 * side, minSideMm: side };
});
const small = PADS.flatMap((p, i) => (p.minSideMm < 0.5 ? [i] : []));
const large = PADS.flatMap((p, i) => (p.minSideMm > 1 ? [i] : []));
const plain: Stroke = { stroke: 'F', printsSinceWipe: 0, beadUsed: 0, minutesSincePrevious: 1, ageShare: 0, print: 20 };

function printed(fault: PrintFaultKind | null, stroke: Partial<Stroke> = {}, strength = 2, seed = 3): Deposits[] {
	const physics = new PrintPhysics(PADS, 100, seededRandom(seed), 'y');
	const faults: PrintFault[] = fault ? [{ kind: fault, strength }] : [];
	return Array.from({ length: 12 }, (_, i) => physics.print({ ...plain, print: 20 + i, ...stroke }, faults));
}
const middle = (
	list: readonly Deposits[],
	what: 'volume' | 'height' | 'area' | 'offsetX' | 'offsetY',
	pads: readonly number[] = PADS.map((_, i) => i)
) => median(list.flatMap((d) => pads.map((p) => d[what][p]!)));
const against = (fault: PrintFaultKind, what: 'volume' | 'height' | 'area', stroke: Partial<Stroke> = {}, pads?: readonly number[]) =>
	middle(printed(fault, stroke), what, pads) / middle(printed(null, stroke), what, pads);

describe('a print without a fault', () => {
	test('is a whole opening’s paste on large pads, less on small ones, where it scatters more', () => {
		const calm = printed(null);
		expect(middle(calm, 'volume', large)).toBeGreaterThan(0.95);
		expect(middle(calm, 'volume', small)).toBeLessThan(0.95);
		expect(middle(calm, 'volume', small)).toBeGreaterThan(0.6);
		const spread = (pads: readonly number[]) => {
			const logs = pads.flatMap((p) => {
				const own = calm.map((d) => Math.log(d.volume[p]!));
				const mid = median(own);
				return own.map((v) => Math.abs(v - mid));
			});
			return median(logs);
		};
		expect(spread(small)).toBeGreaterThan(1.2 * spread(large));
	});

	test('volume is area times height', () => {
		for (const d of printed(null)) for (let p = 0; p < PADS.length; p++) expect(d.area[p]! * d.height[p]!).toBeCloseTo(d.volume[p]!, 9);
	});

	test('the same seed prints the same, another one does not', () => {
		expect([...printed(null)[5]!.volume]).toEqual([...printed(null)[5]!.volume]);
		expect([...printed(null)[5]!.volume]).not.toEqual([...printed(null, {}, 2, 4)[5]!.volume]);
	});

	test('bridges are rare', () => {
		expect(printed(null).reduce((sum, d) => sum + d.bridges, 0)).toBeLessThan(3);
	});
});

describe('each fault does what it does on a line', () => {
	test('the whole print moves; it turns and grows about the middle', () => {
		const moved = Math.hypot(middle(printed('alignShift'), 'offsetX'), middle(printed('alignShift'), 'offsetY'));
		expect(moved).toBeGreaterThan(40);
		const left = PADS.flatMap((p, i) => (p.xMm === 0 ? [i] : []));
		const right = PADS.flatMap((p, i) => (p.xMm === 114 ? [i] : []));
		const turned = printed('alignRotation');
		expect(Math.abs(middle(turned, 'offsetY', right) - middle(turned, 'offsetY', left))).toBeGreaterThan(40);
		const grown = printed('alignStretch');
		expect(middle(grown, 'offsetX', right) - middle(grown, 'offsetX', left)).toBeGreaterThan(40);
	});

	test('a worn rear blade prints less with the rear stroke only', () => {
		expect(against('strokePair', 'volume', { stroke: 'F' })).toBeCloseTo(1, 1);
		expect(against('strokePair', 'volume', { stroke: 'R' })).toBeLessThan(0.92);
	});

	test('foil drag parts the strokes along their way', () => {
		const gap = middle(printed('strokeOffset', { stroke: 'F' }), 'offsetY') - middle(printed('strokeOffset', { stroke: 'R' }), 'offsetY');
		expect(gap).toBeGreaterThan(30);
	});

	test('openings clog between wipes, the small ones most, and a wipe brings them back', () => {
		expect(against('clogWipe', 'volume', { printsSinceWipe: 0 }, small)).toBeCloseTo(1, 1);
		const late = against('clogWipe', 'volume', { printsSinceWipe: 9 }, small);
		expect(late).toBeLessThan(0.88);
		expect(against('clogWipe', 'volume', { printsSinceWipe: 9 }, large)).toBeGreaterThan(late);
	});

	test('paste that ages fades over the run, a bead that shrinks until it is topped up, a pause until it is kneaded', () => {
		expect(against('pasteAging', 'volume', { ageShare: 0 })).toBeCloseTo(1, 1);
		expect(against('pasteAging', 'volume', { ageShare: 1 })).toBeLessThan(0.88);
		expect(against('topupStarve', 'volume', { beadUsed: 0 })).toBeCloseTo(1, 1);
		expect(against('topupStarve', 'volume', { beadUsed: 1 })).toBeLessThan(0.92);
		const physics = new PrintPhysics(PADS, 100, seededRandom(3), 'y');
		const fault: PrintFault[] = [{ kind: 'abandon', strength: 2 }];
		const level = (minutes: number) => middle([physics.print({ ...plain, minutesSincePrevious: minutes }, fault)], 'volume', small);
		const [before, first] = [level(1), level(40)];
		const later = [level(1), level(1), level(1), level(1)].at(-1)!;
		expect(first).toBeLessThan(0.9 * before);
		expect(later).toBeGreaterThan(0.93 * before);
	});

	test('a tilted blade, a sag, a nick and a blocked opening show where they are', () => {
		const calm = printed(null);
		const change = (fault: PrintFaultKind, stroke: Partial<Stroke> = {}) => {
			const now = printed(fault, stroke);
			const then = stroke.stroke ? printed(null, stroke) : calm;
			return PADS.map((_, p) => Math.log(middle(now, 'volume', [p]) / middle(then, 'volume', [p])));
		};
		const tilt = change('tiltAcross');
		expect(median(tilt.filter((_, p) => PADS[p]!.xMm > 100)) - median(tilt.filter((_, p) => PADS[p]!.xMm < 14))).toBeGreaterThan(0.2);
		const along = change('tiltAlong');
		expect(median(along.filter((_, p) => PADS[p]!.yMm > 55)) - median(along.filter((_, p) => PADS[p]!.yMm < 11))).toBeGreaterThan(0.2);
		const sag = change('supportLocal').filter((v) => v > 0.2).length;
		expect(sag).toBeGreaterThan(0);
		expect(sag).toBeLessThan(0.3 * PADS.length);
		expect(change('bladeNick', { stroke: 'R' }).filter((v) => v > 0.15).length).toBeGreaterThan(4);
		expect(change('bladeNick', { stroke: 'F' }).filter((v) => v > 0.15).length).toBeLessThan(3);
		const blocked = change('apertureBlocked').filter((v) => v < -0.6).length;
		expect(blocked).toBeGreaterThan(0);
		expect(blocked).toBeLessThan(4);
	});

	test('height and area part: a gap lifts, a slump spreads, a blade scoops the large ones', () => {
		expect(against('gapHigh', 'height')).toBeGreaterThan(1.25);
		expect(against('gapHigh', 'area')).toBeCloseTo(1, 1);
		expect(against('slump', 'area')).toBeGreaterThan(1.2);
		expect(against('slump', 'height')).toBeLessThan(0.85);
		expect(against('slump', 'volume')).toBeCloseTo(1, 1);
		expect(against('scoop', 'height', {}, large)).toBeLessThan(0.75);
		expect(against('scoop', 'height', {}, small)).toBeCloseTo(1, 1);
		expect(against('levelLow', 'volume')).toBeLessThan(0.8);
	});

	test('bridges come from force, or late before a wipe', () => {
		const count = (list: readonly Deposits[]) => list.reduce((sum, d) => sum + d.bridges, 0);
		expect(count(printed('bridgePressure'))).toBeGreaterThan(8);
		expect(count(printed('bridgeWipe', { printsSinceWipe: 0 }))).toBeLessThan(3);
		expect(count(printed('bridgeWipe', { printsSinceWipe: 7 }))).toBeGreaterThan(20);
	});
});

describe('the inspection unit', () => {
	test('adds little of its own; out of calibration its volume no longer is area times height', () => {
		const [deposit] = printed(null);
		const read = measureDeposits(deposit!, 100, seededRandom(1));
		const wrong = measureDeposits(deposit!, 100, seededRandom(1), [{ kind: 'measurement', strength: 2 }]);
		const ratio = (m: typeof read) => median(m.volumePct.map((v, i) => v / ((m.areaPct[i]! * m.heightUm[i]!) / 100)));
		expect(ratio(read)).toBeCloseTo(1, 2);
		expect(ratio(wrong)).toBeGreaterThan(1.2);
		expect(read.peakHeightUm).toBeNull();
		expect(measureDeposits(printed('peaks')[0]!, 100, seededRandom(1)).peakHeightUm).toHaveLength(PADS.length);
	});

	test('every fault can be asked for, alone or all at once, and no reading turns into nonsense', () => {
		const physics = new PrintPhysics(PADS, 100, seededRandom(2), 'x');
		const all = PRINT_FAULTS.map((kind) => ({ kind, strength: 3 }));
		for (const faults of [...PRINT_FAULTS.map((kind) => [{ kind, strength: 3 }]), all]) {
			const m = measureDeposits(
				physics.print({ ...plain, printsSinceWipe: 9, beadUsed: 1, ageShare: 1 }, faults),
				100,
				seededRandom(5),
				faults
			);
			for (const name of ['volumePct', 'heightUm', 'areaPct'] as const) expect(m[name].every((v) => v >= 0 && v < 3276)).toBe(true);
			expect(m.offsetXUm.every(Number.isFinite)).toBe(true);
			expect(m.bridges).toBeGreaterThanOrEqual(0);
		}
	});
});
