import { seededRandom } from '@keen-relay/core/numerics';
import { planTrial, readTrial, type TrialPanel } from '@keen-relay/core/printing';
import { describe, expect, test } from 'vitest';
import { PrintPhysics } from './print-physics.ts';

describe('a trial on the simulated printer', () => {
	// The physics is the simulation's own and invented; the trial sees volumes only.
	const pads = Array.from({ length: 120 }, (_, i) => ({
		xMm: (i % 12) * 4,
		yMm: Math.floor(i / 12) * 4,
		areaMm2: 0.0616,
		perimeterMm: 0.88,
		minSideMm: 0.28
	}));
	const trial = (separation: { low: number; high: number }, force = { low: 0.18, high: 0.26 }, seed = 4) => {
		const physics = new PrintPhysics(pads, 100, seededRandom(seed));
		const ranges = {
			force: { ...force, unit: 'kg/cm' },
			speed: { low: 38, high: 42, unit: 'mm/s' },
			separation: { ...separation, unit: 'mm/s' }
		};
		const each = 8;
		return readTrial(
			planTrial(ranges, seed).flatMap(({ coded, value }, k) =>
				Array.from({ length: each }, (_, i): TrialPanel => {
					const print = k * each + i;
					const stroke = i % 2 ? 'R' : 'F';
					const { volume } = physics.print({
						stroke,
						printsSinceWipe: i,
						beadUsed: 0.2,
						minutesSincePrevious: 1,
						ageShare: print / 100,
						print,
						setting: { forceKgPerCm: value.force, speedMmPerS: value.speed, separationMmPerS: value.separation }
					});
					return { coded, stroke, response: (100 * volume.reduce((a, b) => a + b, 0)) / pads.length };
				})
			)
		);
	};

	test('separation that pulls paste back is found in both strokes, with its sign, and is the strongest', () => {
		const { strokes, verdict } = trial({ low: 2, high: 12 });
		for (const { effects } of strokes) {
			const effect = effects.find((e) => e.name === 'separation')!;
			expect(effect.real).toBe(true);
			expect(effect.high).toBeLessThan(0);
		}
		expect(verdict.statement).toMatch(/^separation moves the volume most: -/);
	});
	test('ranges around what the printer comes with: nothing but chance, in nearly every trial', () => {
		const named = Array.from({ length: 20 }, (_, seed) => trial({ low: 1.9, high: 2.1 }, { low: 0.199, high: 0.201 }, seed)).flatMap(
			({ strokes }) => strokes.flatMap(({ effects }) => effects.filter((e) => e.real))
		);
		// 20 trials, two strokes, six effects, each wrong in one of twenty: 12 expected.
		expect(named.length).toBeLessThanOrEqual(24);
	});
});
