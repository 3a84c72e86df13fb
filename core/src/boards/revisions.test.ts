import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { changeLevel, compareRevisions, MOVED_MM, REVISION_CHANGES, TURNED_DEG, type RevisedPart } from './index.ts';

const part = (refDes: string, xMm: number, yMm: number, more: Partial<RevisedPart> = {}): RevisedPart => ({
	refDes,
	partNumber: `P-${refDes}`,
	value: '10k',
	packageName: 'RESC1005X40N',
	side: 'top',
	xMm,
	yMm,
	rotationDeg: 0,
	fitted: true,
	...more
});
const BOARD = [
	part('R1', 5, 5),
	part('R2', 15, 5),
	part('R3', 5, 15, { rotationDeg: 90 }),
	part('C4', 22, 18, { value: '100n' }),
	part('U5', 30, 30)
];
const changed = (refDes: string, more: Partial<RevisedPart>) => BOARD.map((p) => (p.refDes === refDes ? { ...p, ...more } : p));
const said = (after: readonly RevisedPart[], before: readonly RevisedPart[] = BOARD) =>
	compareRevisions(before, after).changes.map(({ refDes, kind }) => `${refDes} ${kind}`);

describe('what has changed of a part', () => {
	test('nothing: the same board is the same', () => {
		expect(compareRevisions(BOARD, BOARD)).toMatchObject({
			changes: [],
			same: 5,
			frame: { dxMm: 0, dyMm: 0, turnDeg: 0 },
			verdict: { level: 'good', statement: 'All 5 parts are what and where they were.' }
		});
	});

	test('value, part number, package, side, added, removed', () => {
		expect(said(changed('R1', { value: '12k' }))).toEqual(['R1 value']);
		expect(said(changed('R1', { partNumber: 'P-OTHER' }))).toEqual(['R1 partNumber']);
		expect(said(changed('R1', { packageName: 'RESC1608X55N' }))).toEqual(['R1 package']);
		expect(said(changed('R1', { side: 'bottom', xMm: 90 }))).toEqual(['R1 side']);
		expect(said([...BOARD, part('R9', 40, 40)])).toEqual(['R9 added']);
		expect(said(BOARD.slice(1))).toEqual(['R1 removed']);
	});

	test('no longer fitted is removed, fitted now is added, never fitted is nothing', () => {
		expect(said(changed('R1', { fitted: false }))).toEqual(['R1 removed']);
		expect(said(BOARD, changed('R1', { fitted: false }))).toEqual(['R1 added']);
		const without = changed('R1', { fitted: false });
		expect(said(without, changed('R1', { fitted: false, value: '47k' }))).toEqual([]);
	});

	test('a value written in another way is the same value; a tenfold one is not', () => {
		const capacitors = (value: string) => said(changed('C4', { value }));
		expect(capacitors('0.1uF')).toEqual([]);
		expect(capacitors('104')).toEqual([]);
		expect(capacitors('10n')).toEqual(['C4 value']);
		expect(said(changed('R2', { value: '10 kΩ' }))).toEqual([]);
		// What has no kind of its own is compared as text.
		expect(said(changed('U5', { value: '10K' }))).toEqual(['U5 value']);
	});

	test('moved and turned begin above their limits', () => {
		expect([MOVED_MM, TURNED_DEG]).toEqual([0.05, 0.5]);
		expect(said(changed('U5', { xMm: 30.0499 }))).toEqual([]);
		expect(said(changed('U5', { xMm: 30.0501 }))).toEqual(['U5 moved']);
		expect(said(changed('R3', { rotationDeg: 90.5 }))).toEqual([]);
		expect(said(changed('R3', { rotationDeg: 90.51 }))).toEqual(['R3 turned']);
		expect(said(changed('R1', { rotationDeg: 360 }))).toEqual([]);
		expect(said(changed('R1', { rotationDeg: -0.4 }))).toEqual([]);
		expect(said(changed('R1', { rotationDeg: 180 }))).toEqual(['R1 turned']);
	});

	test('two that have changed places are swapped, not moved', () => {
		const [r1, r2, ...rest] = BOARD as [RevisedPart, RevisedPart, ...RevisedPart[]];
		const after = [{ ...r1, xMm: r2.xMm }, { ...r2, xMm: r1.xMm }, ...rest];
		const { changes } = compareRevisions(BOARD, after);
		expect(changes.map(({ refDes, kind, now }) => [refDes, kind, now])).toEqual([
			['R1', 'swapped', 'where R2 was'],
			['R2', 'swapped', 'where R1 was']
		]);
	});
});

describe('the whole board in other files', () => {
	const lying = (dx: number, dy: number, deg: number) =>
		BOARD.map((p) => {
			const [c, s] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
			return { ...p, xMm: c * p.xMm - s * p.yMm + dx, yMm: s * p.xMm + c * p.yMm + dy, rotationDeg: (p.rotationDeg + deg) % 360 };
		});

	test.each([
		[12.7, -3, 0],
		[0, 0, 90],
		[100, 50, 180],
		[-4, 60, 270]
	])('another origin and turn (%f, %f mm, %i°) is no change of a part, and is said', (dx, dy, deg) => {
		const { changes, same, frame } = compareRevisions(BOARD, lying(dx, dy, deg));
		expect([changes, same]).toEqual([[], 5]);
		expect(frame.dxMm).toBeCloseTo(dx, 9);
		expect(frame.dyMm).toBeCloseTo(dy, 9);
		expect(((frame.turnDeg % 360) + 360) % 360).toBe(deg);
	});

	test('what has moved within it is still found', () => {
		const after = lying(12.7, -3, 90).map((p) => (p.refDes === 'R2' ? { ...p, xMm: p.xMm + 1 } : p));
		expect(said(after)).toEqual(['R2 moved']);
	});

	test('a change says where it stands in the new files; a part that was taken out, where it would', () => {
		const after = lying(12.7, -3, 90)
			.filter((p) => p.refDes !== 'R1')
			.map((p) => (p.refDes === 'R2' ? { ...p, value: '22k' } : p));
		const [value, removed] = compareRevisions(BOARD, after).changes;
		expect([value!.refDes, value!.at.side, value!.at.xMm, value!.at.yMm]).toEqual(['R2', 'top', 7.7, 12]);
		expect([removed!.refDes, removed!.at.side]).toEqual(['R1', 'top']);
		expect(removed!.at.xMm).toBeCloseTo(7.7, 9);
		expect(removed!.at.yMm).toBeCloseTo(2, 9);
	});

	test('parts of which most were turned in the library are turned, the board is not', () => {
		const after = BOARD.map((p) => (p.refDes === 'U5' ? p : { ...p, rotationDeg: (p.rotationDeg + 90) % 360 }));
		expect(said(after)).toEqual(['C4 turned', 'R1 turned', 'R2 turned', 'R3 turned']);
	});

	test('of two parts no frame is made: both have moved', () => {
		const two = BOARD.slice(0, 2);
		expect(
			said(
				two.map((p) => ({ ...p, xMm: p.xMm + 1 })),
				two
			)
		).toEqual(['R1 moved', 'R2 moved']);
	});
});

test('what stands on no drawing is acted on, and comes first; what can be seen is watched', () => {
	const both = compareRevisions(BOARD, [...changed('R2', { value: '12k' }), part('R9', 40, 40)]);
	expect(both.changes.map((c) => c.kind)).toEqual(['value', 'added']);
	expect(both.verdict).toMatchObject({ level: 'act', statement: '1 change stands on no drawing: R2 10k → 12k.' });
	expect(both.same).toBe(4);
	expect(compareRevisions(BOARD, [...BOARD, part('R9', 40, 40)]).verdict).toMatchObject({
		level: 'watch',
		statement: '1 part has changed, all to be seen on the drawing; 5 are as they were.'
	});
	// A part that has moved as well is seen.
	expect(compareRevisions(BOARD, changed('R2', { value: '12k', xMm: 17 })).verdict.level).toBe('watch');
	const three = compareRevisions(
		BOARD,
		BOARD.map((p) => (p.refDes === 'U5' ? p : { ...p, partNumber: `${p.partNumber}-B` }))
	);
	expect(three.verdict.statement).toBe('4 changes stand on no drawing: C4 P-C4 → P-C4-B first.');
});

test('there and back name the same designators, added for removed', () => {
	const value = fc.constantFrom('10k', '12k', '4k7', '4.7k');
	const parts = fc.uniqueArray(
		fc.record({ n: fc.integer({ min: 1, max: 20 }), x: fc.integer({ min: 0, max: 5 }), value, fitted: fc.boolean() }),
		{ selector: ({ n }) => n, minLength: 4, maxLength: 12 }
	);
	const read = (list: readonly { n: number; x: number; value: string; fitted: boolean }[]) =>
		list.map(({ n, x, value, fitted }) => part(`R${n}`, 10 * n, x, { value, fitted }));
	fc.assert(
		fc.property(parts, parts, (a, b) => {
			const there = compareRevisions(read(a), read(b)).changes;
			const back = compareRevisions(read(b), read(a)).changes;
			const of = (list: typeof there, kind: string) => list.filter((c) => c.kind === kind).map((c) => c.refDes);
			expect(of(back, 'added')).toEqual(of(there, 'removed'));
			expect(of(back, 'value')).toEqual(of(there, 'value'));
			for (const { kind } of there) expect(REVISION_CHANGES).toContain(kind);
		})
	);
});

test('a value, a part number and a turn stand on no drawing', () => {
	expect(REVISION_CHANGES.filter((kind) => changeLevel({ kind }) === 'act')).toEqual(['value', 'partNumber', 'turned']);
});
