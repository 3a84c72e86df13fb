import { describe, expect, test } from 'vitest';
import type { PadClass } from '../parts/index.ts';
import { boardSideAreaMm2 } from '../stencil/index.ts';
import {
	DEPOSIT_LIMITS,
	factorsOfRun,
	gaugeByClass,
	outcomesOfRun,
	panelPads,
	transferGroups,
	type PanelPad,
	type SignatureRun
} from './index.ts';

const pad = (more: Partial<PanelPad>): PanelPad => ({
	name: 'R1 pin 1',
	refDes: '0/R1',
	pin: '1',
	padClass: 'chip',
	shape: 'rectangle',
	sizeXMm: 0.5,
	sizeYMm: 0.5,
	foilUm: 100,
	areaMm2: 0.25,
	perimeterMm: 2,
	xMm: 0,
	yMm: 0,
	minSideMm: 0.5,
	areaRatio: 1.25,
	...more
});

/** @param volumes panel by panel */
const run = (
	pads: PanelPad[],
	volumes: number[][],
	more: Partial<Omit<SignatureRun, 'pads'>> = {}
): Omit<SignatureRun, 'pads'> & { pads: PanelPad[] } => {
	const n = pads.length * volumes.length;
	const fill = (v: number) => new Float32Array(n).fill(v);
	return {
		pads,
		panels: volumes.map((_, m) => ({
			serial: `P${m}`,
			tMin: m,
			stroke: 'F',
			printsSinceWipe: m,
			printsSinceTopup: m,
			minutesSincePrevious: 1
		})),
		volumePct: Float32Array.from(volumes.flat()),
		heightUm: fill(100),
		areaPct: fill(100),
		offsetXUm: fill(0),
		offsetYUm: fill(0),
		foilUm: 100,
		strokeAxis: 'y',
		...more
	};
};

describe('pads of a panel', () => {
	const side = (rotationDeg: number) => ({
		side: 'top' as const,
		widthMm: 20,
		heightMm: 10,
		panel: {
			rows: 1,
			columns: 1,
			pitchXMm: 0,
			pitchYMm: 0,
			railMm: 0,
			fiducials: [],
			free: {
				widthMm: 60,
				heightMm: 40,
				circuits: [{ x: 30, y: 5, rotationDeg }, ...(rotationDeg ? [] : [{ x: 5, y: 5, rotationDeg: 0 }])]
			}
		},
		apertures: [
			{
				index: 0,
				line: 4,
				refDes: 'U7',
				pin: '23',
				net: null,
				shape: 'rectangle',
				padClass: 'fineLead' as PadClass,
				centre: { x: 2, y: 1 },
				outline: [
					{ x: 1, y: 0.8 },
					{ x: 3, y: 0.8 },
					{ x: 3, y: 1.2 },
					{ x: 1, y: 1.2 }
				],
				areaMm2: 0.8,
				perimeterMm: 4.8,
				widthMm: 0.4,
				lengthMm: 2
			}
		] as never
	});

	test('in the panel’s frame, with the sizes of the opening as they lie there', () => {
		const [first, second] = panelPads(side(0), 125);
		expect(first).toMatchObject({
			name: 'U7 pin 23, circuit 1',
			refDes: '0/U7',
			xMm: 32,
			yMm: 6,
			sizeXMm: 2,
			sizeYMm: expect.closeTo(0.4, 9)
		});
		expect(second).toMatchObject({ name: 'U7 pin 23, circuit 2', refDes: '1/U7', xMm: 7 });
		expect(first!.areaRatio).toBeCloseTo(0.8 / (4.8 * 0.125), 9);
		expect(first!.minSideMm).toBe(0.4);
	});

	test('of a turned circuit length and width change places; one circuit needs no number', () => {
		const [turned] = panelPads(side(90), 125);
		expect(turned).toMatchObject({ name: 'U7 pin 23', sizeXMm: expect.closeTo(0.4, 9), sizeYMm: 2 });
		expect([turned!.xMm, turned!.yMm]).toEqual([29, 7]);
	});
});

describe('the unit’s own factor', () => {
	test('by class of pad: the middle of volume over area × height; classes without readings are left out', () => {
		const pads = [pad({}), pad({ padClass: 'large' }), pad({ padClass: 'fineLead' })];
		const factors = factorsOfRun(
			run(
				pads,
				[
					[90, 120, NaN],
					[110, 120, 0],
					[95, 120, NaN]
				],
				{}
			)
		);
		expect(factors).toEqual([
			{ group: 'chip', factor: expect.closeTo(0.95, 6), readings: 3 },
			{ group: 'large', factor: expect.closeTo(1.2, 6), readings: 3 }
		]);
	});
});

describe('repeatability by class', () => {
	test('only classes that were measured twice, against their own volume limits', () => {
		const pads = [pad({}), pad({}), pad({ padClass: 'large' })];
		const [row, ...others] = gaugeByClass(pads, [[100, 102], [98, 100], [99]], DEPOSIT_LIMITS);
		const [low, high] = DEPOSIT_LIMITS.chip.volumePct.fail;
		expect(others).toEqual([]);
		expect(row).toMatchObject({ padClass: 'chip', pads: 2 });
		expect(row!.sigma).toBeCloseTo(Math.SQRT2, 9);
		expect(row!.share).toBeCloseTo((6 * Math.SQRT2) / (high - low), 9);
	});
});

describe('outcomes of deposits', () => {
	const pads = [
		pad({ name: 'R1 pin 1', pin: '1', minSideMm: 0.5 }),
		pad({ name: 'R1 pin 2', pin: '2', minSideMm: 0.5 }),
		pad({ name: 'R9', refDes: '1/R9', pin: null }),
		pad({ name: 'mark', refDes: null })
	];
	const readings = run(pads, [
		[100, 60, 100, 100],
		[100, 100, NaN, 100]
	]);
	readings.offsetXUm[0] = 30;
	readings.offsetYUm[0] = 40;
	const visits = [
		{ passId: 7, circuit: 0 },
		{ passId: 8, circuit: 0 },
		{ passId: 8, circuit: 1 }
	];
	const call = (passId: number, pin: string | null) => ({ passId, circuit: 0, refDes: 'R1', pin });
	const defects = (calls: ReturnType<typeof call>[]) => outcomesOfRun(readings, [7, 8], visits, calls).map(({ outcome }) => outcome.defect);

	test('only what was looked at afterwards and was measured counts', () => {
		const all = outcomesOfRun(readings, [7, 8], visits, []);
		// Circuit 1 of the first panel was not looked at; of the second its pad was not measured; a mark belongs to no circuit.
		expect(all).toHaveLength(4);
		// 30 and 40 µm on a pad of 0.5 mm: the larger share of the two axes.
		expect(all[0]).toEqual({ padClass: 'chip', outcome: { volumePct: 100, offsetShare: expect.closeTo(0.08, 9), defect: false } });
	});

	test('a call with a pin is that pin’s, one without is the part’s worst deposit; a call elsewhere is nobody’s', () => {
		expect(defects([call(7, '1')])).toEqual([true, false, false, false]);
		expect(defects([call(7, null)])).toEqual([false, true, false, false]);
		expect(defects([call(8, '2')])).toEqual([false, false, false, true]);
		expect(defects([{ ...call(7, '1'), refDes: 'R5' }, call(99, '1')])).toEqual([false, false, false, false]);
	});
});

describe('what the transfer curve is fitted to', () => {
	test('openings of one shape and area ratio together: pads counted once, volumes averaged', () => {
		const pads = [pad({ areaRatio: 0.66 }), pad({ areaRatio: 0.661 }), pad({ areaRatio: 0.9 }), pad({ areaRatio: 0.66, shape: 'circle' })];
		const groups = transferGroups(
			run(pads, [
				[80, 90, 100, 70],
				[84, NaN, 100, NaN]
			]),
			null
		);
		expect(groups.map((g) => [g.shape, g.pads])).toEqual([
			['circle', 1],
			['rectangle', 2],
			['rectangle', 1]
		]);
		expect(groups[1]!.efficiency).toBeCloseTo((0.8 + 0.9 + 0.84) / 3, 6);
		expect(groups[1]!.areaRatio).toBeCloseTo(0.6605, 9);
	});

	test('where the walls taper, the opening holds more than what was drawn; what was never measured is left out', () => {
		const one = pad({});
		const held = (1 + boardSideAreaMm2(one, 10) / one.areaMm2) / 2;
		expect(transferGroups(run([one], [[100]]), 10)[0]!.efficiency).toBeCloseTo(1 / held, 6);
		expect(transferGroups(run([one], [[NaN]]), 10)).toEqual([]);
	});
});
