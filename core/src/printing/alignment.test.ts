import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { rotate, type Point } from '../geometry/index.ts';
import { align, fitAlignment } from './index.ts';

const MARKS: Point[] = [
	{ x: 10, y: 10 },
	{ x: 190, y: 12 },
	{ x: 188, y: 130 },
	{ x: 12, y: 128 }
];
const CENTRE = { x: 100, y: 70 };
const R_MAX = 116;

/** Marks as a camera sees them after the board was turned about the stage's centre, moved and stretched. */
function seen(deg: number, dx: number, dy: number, ppm = 0, marks = MARKS): Point[] {
	return marks.map((m) => {
		const p = rotate({ x: m.x - CENTRE.x, y: m.y - CENTRE.y }, deg);
		const k = 1 + ppm * 1e-6;
		return { x: CENTRE.x + k * p.x + dx, y: CENTRE.y + k * p.y + dy };
	});
}
const turn = fc.double({ min: -1.5, max: 1.5, noNaN: true });
const move = fc.double({ min: -2, max: 2, noNaN: true });

describe('what the stage is asked to do', () => {
	test('the very turn and move that the board was given', () => {
		fc.assert(
			fc.property(turn, move, move, (deg, dx, dy) => {
				const f = fitAlignment(MARKS, seen(deg, dx, dy), CENTRE, R_MAX);
				expect(f.thetaDeg).toBeCloseTo(deg, 9);
				expect(f.dxMm).toBeCloseTo(dx, 9);
				expect(f.dyMm).toBeCloseTo(dy, 9);
				expect(f.maxUm).toBeLessThan(1e-6);
				expect(f.code).toBe('ok');
			})
		);
	});
	test('the same written about the origin takes a mark to the same place', () => {
		fc.assert(
			fc.property(turn, move, move, (deg, dx, dy) => {
				const board = seen(deg, dx, dy);
				const f = fitAlignment(MARKS, board, CENTRE, R_MAX);
				const p = rotate(MARKS[2]!, f.thetaDeg);
				expect(p.x + f.originTxMm).toBeCloseTo(board[2]!.x, 6);
				expect(p.y + f.originTyMm).toBeCloseTo(board[2]!.y, 6);
			})
		);
	});
	test('the order in which the marks are read does not matter', () => {
		fc.assert(
			fc.property(turn, move, fc.constantFrom([1, 0, 3, 2], [3, 2, 1, 0], [2, 0, 1, 3]), (deg, dx, order) => {
				const board = seen(deg, dx, 0.4);
				const [a, b] = [
					fitAlignment(MARKS, board, CENTRE, R_MAX),
					fitAlignment(
						order.map((i) => MARKS[i]!),
						order.map((i) => board[i]!),
						CENTRE,
						R_MAX
					)
				];
				expect(b.thetaDeg).toBeCloseTo(a.thetaDeg, 9);
				expect(b.dxMm).toBeCloseTo(a.dxMm, 9);
			})
		);
	});
	test('seen the other way round it is the opposite turn', () => {
		fc.assert(
			fc.property(turn, (deg) => {
				const board = seen(deg, 0, 0);
				expect(fitAlignment(board, MARKS, CENTRE, R_MAX).thetaDeg).toBeCloseTo(-deg, 9);
			})
		);
	});
	test('no least-squares fit leaves a smaller sum of squares when its turn is changed a little', () => {
		fc.assert(
			fc.property(fc.array(fc.double({ min: -0.02, max: 0.02, noNaN: true }), { minLength: 8, maxLength: 8 }), (noise) => {
				const board = seen(0.3, 0.1, -0.2).map((p, i) => ({ x: p.x + noise[2 * i]!, y: p.y + noise[2 * i + 1]! }));
				const f = fitAlignment(MARKS, board, CENTRE, R_MAX);
				const squares = (deg: number) => {
					const at = MARKS.map((m) => rotate({ x: m.x - 100, y: m.y - 70 }, deg));
					const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / v.length;
					const [mx, my] = [mean(board.map((b, i) => b.x - at[i]!.x)), mean(board.map((b, i) => b.y - at[i]!.y))];
					return board.reduce((sum, b, i) => sum + (b.x - at[i]!.x - mx) ** 2 + (b.y - at[i]!.y - my) ** 2, 0);
				};
				expect(squares(f.thetaDeg)).toBeLessThanOrEqual(Math.min(squares(f.thetaDeg + 0.001), squares(f.thetaDeg - 0.001)) + 1e-12);
			})
		);
	});
});

describe('what no move of the stage can cure', () => {
	test('a stretched board: its ppm come back, and from 25 µm at the farthest opening on it is the verdict', () => {
		fc.assert(
			fc.property(fc.integer({ min: -600, max: 600 }), (ppm) => {
				const f = fitAlignment(MARKS, seen(0.1, 0.2, 0.1, ppm), CENTRE, R_MAX);
				expect(f.stretchPpm).toBeCloseTo(ppm, 3);
				expect(f.stretchUm).toBeCloseTo(Math.abs(ppm) * 1e-3 * R_MAX, 3);
				expect(f.code).toBe(Math.abs(ppm) * 1e-3 * R_MAX > 25 ? 'stretch' : 'ok');
			})
		);
	});
	test.each([0, 1, 2, 3])('mark %d misread is the one that is suspected', (bad) => {
		const board = seen(0.2, 0.1, 0.1).map((p, i) => (i === bad ? { x: p.x + 0.12, y: p.y - 0.08 } : p));
		expect(fitAlignment(MARKS, board, CENTRE, R_MAX)).toMatchObject({ code: 'fiducial_suspect', suspect: bad });
	});
	test('two marks misread are no one mark’s fault', () => {
		const board = seen(0, 0, 0).map((p, i) => (i === 0 ? { x: p.x + 0.1, y: p.y } : i === 1 ? { x: p.x, y: p.y + 0.11 } : p));
		expect(fitAlignment(MARKS, board, CENTRE, R_MAX).code).not.toBe('fiducial_suspect');
	});
	test('a mirror image is the wrong side or the wrong stencil; half a turn is a board loaded backwards', () => {
		const mirrored = MARKS.map((m) => ({ x: 200 - m.x, y: m.y + 3 }));
		const uneven = [...mirrored.slice(0, 3), { x: mirrored[3]!.x - 9, y: mirrored[3]!.y }];
		const stencil = [...MARKS.slice(0, 3), { x: MARKS[3]!.x + 9, y: MARKS[3]!.y }];
		expect(fitAlignment(stencil, uneven, CENTRE, R_MAX).code).toBe('mirrored');
		expect(fitAlignment(MARKS, seen(179, 0.2, 0.1), CENTRE, R_MAX).code).toBe('backwards');
		expect(fitAlignment(MARKS, seen(-177, 0.2, 0.1), CENTRE, R_MAX).code).toBe('backwards');
	});
	test('a board further off than the stage travels', () => {
		expect(fitAlignment(MARKS, seen(0, 7, 0), CENTRE, R_MAX).code).toBe('travel');
		expect(fitAlignment(MARKS, seen(2.6, 0, 0), CENTRE, R_MAX).code).toBe('travel');
	});
	test('every verdict says in words what to do', () => {
		for (const board of [seen(0.1, 0.1, 0), seen(179, 0, 0), seen(0, 7, 0), seen(0, 0, 0, 500)]) {
			const { code, verdict } = align(MARKS, board, CENTRE, R_MAX);
			expect(verdict.statement.length).toBeGreaterThan(10);
			if (code !== 'ok') expect(verdict.doNext.length).toBeGreaterThan(0);
			expect(verdict.level === 'good').toBe(code === 'ok');
		}
	});
});

describe('two marks', () => {
	test('leave one redundancy, their distance: both are off by the same, along the line between them', () => {
		fc.assert(
			fc.property(fc.double({ min: -0.06, max: 0.06, noNaN: true }), turn, (longer, deg) => {
				const [a, b] = [MARKS[0]!, MARKS[2]!];
				const length = Math.hypot(b.x - a.x, b.y - a.y);
				const further = { x: b.x + ((b.x - a.x) / length) * longer, y: b.y + ((b.y - a.y) / length) * longer };
				const f = fitAlignment([a, b], seen(deg, 0.1, 0.2, 0, [a, further]), CENTRE, R_MAX);
				expect(f.freedom).toBe(1);
				expect(f.residuals[0]!.lengthUm).toBeCloseTo(Math.abs(longer) * 500, 4);
				expect(f.residuals[1]!.lengthUm).toBeCloseTo(f.residuals[0]!.lengthUm, 6);
				expect(f.xPpm).toBeNull();
			})
		);
	});
	test('nearer than 20 mm, one alone, or another number on the board are refused', () => {
		expect(() => fitAlignment([MARKS[0]!, { x: 15, y: 20 }], [MARKS[0]!, { x: 15, y: 20 }], CENTRE, R_MAX)).toThrow('20 mm apart');
		expect(() => fitAlignment([MARKS[0]!], [MARKS[0]!], CENTRE, R_MAX)).toThrow('at least two marks');
		expect(() => fitAlignment(MARKS, MARKS.slice(1), CENTRE, R_MAX)).toThrow('4 marks, as on the stencil');
		expect(() => fitAlignment(MARKS, [...MARKS.slice(1), { x: Number.NaN, y: 1 }], CENTRE, R_MAX)).toThrow('board[3]');
	});
});
