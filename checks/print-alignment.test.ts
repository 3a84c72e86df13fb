import fc from 'fast-check';
import { Matrix, SVD, solve } from 'ml-matrix';
import { describe, expect, test } from 'vitest';
import { leastSquares, seededRandom, exactInterval, normalCdf, studentQuantile } from '@keen-relay/core/numerics';
import { align, rescuedByScaling, sortStretched } from '@keen-relay/core/printing';

const points = (...xy: number[]) => Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }));
const STENCIL = points(20, 20, 220, 20, 220, 140, 20, 140);

describe('alignments worked out apart from this code', () => {
	test('a turn of 0.1° about a stage centre far away', () => {
		const a = align(
			STENCIL,
			points(20.639271, 19.257202, 220.638966, 19.606267, 220.429527, 139.606085, 20.429831, 139.257019),
			{ x: 400, y: 300 },
			116.6
		);
		expect(a.thetaDeg).toBeCloseTo(0.1, 4);
		expect([a.dxMm, a.dyMm]).toEqual([expect.closeTo(0.15, 4), expect.closeTo(-0.08, 4)]);
		expect([a.originTxMm, a.originTyMm]).toEqual([expect.closeTo(0.6742, 4), expect.closeTo(-0.7777, 4)]);
		expect(a.rmsUm).toBeLessThan(0.001);
		expect(a.code).toBe('ok');
	});

	const BOARD = points(20.112, 19.953, 220.108, 19.968, 220.094, 139.961, 20.101, 139.957);
	test('a good board, and the same with one mark misread', () => {
		const a = align(STENCIL, BOARD, { x: 120, y: 80 }, 116.6);
		expect(a.thetaDeg).toBeCloseTo(0.00358, 5);
		expect([a.dxMm, a.dyMm]).toEqual([expect.closeTo(0.10375, 5), expect.closeTo(-0.04025, 5)]);
		expect(a.stretchPpm).toBeCloseTo(-23.5, 1);
		expect(a.rmsUm).toBeCloseTo(4.975, 3);
		expect(a.maxUm).toBeCloseTo(7.81, 2);
		expect(a.code).toBe('ok');
		const moved = align(STENCIL, [BOARD[0]!, { x: 220.258, y: 19.848 }, ...BOARD.slice(2)], { x: 120, y: 80 }, 116.6);
		expect(moved.maxUm).toBeCloseTo(142.6, 1);
		expect(moved).toMatchObject({ code: 'fiducial_suspect', suspect: 1 });
	});

	test('two marks leave one redundancy: the distance', () => {
		const a = align(points(20, 20, 220, 140), points(20.05, 20.02, 220.11, 140.05), { x: 120, y: 80 }, 116.6);
		expect(a.thetaDeg).toBeCloseTo(-0.00126, 5);
		expect([a.dxMm, a.dyMm]).toEqual([expect.closeTo(0.08, 6), expect.closeTo(0.035, 6)]);
		expect(a.stretchPpm).toBeCloseTo(286.8, 1);
		expect(a.residuals.map((r) => r.lengthUm)).toEqual([expect.closeTo(33.4, 1), expect.closeTo(33.4, 1)]);
		expect(a).toMatchObject({ freedom: 1, code: 'stretch', xPpm: null });
	});

	test('stretched boards sorted to the fewest stencils', () => {
		// 100 ppm at 140 mm are the 14 µm: four boards lie beyond that.
		expect(rescuedByScaling([10, 60, 250, -30, 290, 205, 90, 260], 140, 14)).toBe(4);
		const groups = sortStretched([10, 60, 250, -30, 290, 205, 90, 260], 140, 14);
		expect(groups.map((g) => [g.scalePpm, g.boards.length])).toEqual([
			[30, 4],
			[247.5, 4]
		]);
	});
});

describe('what the camera can be fooled by', () => {
	const centre = { x: 120, y: 80 };
	test('a mirror image, half a turn, a far load, a warped board', () => {
		const uneven = points(20, 20, 220, 20, 220, 140, 26, 140);
		expect(
			align(
				uneven,
				uneven.map((p) => ({ x: 242 - p.x, y: p.y })),
				centre,
				116
			).code
		).toBe('mirrored');
		expect(
			align(
				uneven,
				uneven.map((p) => ({ x: 240 - p.x, y: 160 - p.y })),
				centre,
				116
			).code
		).toBe('backwards');
		expect(
			align(
				uneven,
				uneven.map((p) => ({ x: p.x + 7, y: p.y })),
				centre,
				116
			).code
		).toBe('travel');
		const bent = STENCIL.map((p, i) => ({ x: p.x, y: p.y + (i % 2 ? 0.04 : -0.04) }));
		expect(align(STENCIL, bent, centre, 116).code).toBe('residual_high');
	});

	test('marks too close, too few, not numbers', () => {
		expect(() => align(points(0, 0, 15, 0), points(0, 0, 15, 0), centre, 100)).toThrow('at least 20 mm apart');
		expect(() => align(points(0, 0), points(0, 0), centre, 100)).toThrow('at least two marks');
		expect(() => align(points(0, 0, 50, 0), points(0, NaN, 15, 0), centre, 100)).toThrow('board[0]');
	});
});

// The rotation of least squares from a singular value decomposition (Kabsch), by ml-matrix.
test('the rigid fit equals the one from a singular value decomposition', () => {
	const c = fc.double({ min: -150, max: 150, noNaN: true });
	const marks = fc.array(fc.record({ x: c, y: c }), { minLength: 3, maxLength: 8 });
	fc.assert(
		fc.property(marks, fc.double({ min: -2, max: 2, noNaN: true }), fc.integer(), (s, deg, seed) => {
			fc.pre(Math.max(...s.map((p) => Math.hypot(p.x - s[0]!.x, p.y - s[0]!.y))) > 40);
			const random = seededRandom(seed);
			const t = (deg * Math.PI) / 180;
			const b = s.map((p) => ({
				x: Math.cos(t) * p.x - Math.sin(t) * p.y + 0.1 + 0.01 * random.normal(),
				y: Math.sin(t) * p.x + Math.cos(t) * p.y - 0.2 + 0.01 * random.normal()
			}));
			const mid = (list: typeof s) => list.reduce((m, p) => ({ x: m.x + p.x / list.length, y: m.y + p.y / list.length }), { x: 0, y: 0 });
			const [ms, mb] = [mid(s), mid(b)];
			const H = new Matrix(s.map((p) => [p.x - ms.x, p.y - ms.y])).transpose().mmul(new Matrix(b.map((p) => [p.x - mb.x, p.y - mb.y])));
			const svd = new SVD(H);
			const [U, V] = [svd.leftSingularVectors, svd.rightSingularVectors];
			const flip = Math.sign(
				(V.get(0, 0) * V.get(1, 1) - V.get(0, 1) * V.get(1, 0)) * (U.get(0, 0) * U.get(1, 1) - U.get(0, 1) * U.get(1, 0))
			);
			const R = V.mmul(Matrix.diag([1, flip])).mmul(U.transpose());
			const a = align(s, b, { x: 0, y: 0 }, 100);
			expect(a.thetaDeg).toBeCloseTo((Math.atan2(R.get(1, 0), R.get(0, 0)) * 180) / Math.PI, 8);
			expect(a.dxMm).toBeCloseTo(mb.x - (R.get(0, 0) * ms.x + R.get(0, 1) * ms.y), 8);
		})
	);
});

test('ordinary least squares equals ml-matrix, standard errors too', () => {
	const random = seededRandom(5);
	const rows = Array.from({ length: 40 }, (_, i) => [1, i % 2 ? 0.5 : -0.5, i % 7, i / 40]);
	const y = rows.map((r) => 3 + 2 * r[1]! - 0.4 * r[2]! + r[3]! + 0.3 * random.normal());
	const fit = leastSquares(rows, y);
	const X = new Matrix(rows);
	const reference = solve(X, Matrix.columnVector(y)).to1DArray();
	fit.coefficients.forEach((c, i) => expect(c).toBeCloseTo(reference[i]!, 9));
	const inverse = solve(X.transpose().mmul(X), Matrix.eye(4));
	fit.standardErrors.forEach((se, i) => expect(se).toBeCloseTo(fit.sigma * Math.sqrt(inverse.get(i, i)), 9));
	expect(() =>
		leastSquares(
			rows.map((r) => [r[0]!, r[1]!, 2 * r[1]!]),
			y
		)
	).toThrow('does not depend');
});

// Tables of Student's t, the normal distribution and exact binomial intervals (printed in any statistics text; from memory).
test('quantiles as the printed tables have them', () => {
	expect([1, 5, 22, 30, 120].map((f) => Number(studentQuantile(0.95, f).toFixed(3)))).toEqual([6.314, 2.015, 1.717, 1.697, 1.658]);
	expect(normalCdf(1.959963985)).toBeCloseTo(0.975, 9);
	expect(normalCdf(-3)).toBeCloseTo(0.0013499, 7);
	expect(exactInterval(0, 300).high).toBeCloseTo(0.01222, 5);
	expect(exactInterval(5, 10)).toEqual({ low: expect.closeTo(0.1871, 4), high: expect.closeTo(0.8129, 4) });
});
