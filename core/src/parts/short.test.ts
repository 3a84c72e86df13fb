import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { judgeShort, piecesOfPanels, PLANNED_LOSS_SHARE, shortLevel, shortParts, type PartNeed, type PartStock } from './index.ts';

const need = (pieces: number, week: string | null = '2026-11-30', customer = 'Cellar Caps', partNumber = 'R-10K'): PartNeed => ({
	partNumber,
	pieces,
	week,
	customer
});
const stock = (pieces: number, owner: string | null = null, blocked = false, partNumber = 'R-10K'): PartStock => ({
	partNumber,
	pieces,
	owner,
	blocked
});

describe('what runs short', () => {
	test('picks are what is placed and what is lost with it', () => {
		expect(PLANNED_LOSS_SHARE).toBe(0.005);
		expect(shortParts([need(199)], [stock(200)])[0]).toMatchObject({ needed: 200, short: 0 });
		expect(shortParts([need(200)], [stock(201)])[0]).toMatchObject({ needed: 202, short: 1 });
		expect(shortParts([need(200)], [stock(200)], 0)[0]).toMatchObject({ needed: 200, short: 0 });
		expect(() => shortParts([need(200)], [], 0.51)).toThrow(/lossShare/);
	});

	test('week after week; the first in which a piece is missing is named', () => {
		const [part] = shortParts([need(100, '2026-12-14'), need(100, '2026-11-30'), need(100, null), need(50, '2026-12-14')], [stock(200)], 0);
		expect(part).toEqual({
			partNumber: 'R-10K',
			weeks: { '2026-11-30': 100, '2026-12-14': 150 },
			undated: 100,
			needed: 350,
			usable: 200,
			blocked: 0,
			short: 150,
			firstWeek: '2026-12-14'
		});
		expect(shortParts([need(100), need(100, null)], [stock(100)], 0)[0]).toMatchObject({ short: 100, firstWeek: null });
	});

	test('a customer’s own parts are never lent across, and are used before the plant’s', () => {
		const own = stock(100, 'Quay Museum');
		expect(shortParts([need(80)], [own], 0)[0]).toMatchObject({ usable: 0, short: 80 });
		expect(shortParts([need(80, '2026-11-30', ' quay museum')], [own], 0)[0]).toMatchObject({ usable: 100, short: 0 });
		// The museum's board comes first and takes its own: the plant's reel is whole for the other.
		expect(shortParts([need(90, '2026-11-30', 'Quay Museum'), need(60, '2026-12-07')], [stock(60), own], 0)[0]!.short).toBe(0);
		expect(shortParts([need(90, '2026-11-30', 'Quay Museum'), need(61, '2026-12-07')], [stock(60), own], 0)[0]!.short).toBe(1);
	});

	test('blocked pieces do not count, and are said', () => {
		expect(shortParts([need(100)], [stock(60), stock(500, null, true)], 0)[0]).toMatchObject({ usable: 60, blocked: 500, short: 40 });
	});

	test('the order: what is short first, earliest first, most first', () => {
		const parts = shortParts(
			[
				need(10, null, 'C', 'P-undated'),
				need(10, '2026-12-14', 'C', 'P-late'),
				need(10, '2026-12-07', 'C', 'P-soon'),
				need(30, '2026-12-07', 'C', 'P-soon-more'),
				need(10, '2026-11-30', 'C', 'P-there')
			],
			[stock(100, null, false, 'P-there')],
			0
		);
		expect(parts.map((p) => p.partNumber)).toEqual(['P-soon-more', 'P-soon', 'P-late', 'P-undated', 'P-there']);
	});

	test('more stock never makes more short; short is never more than needed (property)', () => {
		const owner = fc.constantFrom(null, 'A', 'B');
		fc.assert(
			fc.property(
				fc.array(fc.record({ pieces: fc.nat(500), week: fc.constantFrom(null, 'w1', 'w2'), customer: fc.constantFrom('A', 'B') }), {
					minLength: 1
				}),
				fc.array(fc.record({ pieces: fc.nat(500), owner })),
				fc.record({ pieces: fc.nat(500), owner }),
				(needs, there, more) => {
					const all = needs.map((n) => ({ ...n, partNumber: 'P' }));
					const lying = there.map((s) => ({ ...s, partNumber: 'P', blocked: false }));
					const [before] = shortParts(all, lying);
					const [after] = shortParts(all, [...lying, { ...more, partNumber: 'P', blocked: false }]);
					expect(after!.short).toBeLessThanOrEqual(before!.short);
					expect(before!.short).toBeLessThanOrEqual(before!.needed);
					expect(before!.short).toBeGreaterThanOrEqual(before!.needed - lying.reduce((sum, s) => sum + s.pieces, 0));
				}
			)
		);
	});
});

describe('the verdict', () => {
	const judged = (needs: PartNeed[], there: PartStock[]) => judgeShort(shortParts(needs, there, 0), '2026-11-30', (w) => `week of ${w}`);
	test('this week is acted on, later is watched, everything there is good, no job says so', () => {
		expect(judged([need(10)], [])).toMatchObject({
			level: 'act',
			statement: '1 part runs short, R-10K first: 10 pieces this week.',
			doNext: ['Fetch 10 pieces of R-10K']
		});
		expect(judged([need(10, '2026-12-07')], [])).toMatchObject({
			level: 'watch',
			statement: expect.stringContaining('from week of 2026-12-07')
		});
		expect(judged([need(10, null)], [])).toMatchObject({ level: 'watch', statement: expect.stringContaining('without a time') });
		expect(judged([need(10)], [stock(10)])).toMatchObject({ level: 'good', statement: 'All parts of the open jobs lie here: 1.' });
		expect(judged([], []).level).toBe('noData');
	});

	test('where blocked pieces would do, they come first', () => {
		expect(judged([need(10)], [stock(10, null, true)]).doNext).toEqual(['See whether the blocked pieces of R-10K can be freed']);
		expect(judged([need(10)], [stock(9, null, true)]).doNext).toEqual(['Fetch 10 pieces of R-10K']);
	});
});

test('panels still to be placed take a piece for each fitted place of every circuit', () => {
	const parts = [
		{ partNumber: 'A', fitted: true },
		{ partNumber: 'B', fitted: true },
		{ partNumber: 'A', fitted: true },
		{ partNumber: 'A', fitted: false },
		{ partNumber: 'C', fitted: false }
	];
	expect(piecesOfPanels(parts, 4, 3)).toEqual([
		{ partNumber: 'A', pieces: 24 },
		{ partNumber: 'B', pieces: 12 }
	]);
	expect(piecesOfPanels(parts, 4, 0)).toEqual([]);
	expect(piecesOfPanels(parts, 4, -2)).toEqual([]);
});

test('the level of a part goes by the week in which the first piece is missing', () => {
	const level = (short: number, firstWeek: string | null) => shortLevel({ short, firstWeek }, '2026-11-30');
	expect([level(0, null), level(1, '2026-11-30'), level(1, '2026-11-23'), level(1, '2026-12-07'), level(1, null)]).toEqual([
		'good',
		'act',
		'act',
		'watch',
		'watch'
	]);
});
