import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { spliceRoute, type Splice } from './splice-route.ts';

const splice = (name: string, xM: number, deadlineS: number, more: Partial<Splice> = {}): Splice => ({
	name,
	xM,
	yM: 0,
	releaseS: 0,
	deadlineS,
	serviceS: 60,
	...more
});
const names = (route: ReturnType<typeof spliceRoute>) => route.stops.map((s) => s.name).join(' ');

describe('the round of splices', () => {
	test('by deadline alone the line stops for 8 s; going past the near one first it does not', () => {
		const route = spliceRoute([splice('A', 0, 100), splice('B', 12, 193), splice('C', 1, 195)]);
		expect(names(route)).toBe('A C B');
		expect(route).toMatchObject({ stopS: 0, proven: true });
		expect(route.stops.map((s) => [s.leaveS, s.startS, s.finishS, s.spareS])).toEqual([
			[0, 0, 60, 40],
			[60, 61, 121, 74],
			[121, 132, 192, 1]
		]);
	});

	test('a splice that is not yet ready is waited for, and left for in time', () => {
		const route = spliceRoute([splice('A', 5, 400, { releaseS: 100 })]);
		expect(route.stops[0]).toEqual({ name: 'A', leaveS: 95, startS: 100, finishS: 160, spareS: 240 });
	});

	test('what cannot be in time says by how much: the latest counts, not the sum', () => {
		const route = spliceRoute([splice('A', 0, 30), splice('B', 0, 30)]);
		expect(route.stopS).toBe(90);
		expect(spliceRoute([splice('A', 0, 60)]).stopS).toBe(0);
		expect(spliceRoute([splice('A', 0, 59)]).stopS).toBe(1);
	});

	test('from where the technician stands, at their pace, over both axes', () => {
		const route = spliceRoute([splice('A', 4, 1000, { yM: 2 })], { xM: 0, yM: 0 }, 0.5);
		expect(route.stops[0]!.startS).toBe(12);
		expect(spliceRoute([])).toEqual({ stops: [], stopS: 0, proven: true });
	});

	test('figures that cannot be are named', () => {
		expect(() => spliceRoute([splice('A', NaN, 1)])).toThrow(/splices.0.xM/);
		expect(() => spliceRoute([splice('A', 0, 1, { serviceS: -1 })])).toThrow(/splices.0.serviceS/);
		expect(() => spliceRoute([splice('A', 0, 1, { releaseS: -1 })])).toThrow(/splices.0.releaseS/);
		expect(() => spliceRoute([], undefined, 0)).toThrow(/walkMPerS/);
	});
});

/** Every order, one by one. */
function shortest(splices: readonly Splice[]): number {
	let best = Infinity;
	const go = (left: readonly Splice[], at: number, x: number, latest: number) => {
		if (latest >= best) return;
		if (left.length === 0) return void (best = latest);
		for (const s of left) {
			const finish = Math.max(at + Math.abs(s.xM - x), s.releaseS) + s.serviceS;
			go(
				left.filter((other) => other !== s),
				finish,
				s.xM,
				Math.max(latest, finish - s.deadlineS)
			);
		}
	};
	go(splices, 0, 0, -Infinity);
	return best;
}

const any = fc.record({
	xM: fc.integer({ min: 0, max: 30 }),
	releaseS: fc.integer({ min: 0, max: 200 }),
	deadlineS: fc.integer({ min: 0, max: 500 }),
	serviceS: fc.integer({ min: 20, max: 90 })
});

test('no order of up to seven splices stops the line for less', () => {
	fc.assert(
		fc.property(fc.array(any, { minLength: 1, maxLength: 7 }), (list) => {
			const splices = list.map((s, i) => splice(String(i), s.xM, s.deadlineS, s));
			const route = spliceRoute(splices);
			expect(-Math.min(...route.stops.map((s) => s.spareS))).toBeCloseTo(shortest(splices), 9);
			expect(new Set(route.stops.map((s) => s.name)).size).toBe(splices.length);
		}),
		{ numRuns: 60 }
	);
});

test('more than twelve are not worse than by their deadlines, and say that they are not proven', () => {
	fc.assert(
		fc.property(fc.array(any, { minLength: 13, maxLength: 16 }), (list) => {
			const splices = list.map((s, i) => splice(String(i), s.xM, s.deadlineS, s));
			const route = spliceRoute(splices);
			expect(route.proven).toBe(false);
			expect(new Set(route.stops.map((s) => s.name)).size).toBe(splices.length);
			let [at, x, latest] = [0, 0, -Infinity];
			for (const s of [...splices].sort((a, b) => a.deadlineS - b.deadlineS)) {
				at = Math.max(at + Math.abs(s.xM - x), s.releaseS) + s.serviceS;
				[x, latest] = [s.xM, Math.max(latest, at - s.deadlineS)];
			}
			expect(route.stopS).toBeLessThanOrEqual(Math.max(0, latest) + 1e-9);
		}),
		{ numRuns: 15 }
	);
});
