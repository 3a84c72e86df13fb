import { describe, expect, test } from 'vitest';
import { miscounted, pickReport, type FedSlot, type NozzlePicks, type PlacedPanel } from './index.ts';

const fed = (slot: number, perPanel: number, reels: FedSlot['reels'] = [{ reel: `RL-${slot}`, loadedMs: 0 }]): FedSlot => ({
	slot,
	partNumber: `P-${slot}`,
	perPanel,
	feeder: `F-${slot}`,
	reels
});
const SLOTS = [fed(3, 40), fed(7, 80), fed(9, 20)];
const panels = (
	count: number,
	lost: (i: number) => { [slot: string]: number | undefined },
	nozzles: NozzlePicks[] | null = null
): PlacedPanel[] => Array.from({ length: count }, (_, i) => ({ placedMs: 1000 * i, lost: lost(i) as Record<string, number>, nozzles }));
/** Every slot by two nozzles in turn. */
const byTwo = (lost: Record<string, number>): NozzlePicks[] =>
	SLOTS.flatMap(({ slot, perPanel }) =>
		['N1', 'N2'].map((nozzle) => ({ slot, nozzle, picks: perPanel / 2, lost: lost[`${slot} ${nozzle}`] ?? 0 }))
	);

test('a lost pick is tried again: picks of a slot are what it places and what it lost', () => {
	const { picks, lost, slots, nozzles } = pickReport(
		panels(10, (i) => (i === 4 ? { '7': 3 } : {})),
		SLOTS
	);
	expect([picks, lost]).toEqual([1403, 3]);
	expect(slots.map((s) => [s.slot, s.picks, s.lost])).toEqual([
		[3, 400, 0],
		[7, 803, 3],
		[9, 200, 0]
	]);
	expect(slots[1]!.share).toBeCloseTo(3 / 803, 12);
	expect(nozzles).toEqual([]);
});

describe('what fails more often than the rest is named by rate', () => {
	test('a slot that only one reel has stood in: its feeder or its reel, and what would tell', () => {
		const { cause, verdict } = pickReport(
			panels(40, (i) => (i % 2 ? { '9': 1 } : {})),
			SLOTS
		);
		expect(cause).toMatchObject({ kind: 'feederOrReel', name: 'F-9', slot: 9 });
		expect(verdict).toMatchObject({
			level: 'act',
			statement: expect.stringMatching(/^Slot 9 loses 2\.44 % of its picks, \d+ times as many/)
		});
		expect(verdict.doNext).toEqual(['Move the reel of slot 9 to another feeder for two panels: then it shows which']);
	});

	test('several reels were in it: the one that fails, or the feeder whatever reel is in it', () => {
		const reels = [
			{ reel: 'RL-A', loadedMs: 0 },
			{ reel: 'RL-B', loadedMs: 20_000 }
		];
		const slots = [fed(3, 40), fed(7, 80), fed(9, 20, reels)];
		const reel = pickReport(
			panels(40, (i) => (i >= 20 ? { '9': 1 } : {})),
			slots
		);
		expect(reel.cause).toMatchObject({ kind: 'reel', name: 'RL-B', slot: 9 });
		expect(reel.reels.map((r) => [r.name, r.picks, r.lost])).toEqual([
			['RL-A', 400, 0],
			['RL-B', 420, 20]
		]);
		expect(reel.verdict.doNext).toEqual(['Put another reel of P-9 on in slot 9']);
		const feeder = pickReport(
			panels(40, (i) => (i % 2 ? { '9': 1 } : {})),
			slots
		);
		expect(feeder.cause).toMatchObject({ kind: 'feeder', name: 'F-9' });
		expect(feeder.verdict.statement).toContain('whatever reel is in it');
	});

	test('a nozzle, where the machine counts by nozzle', () => {
		const nozzles = byTwo({ '3 N2': 1, '7 N2': 2 });
		const {
			cause,
			verdict,
			nozzles: groups
		} = pickReport(
			panels(30, () => ({ '3': 1, '7': 2 }), nozzles),
			SLOTS
		);
		expect(cause).toMatchObject({ kind: 'nozzle', name: 'N2', slot: null });
		expect(groups.map((n) => [n.name, n.picks, n.lost])).toEqual([
			['N1', 2100, 0],
			['N2', 2100, 90]
		]);
		expect(verdict).toMatchObject({ level: 'act', doNext: ['Clean nozzle N2, look at its vacuum and its tip'] });
	});

	test('a slot and a nozzle that always go together are not told apart', () => {
		const together = SLOTS.map(({ slot, perPanel }) => ({ slot, nozzle: `N${slot}`, picks: perPanel, lost: slot === 9 ? 1 : 0 }));
		const { cause, verdict } = pickReport(
			panels(40, () => ({ '9': 1 }), together),
			SLOTS
		);
		expect(cause).toMatchObject({ kind: 'slotOrNozzle', slot: 9, name: 'N9' });
		expect(verdict.doNext).toEqual(['Take another nozzle for slot 9 for two panels: then it shows which']);
	});

	test('half a percent of its picks is watched, a little more is acted on', () => {
		const losing = (lost: number) =>
			pickReport(
				panels(1, () => ({ '7': lost })),
				[fed(3, 4000), fed(7, 19_900), fed(9, 4000)]
			);
		// 100 of 20 000 picks; 101 of 20 001.
		expect(losing(100)).toMatchObject({ cause: { slot: 7, share: 0.005 }, verdict: { level: 'watch' } });
		expect(losing(101)).toMatchObject({ cause: { slot: 7 }, verdict: { level: 'act' } });
	});
});

test('what was cared for is judged by what it picked since', () => {
	const lost = panels(30, () => ({ '3': 1, '7': 2 }), byTwo({ '3 N2': 1, '7 N2': 2 }));
	expect(pickReport(lost, SLOTS, { N2: 29_000 }).nozzles.map((n) => [n.name, n.picks, n.lost])).toEqual([
		['N1', 2100, 0],
		['N2', 70, 3]
	]);
	expect(pickReport(lost, SLOTS, { N2: 29_001 }).cause).toBeNull();
	const feeder = panels(40, (i) => (i % 2 ? { '9': 1 } : {}));
	const caredAt = (caredMs: number) => pickReport(feeder, [fed(3, 40), fed(7, 80), { ...fed(9, 20), caredMs }]);
	expect(caredAt(0).cause?.slot).toBe(9);
	expect(caredAt(39_000).slots[2]).toMatchObject({ picks: 21, lost: 1 });
	expect(caredAt(39_001).slots[2]).toMatchObject({ picks: 0, lost: 0, share: 0 });
});

test('where nothing stands out the total is judged', () => {
	const even = pickReport(
		panels(30, () => ({ '3': 1, '7': 2 })),
		[fed(3, 40), fed(7, 80)]
	);
	expect(even.cause).toBeNull();
	expect(even.verdict).toMatchObject({ level: 'watch', statement: '2.44 % of the picks are lost.' });
	expect(even.verdict.doNext[0]).toContain('what all slots share');
	expect(
		pickReport(
			panels(30, () => ({})),
			SLOTS
		).verdict.level
	).toBe('good');
	expect(pickReport([], SLOTS).verdict.level).toBe('noData');
});

test('more lost than picked is refused by its place', () => {
	const wrong = byTwo({ '9 N1': 11 });
	expect(() =>
		pickReport(
			panels(1, () => ({ '9': 11 }), wrong),
			SLOTS
		)
	).toThrow(/slot 9, nozzle N1/);
});

test('what a machine counts by nozzle is what it counts by slot, or it is said where not', () => {
	const of = (lost: Record<string, number>, nozzles: NozzlePicks[] | null) => miscounted({ lost, nozzles });
	const two = (a: number, b: number) => [
		{ slot: 7, nozzle: 'N1', picks: 5, lost: a },
		{ slot: 7, nozzle: 'N2', picks: 5, lost: b }
	];
	expect(of({ '7': 3 }, null)).toBeNull();
	expect(of({ '7': 3 }, two(1, 2))).toBeNull();
	expect(of({}, two(0, 0))).toBeNull();
	expect(of({ '7': 2 }, two(1, 2))).toBe('slot 7: its nozzles lost 3 picks, the slot 2');
	expect(of({ '9': 1 }, two(0, 0))).toBe('slot 9: its nozzles lost 0 picks, the slot 1');
	expect(of({ '7': 5 }, two(5, 0))).toBeNull();
	expect(of({ '7': 6 }, two(6, 0))).toBe('slot 7, nozzle N1: 6 lost of 5 picks');
});
