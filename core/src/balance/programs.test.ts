import { describe, expect, test } from 'vitest';
import { panelGeometry, type BoardPart } from '../artwork/index.ts';
import { outOfOrder, type PlacerSpec } from '../placement/index.ts';
import {
	headProgram,
	lineWork,
	moveFeeder,
	moveToCycle,
	reorderCycle,
	movePart,
	optimiseLine,
	planLine,
	programCsv,
	programJson,
	programRows,
	readProgram,
	type LinePlan
} from './index.ts';

const FAST: PlacerSpec = {
	name: 'Fast',
	slots: 20,
	slotPitchMm: 14,
	cameraSlot: 10,
	onTheFly: true,
	spindles: 6,
	headPitchMm: 14,
	x: { vMmS: 1500, aMmS2: 20000 },
	y: { vMmS: 1500, aMmS2: 18000 },
	pickS: 0.05,
	placeS: 0.06,
	cameraS: 0.2,
	transferS: 3,
	fiducialS: 0.4,
	accuracyUm: 50,
	accuracySigmas: 3,
	smallestMm: 0.25,
	largestMm: 10,
	tallestMm: 4,
	finestPitchMm: 0.5,
	trays: false
};
const WIDE: PlacerSpec = {
	...FAST,
	name: 'Wide',
	onTheFly: false,
	spindles: 4,
	largestMm: 50,
	tallestMm: 20,
	finestPitchMm: 0.3,
	trays: true
};

/** Five part types on a grid: chips, a small outline part, and a controller that only the second machine takes. */
const part = (refDes: string, partNumber: string, packageName: string, i: number): BoardPart => ({
	refDes,
	partNumber,
	value: partNumber,
	packageName,
	xMm: 3 + ((i * 7) % 34),
	yMm: 3 + ((i * 11) % 24),
	rotationDeg: 0,
	fitted: true,
	apertures: []
});
const PARTS = [
	...Array.from({ length: 14 }, (_, i) => part(`R${i + 1}`, 'R-10K', 'RESC1005X40N', i)),
	...Array.from({ length: 9 }, (_, i) => part(`C${i + 1}`, 'C-100N', 'CAPC1005X55N', i + 14)),
	...Array.from({ length: 5 }, (_, i) => part(`D${i + 1}`, 'D-1', 'SOT95P237X112-3', i + 23)),
	part('U1', 'U-1', 'QFN50P700X700X90-49', 28),
	part('J1', 'J-1', 'CONN_24X8X9', 29)
];
const PANEL = panelGeometry(
	{ widthMm: 40, heightMm: 30 },
	{ rows: 1, columns: 2, pitchXMm: 42, pitchYMm: 32, railMm: 5, fiducials: [{ x: 2.5, y: 2.5 }] }
);
const work = lineWork(PARTS, PANEL, [FAST, WIDE]);
const start = planLine(PARTS, PANEL, [FAST, WIDE]);
const taktS = (plan: Pick<LinePlan, 'machines'>) => Math.max(...plan.machines.map((m) => m.totalS));

/** Every placement once, feeders that do not overlap, and what is counted is what is placed. */
function whole(plan: Pick<LinePlan, 'machines'>): void {
	const placed = plan.machines.flatMap((m) => headProgram(work, m)!.cycles.flatMap(({ held }) => held.filter((p) => p !== null)));
	expect(new Set(placed).size).toBe(work.placements.length);
	expect(placed).toHaveLength(work.placements.length);
	for (const m of plan.machines) {
		const slots = m.loadList.flatMap(({ slot, slots: n }) => Array.from({ length: n }, (_, i) => slot + i));
		expect(new Set(slots).size).toBe(slots.length);
		expect(m.loadList.reduce((sum, load) => sum + load.perPanel, 0)).toBe(m.placements);
		expect(outOfOrder(headProgram(work, m)!)).toEqual([]);
		expect(m.totalS).toBeGreaterThanOrEqual(m.head!.boundS - 1e-9);
	}
}

describe('one placement moved by hand', () => {
	const plan = start.machines.find((m) => m.head!.cycles.length > 2)!;
	const orderOf = (m: typeof plan, cycle: number) => m.head!.cycles[cycle]!.order.map((s) => m.head!.cycles[cycle]!.held[s]!.join('.'));
	const all = (m: typeof plan) => m.head!.cycles.flatMap((_, c) => orderOf(m, c)).sort();

	test('earlier in its cycle: it changes places with the one before, and the rest stays', () => {
		const moved = reorderCycle(work, plan, 1, 2, 1);
		const [before, after] = [orderOf(plan, 1), orderOf(moved, 1)];
		expect(after).toEqual([before[0], before[2], before[1], ...before.slice(3)]);
		expect(orderOf(moved, 0)).toEqual(orderOf(plan, 0));
		expect(moved.loadList).toEqual(plan.loadList);
		expect(reorderCycle(work, moved, 1, 1, 2).totalS).toBeCloseTo(plan.totalS, 9);
	});

	test('into another cycle: onto a free spindle, else in exchange; nothing is lost, and it is placed there last', () => {
		const last = plan.head!.cycles.length - 1;
		for (const [from, to] of [
			[0, 1],
			[0, last],
			[last, 0]
		] as const) {
			const [spindle] = plan.head!.cycles[from]!.order as [number];
			const name = plan.head!.cycles[from]!.held[spindle]!.join('.');
			const moved = moveToCycle(work, plan, { cycle: from, spindle }, to);
			expect(all(moved)).toEqual(all(plan));
			const cycles = moved.head!.cycles.map((_, c) => orderOf(moved, c));
			const here = cycles.findIndex((order) => order.includes(name));
			expect(cycles[here]!.at(-1)).toBe(name);
			// Its tip stays what it was.
			const { held } = moved.head!.cycles[here]!;
			const there = held.findIndex((p) => p?.join('.') === name);
			expect(moved.head!.nozzles[there]).toBe(plan.head!.nozzles[spindle]);
		}
	});

	test('the last part of a cycle takes the cycle with it', () => {
		let plan2 = plan;
		const cycles = plan.head!.cycles.length;
		const last = () => plan2.head!.cycles.length - 1;
		// Parts of the last cycle go to cycles with a free spindle, as long as there are any.
		for (let tries = 0; tries < 40 && plan2.head!.cycles.length === cycles; tries++) {
			const [spindle] = plan2.head!.cycles[last()]!.order as [number];
			const nozzle = plan2.head!.nozzles[spindle];
			const to = plan2.head!.cycles.findIndex(
				({ held }, c) => c < last() && held.some((p, s) => p === null && plan2.head!.nozzles[s] === nozzle)
			);
			if (to < 0) break;
			plan2 = moveToCycle(work, plan2, { cycle: last(), spindle }, to);
		}
		expect(all(plan2)).toEqual(all(plan));
		expect(plan2.head!.cycles.every(({ order }) => order.length > 0)).toBe(true);
	});

	test('what cannot be is refused in words', () => {
		expect(() => reorderCycle(work, plan, 99, 0, 1)).toThrow('cycle: expected 1 to');
		expect(() => reorderCycle(work, plan, 0, 0, 99)).toThrow('place: expected 1 to');
		expect(() => reorderCycle(work, plan, 0, -1, 0)).toThrow('place: expected 1 to');
		const [spindle] = plan.head!.cycles[0]!.order as [number];
		expect(() => moveToCycle(work, plan, { cycle: 0, spindle }, 0)).toThrow('another cycle');
		expect(() => moveToCycle(work, plan, { cycle: 0, spindle }, -1)).toThrow('cycle: expected 1 to');
		expect(() => moveToCycle(work, plan, { cycle: 0, spindle: 77 }, 1)).toThrow('spindle');
		const { head: _, ...wayless } = plan;
		expect(() => moveToCycle(work, wayless, { cycle: 0, spindle }, 1)).toThrow('build it anew');
	});
});

describe('a line’s programs', () => {
	test('the plan holds the way of every head', () => {
		expect(start.machines.reduce((sum, m) => sum + m.placements, 0)).toBe(2 * PARTS.length);
		whole(start);
	});

	test('the search never gets slower, tells each step, and ends whole', () => {
		const steps = [...optimiseLine(work, start, { tries: 2000, rounds: 2 })];
		expect(steps.map(({ done }) => done)).toEqual([1, 2, 3, 4, 5, 6]);
		expect(steps.every(({ of }) => of === 6)).toBe(true);
		const times = steps.map(({ plan }) => taktS(plan));
		times.reduce((before, now) => {
			expect(now).toBeLessThanOrEqual(before + 1e-9);
			return now;
		}, taktS(start));
		expect(times.at(-1)!).toBeLessThan(0.97 * taktS(start));
		whole(steps.at(-1)!.plan);
	});

	test('pinned feeders stay where they are', () => {
		const [load] = start.machines[0]!.loadList;
		const pinned = { Fast: start.machines[0]!.loadList.map((l) => l.partNumber) };
		let plan = start;
		for (const step of optimiseLine(work, start, { tries: 2000, rounds: 1, pinned })) plan = step.plan;
		expect(plan.machines[0]!.loadList.find((l) => l.partNumber === load!.partNumber)!.slot).toBe(load!.slot);
	});

	test('where the first machine is to be slower, the later ones are faster than it by that much, or the deal cannot do it', () => {
		const equal = planLine(PARTS, PANEL, [FAST, { ...FAST, name: 'Fast 2' }, WIDE]);
		const front = planLine(PARTS, PANEL, [FAST, { ...FAST, name: 'Fast 2' }, WIDE], undefined, 12);
		const ratio = (plan: LinePlan) => Math.max(plan.machines[1]!.totalS, plan.machines[2]!.totalS) / plan.machines[0]!.totalS;
		expect(ratio(front)).toBeLessThanOrEqual(ratio(equal));
	});

	test('a type that one machine alone would be slow with is shared where that pays', () => {
		const many = Array.from({ length: 30 }, (_, i) => part(`R${i + 1}`, 'R-10K', 'RESC1005X40N', i));
		const two = [FAST, { ...FAST, name: 'Fast 2' }];
		const only = lineWork(many, PANEL, two);
		const first = planLine(many, PANEL, two);
		expect(first.machines.map((m) => m.placements).sort((a, b) => a - b)).toEqual([0, 60]);
		let plan = first;
		for (const step of optimiseLine(only, first, { tries: 1500, rounds: 2 })) plan = step.plan;
		expect(Math.min(...plan.machines.map((m) => m.placements))).toBeGreaterThan(15);
		expect(plan.machines.reduce((sum, m) => sum + m.placements, 0)).toBe(60);
		expect(taktS(plan)).toBeLessThan(0.8 * taktS(first));
	});

	test('a part is moved to another machine by hand, and one that it cannot place is not', () => {
		const from = start.machines.findIndex((m) => m.loadList.some((load) => load.partNumber === 'C-100N'));
		const plans = movePart(work, start.machines, 'C-100N', from, 1 - from);
		expect(plans[1 - from]!.loadList.find((load) => load.partNumber === 'C-100N')!.perPanel).toBe(18);
		expect(plans[from]!.loadList.some((load) => load.partNumber === 'C-100N')).toBe(false);
		whole({ machines: plans });
		expect(() => movePart(work, start.machines, 'J-1', 1, 0)).toThrow('one that Fast can place: body 24 mm');
	});

	test('a feeder goes to a free slot, exchanges with one as wide, and is refused elsewhere', () => {
		const m = start.machines[0]!;
		const [a, b] = m.loadList;
		const free = Array.from({ length: 20 }, (_, i) => i + 1).find((slot) =>
			m.loadList.every((l) => slot < l.slot || slot >= l.slot + l.slots)
		)!;
		expect(moveFeeder(work, m, a!.partNumber, free).loadList.find((l) => l.partNumber === a!.partNumber)!.slot).toBe(free);
		const swapped = moveFeeder(work, m, a!.partNumber, b!.slot);
		expect(swapped.loadList.map((l) => [l.partNumber, l.slot])).toEqual(
			expect.arrayContaining([
				[a!.partNumber, b!.slot],
				[b!.partNumber, a!.slot]
			])
		);
		expect(swapped.placements).toBe(m.placements);
		expect(() => moveFeeder(work, m, a!.partNumber, 21)).toThrow('slot: expected 1 to 20');
		expect(() => moveFeeder(work, m, a!.partNumber, 0)).toThrow('slot');
	});
});

describe('files', () => {
	const csv = programCsv(start);
	const rows = csv.trim().split('\r\n');

	test('a program goes out and comes back the same, as CSV and as JSON', () => {
		expect(programRows(start)).toHaveLength(2 * PARTS.length);
		for (const text of [csv, programJson(start, { board: 'Gauge', side: 'top', line: 'Line 1' })]) {
			const { plan, issues } = readProgram(text, work);
			expect(issues).toEqual([]);
			expect(plan!.machines.map(({ machine, totalS, loadList }) => [machine, totalS.toFixed(9), loadList])).toEqual(
				start.machines.map(({ machine, totalS, loadList }) => [machine, totalS.toFixed(9), loadList])
			);
		}
	});

	test('one made elsewhere, with its own titles and semicolons, is read', () => {
		const elsewhere = [
			'# from the other plant',
			'Placer;RefDes;Board;Turn;Head;Track',
			...rows.slice(1).map((row) => {
				const [machine, cycle, spindle, , slot, , designator, circuit] = row.split(',');
				return [machine, designator!.toLowerCase(), circuit, cycle, spindle, slot].join(';');
			})
		].join('\n');
		const { plan, issues } = readProgram(elsewhere, work);
		expect(issues).toEqual([]);
		expect(taktS(plan!)).toBeCloseTo(taktS(start), 9);
	});

	const change = (n: number, at: number, value: string) => {
		const cells = rows[n]!.split(',');
		cells[at] = value;
		return [...rows.slice(0, n), cells.join(','), ...rows.slice(n + 1)].join('\n');
	};
	test.each([
		{
			what: 'another machine',
			text: change(1, 0, 'Slow'),
			code: 'unknown_machine',
			line: 2,
			says: '“Slow” is no placer of this line: Fast, Wide.'
		},
		{
			what: 'a spindle too far',
			text: change(1, 2, '7'),
			code: 'out_of_range',
			line: 2,
			says: 'spindle “7” is not a whole number from 1 to'
		},
		{
			what: 'a slot too far',
			text: change(1, 4, '21'),
			code: 'out_of_range',
			line: 2,
			says: 'slot “21” is not a whole number from 1 to 20.'
		},
		{ what: 'no number', text: change(1, 1, '1.5'), code: 'out_of_range', line: 2, says: 'cycle “1.5”' },
		{
			what: 'a circuit too many',
			text: change(1, 7, '3'),
			code: 'out_of_range',
			line: 2,
			says: 'circuit “3” is not a whole number from 1 to 2.'
		},
		{ what: 'an unknown part', text: change(1, 6, 'R99'), code: 'unknown_part', line: 2, says: 'R99 is no fitted part of this side.' },
		{ what: 'another part number', text: change(1, 5, 'X-1'), code: 'other_part', line: 2, says: 'not X-1.' },
		{
			what: 'the same part twice',
			text: [...rows, rows[1]].join('\n'),
			code: 'placed_twice',
			line: rows.length + 1,
			says: 'is placed on line 2 already.'
		},
		{
			what: 'a part that is missing',
			text: rows.slice(0, -1).join('\n'),
			code: 'not_placed',
			line: undefined,
			says: '1 of 60 placements are in no row'
		},
		{
			what: 'no titles',
			text: 'a,b,c\n1,2,3\n',
			code: 'unreadable',
			line: undefined,
			says: 'No line has the titles cycle, spindle, slot, designator'
		},
		{ what: 'broken JSON', text: '{"placements": [', code: 'unreadable', line: undefined, says: 'begins like JSON and is none' },
		{ what: 'JSON without a list', text: '{"a": 1}', code: 'unreadable', line: undefined, says: 'no list “placements”' }
	])('$what is named, with its line, and nothing is planned', ({ text, code, line, says }) => {
		const { plan, issues } = readProgram(text, work);
		expect(plan).toBeNull();
		const issue = issues.find((i) => i.code === code)!;
		expect(issue.line).toBe(line);
		expect(issue.message).toContain(says);
	});

	test('two parts on one spindle, two slots for one part, two parts in one slot, and a part that a machine cannot place', () => {
		const row = (cells: string) => `machine,cycle,spindle,slot,designator,circuit\n${cells}`;
		const codes = (text: string) => readProgram(row(text), work).issues.map((i) => i.code);
		expect(codes('Fast,1,1,5,R1,1\nFast,1,1,5,R2,1')).toContain('spindle_taken');
		expect(codes('Fast,1,1,5,R1,1\nFast,1,2,6,R2,1')).toContain('two_slots');
		expect(codes('Fast,1,1,5,R1,1\nFast,1,2,5,C1,1')).toContain('slot_taken');
		expect(codes('Fast,1,1,5,J1,1')).toContain('cannot_place');
		expect(codes('Fast,1,1,5,R1,1\nFast,2,1,9,D1,1')).toContain('tip');
	});

	test('a tall part before a low one beside it can be run, and is named', () => {
		const near = [
			{ ...part('R1', 'R-10K', 'RESC1005X40N', 0), xMm: 20, yMm: 10 },
			{ ...part('J1', 'J-1', 'CONN_24X8X9', 0), xMm: 20, yMm: 15 }
		];
		const two = lineWork(near, PANEL, [FAST, WIDE]);
		const text = `machine,cycle,spindle,slot,designator,circuit\nWide,1,2,8,J1,1\nWide,2,1,5,R1,1\nWide,3,2,8,J1,2\nWide,4,1,5,R1,2\n`;
		const { plan, issues } = readProgram(text, two);
		expect(plan!.machines[1]!.placements).toBe(4);
		expect(issues.map(({ code, severity }) => [code, severity])).toEqual([
			['order', 'warning'],
			['order', 'warning']
		]);
		expect(issues[0]!.message).toBe('Wide places R1 after J1 of circuit 1, which stands beside it and is taller or finer.');
	});
});
