import * as fc from 'fast-check';
import { expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import { pickCauses, type PickCount } from './pick-errors.ts';

const row = (feeder: string, nozzle: string, picks: number, errors: number): PickCount => ({ feeder, nozzle, picks, errors });

test('the nozzle whose picks fail is named, not the feeder that is picked from most', () => {
	const causes = pickCauses([
		row('F1', 'N1', 1000, 1),
		row('F1', 'N2', 1000, 9),
		row('F2', 'N1', 1000, 2),
		row('F2', 'N2', 1000, 11),
		row('F3', 'N1', 4000, 6),
		row('F3', 'N2', 4000, 38)
	]);
	expect(causes).toHaveLength(1);
	expect(causes[0]).toMatchObject({ kind: 'nozzle', name: 'N2', errors: 58 });
	expect(causes[0]!.ratio).toBeCloseTo(6.444, 3);
});

test('two causes are told apart: the second once the first is taken out', () => {
	const counts = ['F1', 'F2', 'F3', 'F4'].flatMap((feeder) =>
		['N1', 'N2', 'N3'].map((nozzle) => row(feeder, nozzle, 5000, 5 * (feeder === 'F2' ? 8 : 1) * (nozzle === 'N3' ? 5 : 1)))
	);
	const causes = pickCauses(counts);
	expect(causes.map((c) => c.name)).toEqual(['F2', 'N3']);
	expect(causes[0]!.ratio).toBeCloseTo(8, 6);
	expect(causes[1]!.ratio).toBeCloseTo(5, 6);
});

test('nothing stands out of nothing, of one feeder, or of chance', () => {
	expect(pickCauses([])).toEqual([]);
	expect(pickCauses([row('F1', 'N1', 1000, 40)])).toEqual([]);
	expect(pickCauses([row('F1', 'N1', 0, 0), row('F2', 'N1', 1000, 3)])).toEqual([]);
	let named = 0;
	for (let seed = 1; seed <= 200; seed++) {
		const random = seededRandom(seed);
		const counts = Array.from({ length: 30 }, (_, i) => {
			const picks = 500 + random.integer(4000);
			let errors = 0;
			for (let k = 0; k < picks; k++) if (random.chance(0.002)) errors++;
			return row(`F${i % 10}`, `N${i % 3}`, picks, errors);
		});
		if (pickCauses(counts).length) named++;
	}
	expect(named).toBeLessThanOrEqual(10);
});

test('counts that cannot be are named', () => {
	expect(() => pickCauses([row('F', 'N', -1, 0)])).toThrow(/counts.0.picks/);
	expect(() => pickCauses([row('F', 'N', 5, 6)])).toThrow(/counts.0.errors/);
	expect(() => pickCauses([row('F', 'N', 5.5, 0)])).toThrow(/counts.0.picks/);
});

test('twice the picks and twice the errors name the same causes', () => {
	const count = fc.record({
		feeder: fc.constantFrom('F1', 'F2', 'F3'),
		nozzle: fc.constantFrom('N1', 'N2'),
		picks: fc.integer({ min: 100, max: 5000 }),
		errors: fc.integer({ min: 0, max: 60 })
	});
	fc.assert(
		fc.property(fc.array(count, { minLength: 2, maxLength: 12 }), (counts) => {
			for (const cause of pickCauses(counts)) {
				expect(cause.ratio).toBeGreaterThan(1);
				expect(cause.gain).toBeGreaterThan(8);
			}
			const first = pickCauses(counts)[0];
			const twice = pickCauses(counts.map((c) => ({ ...c, picks: 2 * c.picks, errors: 2 * c.errors })))[0];
			if (first) expect(twice).toMatchObject({ kind: first.kind, name: first.name });
		})
	);
});
