import * as fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fitFiducials, placedBy, partErrorUm, placeErrorUm } from './fiducials.ts';

const at = (...points: [number, number][]) => points.map(([x, y]) => ({ x, y }));
const TWO = at([10, 10], [210, 110]);
const SEEN = at([309.8, 60.42], [509.45, 161.3]);

describe('two marks', () => {
	const fit = fitFiducials(TWO, SEEN);

	test('give turn, stretch and move, and every part its place', () => {
		expect(fit.rotationDeg).toBeCloseTo(0.2417, 4);
		expect((fit.scaleX - 1) * 1e6).toBeCloseTo(368.9, 1);
		expect(fit.scaleY).toBe(fit.scaleX);
		const part = placedBy(fit, { xMm: 110, yMm: 60, rotationDeg: 90 });
		expect(part.xMm).toBeCloseTo(409.625, 4);
		expect(part.yMm).toBeCloseTo(110.86, 4);
		expect(part.rotationDeg).toBeCloseTo(90.2417, 4);
		const other = placedBy(fit, { xMm: 200, yMm: 20, rotationDeg: 0 });
		expect(other.xMm).toBeCloseTo(499.8262, 4);
		expect(other.yMm).toBeCloseTo(71.2254, 4);
		expect(other.rotationDeg).toBeCloseTo(0.2417, 4);
	});

	test('have no residual that would prove anything, and say so', () => {
		expect(fit.rmsUm).toBeLessThan(1e-6);
		expect(fit.codes).toEqual(['ok', 'impossible_with_2_points']);
	});
});

describe('three marks', () => {
	const nominal = at([0, 0], [200, 0], [0, 100]);
	const seen = at([50, 60], [250.04, 60.35], [49.8, 159.97]);

	test('fit an uneven map exactly; what an even one leaves stands beside it', () => {
		const fit = fitFiducials(nominal, seen, 'uneven');
		expect(fit.rotationDeg).toBeCloseTo(0.10743, 5);
		expect(fit.scaleX).toBeCloseTo(1.0002015, 6);
		expect(fit.scaleY).toBeCloseTo(0.999702, 6);
		const part = placedBy(fit, { xMm: 200, yMm: 100, rotationDeg: 0 });
		expect(part.xMm).toBeCloseTo(249.84, 4);
		expect(part.yMm).toBeCloseTo(160.32, 4);
		expect(fit.rmsUm).toBeLessThan(1e-6);
		expect(fit.evenRmsUm).toBeCloseTo(20.41, 2);
	});

	test('an even map spreads what does not fit', () => {
		const fit = fitFiducials(nominal, seen);
		const part = placedBy(fit, { xMm: 200, yMm: 100, rotationDeg: 359.95 });
		expect(part.xMm).toBeCloseTo(249.84, 2);
		expect(part.yMm).toBeCloseTo(160.37, 2);
		expect(part.rotationDeg).toBeGreaterThanOrEqual(0);
		expect(part.rotationDeg).toBeLessThan(0.2);
		expect(fit.rmsUm).toBeCloseTo(20.41, 2);
	});
});

describe('what cannot be believed', () => {
	const board = at([0, 0], [200, 0], [200, 100], [0, 100]);
	const turned = (deg: number, scale = 1) =>
		board.map(({ x, y }) => {
			const [c, s] = [scale * Math.cos((deg * Math.PI) / 180), scale * Math.sin((deg * Math.PI) / 180)];
			return { x: c * x - s * y + 5, y: s * x + c * y - 3 };
		});

	test.each([
		[2.999, 1, 'ok'],
		[3.001, 1, 'reject_rotation_over_limit'],
		[-3.001, 1, 'reject_rotation_over_limit'],
		[180, 1, 'reject_rotation_over_limit'],
		[0, 1.000499, 'ok'],
		[0, 1.000501, 'warn_scale'],
		[0, 0.999499, 'warn_scale'],
		[0, 1.000999, 'warn_scale'],
		[0, 1.001001, 'reject_scale_over_limit']
	] as const)('turned by %d°, stretched %d times: %s', (deg, scale, code) => {
		expect(fitFiducials(board, turned(deg, scale)).codes[0]).toBe(code);
	});

	test('half a turn is named as one', () => {
		expect(fitFiducials(board, turned(179)).words).toContain('half a turn');
		expect(fitFiducials(board, turned(170)).words).not.toContain('half a turn');
	});

	test('of four marks the one that lies is named, of three none can be', () => {
		const seen = turned(0.5).map((p, i) => (i === 2 ? { x: p.x + 0.3, y: p.y - 0.22 } : p));
		const fit = fitFiducials(board, seen);
		expect(fit.suspect?.mark).toBe(2);
		expect(fit.suspect?.offUm).toBeCloseTo(372, 0);
		expect(fit.codes).toContain('reject_residual_over_limit');
		expect(fit.words).toContain('Mark 3 is 0.37 mm off');
		const three = fitFiducials(board.slice(0, 3), seen.slice(0, 3));
		expect(three.suspect).toBeNull();
		expect(three.words).toContain('which one cannot be told');
		expect(fitFiducials(board, turned(0.5)).suspect).toBeNull();
	});

	test('marks that are too few, in one place, in one line, or no numbers', () => {
		expect(() => fitFiducials(at([0, 0]), at([0, 0]))).toThrow(/at least 2 marks/);
		expect(() => fitFiducials(TWO, SEEN, 'uneven')).toThrow(/at least 3 marks/);
		expect(() => fitFiducials(at([0, 0], [0.5, 0]), at([0, 0], [0.5, 0]))).toThrow(/1 mm apart/);
		const line = at([0, 0], [100, 0], [200, 0]);
		expect(() => fitFiducials(line, line, 'uneven')).toThrow(/do not lie in a line/);
		expect(() => fitFiducials(line, line)).not.toThrow();
		expect(() => fitFiducials(TWO, at([NaN, 0], [1, 1]))).toThrow(/measured.0/);
		expect(() => fitFiducials(TWO, at([0, 0]))).toThrow(/2 marks, as in the program/);
	});
});

test('what was turned and moved is found again', () => {
	const point = fc.record({ x: fc.double({ min: -200, max: 200, noNaN: true }), y: fc.double({ min: -200, max: 200, noNaN: true }) });
	fc.assert(
		fc.property(
			fc.array(point, { minLength: 2, maxLength: 6 }),
			fc.double({ min: -2.9, max: 2.9, noNaN: true }),
			point,
			(marks, deg, move) => {
				fc.pre(marks.some((m) => Math.hypot(m.x - marks[0]!.x, m.y - marks[0]!.y) > 10));
				const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
				const seen = marks.map(({ x, y }) => ({ x: c * x - s * y + move.x, y: s * x + c * y + move.y }));
				const fit = fitFiducials(marks, seen);
				expect(fit.rotationDeg).toBeCloseTo(deg, 6);
				expect(fit.scaleX).toBeCloseTo(1, 8);
				expect(fit.codes[0]).toBe('ok');
			}
		)
	);
});

test.each([
	[at([0, 0], [200, 0]), { x: 100, y: 0 }, 8.485],
	[at([0, 0], [200, 0]), { x: 200, y: 0 }, 12],
	[at([0, 0], [40, 0]), { x: 200, y: 100 }, 87.77]
])('marks read within 12 µm', (marks, place, um) => {
	expect(placeErrorUm(12, marks, place)).toBeCloseTo(um, 2);
	expect(() => placeErrorUm(12, marks.slice(1), place)).toThrow(/at least two/);
	expect(() => placeErrorUm(12, [marks[0]!, marks[0]!], place)).toThrow(/apart/);
});

describe('the finest marks that a part has', () => {
	const here = (p: { x: number; y: number }) => ({ x: p.x + 100, y: p.y });
	const marks = {
		panel: [
			{ x: 0, y: 0 },
			{ x: 200, y: 0 }
		],
		circuit: [
			{ x: 0, y: 0 },
			{ x: 40, y: 0 }
		],
		local: [
			{
				refDes: 'U1',
				marks: [
					{ x: 0, y: 0 },
					{ x: 200, y: 0 }
				]
			},
			{ refDes: 'U2', marks: [{ x: 5, y: 5 }] }
		]
	};
	const part = (refDes: string, xMm: number, yMm: number) => ({ refDes, xMm, yMm });

	test('two beside it, one beside it, its circuit’s, the panel’s', () => {
		expect(partErrorUm(12, part('U1', 200, 0), marks, here)).toEqual({ um: 12, by: 'local' });
		expect(partErrorUm(12, part('U2', 200, 100), marks, here)).toEqual({ um: 12, by: 'local' });
		expect(partErrorUm(12, part('R1', 200, 100), marks, here)!.um).toBeCloseTo(87.77, 2);
		expect(partErrorUm(12, part('R1', 200, 100), marks, here)!.by).toBe('circuit');
		expect(partErrorUm(12, part('R1', 0, 0), { ...marks, circuit: [{ x: 1, y: 1 }] }, here)).toEqual({
			um: expect.closeTo(8.485, 3),
			by: 'panel'
		});
	});

	test('without two marks nothing is known', () => {
		expect(partErrorUm(12, part('R1', 0, 0), { panel: [{ x: 0, y: 0 }], circuit: [], local: [] }, here)).toBeNull();
	});
});
