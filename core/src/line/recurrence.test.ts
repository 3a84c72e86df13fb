import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { InputError } from '../judgement/index.ts';
import { lineTimes, type BeltStage, type LineStage, type MachineStage } from './index.ts';

const machine = (name: string, serviceS: readonly number[], placesBefore = 0): MachineStage => ({
	kind: 'machine',
	name,
	serviceS,
	placesBefore
});
const each = (panels: number, seconds: number, more: (k: number) => number = () => 0) =>
	Array.from({ length: panels }, (_, k) => seconds + more(k));
const oven = (more: Partial<BeltStage> = {}): BeltStage => ({
	kind: 'belt',
	name: 'Oven',
	headwayS: 15,
	transitS: 240,
	placesBefore: 1,
	gate: 'blind',
	...more
});

describe('machines in a row', () => {
	test('30, 25 and 28 s without buffers: the first panel is out after 83 s, the twentieth after 653; the slowest starves nobody', () => {
		const { stages, firstOutS, lastOutS } = lineTimes([machine('A', each(20, 30)), machine('B', each(20, 25)), machine('C', each(20, 28))]);
		expect([firstOutS, lastOutS]).toEqual([83, 653]);
		expect(stages.map((s) => s.starvedS)).toEqual([0, 95, 38]);
		expect(stages.every((s) => s.mostWaiting === null)).toBe(true);
	});

	test.each([
		[0, 1720],
		[2, 1680],
		[6, 1600]
	])('stops of 120 s on two machines, %i places between them: the last panel is out after %i s', (places, lastOutS) => {
		const stops = (at: readonly number[]) => (k: number) => (at.includes(k) ? 120 : 0);
		const line = [
			machine('A', each(60, 20)),
			machine('B', each(60, 20, stops([14, 40])), places),
			machine('C', each(60, 20, stops([25, 50])), places)
		];
		expect(lineTimes(line).lastOutS).toBe(lastOutS);
	});

	test.each([
		[20, 4340, 123.3, 5.682],
		[21, 4350, 105.295, 4.841],
		[22, 4440, 85.25, 3.84]
	])('a first machine of %i s: out after %i s, %f s on the line, %f panels', (firstS, lastOutS, leadS, panels) => {
		const line = lineTimes([
			machine('A', each(200, firstS)),
			machine(
				'B',
				each(200, 20, (k) => (k % 40 === 9 ? 60 : 0)),
				3
			),
			machine('C', each(200, 20), 3)
		]);
		expect(line.lastOutS).toBe(lastOutS);
		expect(line.meanLeadS).toBeCloseTo(leadS, 2);
		expect(line.meanPanels).toBeCloseTo(panels, 3);
	});

	test('a machine that waits for room is blocked, and a bigger buffer never makes a line later', () => {
		const { stages } = lineTimes([machine('A', each(3, 10)), machine('B', each(3, 25))]);
		expect(stages[0]!.blockedS).toBe(15 + 15);
		expect(stages[1]!.starvedS).toBe(0);
		const service = fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 12, maxLength: 12 });
		fc.assert(
			fc.property(fc.tuple(service, service, service), fc.integer({ min: 0, max: 4 }), ([a, b, c], places) => {
				const out = (room: number) => lineTimes([machine('A', a), machine('B', b, room), machine('C', c, room)]).lastOutS;
				expect(out(places + 1)).toBeLessThanOrEqual(out(places));
				expect(out(0)).toBeGreaterThanOrEqual(Math.max(...[a, b, c].map((s) => s.reduce((x, y) => x + y, 0))));
			})
		);
	});

	test('panels never overtake, and none is begun before it is there', () => {
		const service = fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 10, maxLength: 10 });
		fc.assert(
			fc.property(fc.array(service, { minLength: 1, maxLength: 5 }), fc.integer({ min: 0, max: 3 }), (all, places) => {
				const { stages } = lineTimes(all.map((s, i) => machine(`M${i}`, s, places)));
				for (const [i, stage] of stages.entries())
					for (let k = 0; k < 10; k++) {
						expect(stage.leftS[k]! - stage.startS[k]!).toBeGreaterThanOrEqual(all[i]![k]!);
						if (k > 0) expect(stage.startS[k]).toBeGreaterThanOrEqual(stage.leftS[k - 1]!);
						if (i > 0) expect(stage.startS[k]).toBeGreaterThanOrEqual(stages[i - 1]!.leftS[k]!);
					}
			})
		);
	});
});

describe('an oven is a belt', () => {
	const line = (belt: BeltStage, placesAfter: number): LineStage[] => [
		machine('Place', each(50, 20)),
		belt,
		machine(
			'Optical',
			each(50, 18, (k) => (k === 10 ? 200 : 0)),
			placesAfter
		)
	];

	test('blind: what is inside comes out although the machine behind it stands, and ten panels wait there', () => {
		const { stages, lastOutS } = lineTimes(line(oven(), 6));
		expect(lastOutS).toBe(1380);
		expect(stages[1]!.mostWaiting).toBe(10);
	});

	test.each([
		[6, 2158],
		[14, 1396]
	])('safe, %i places behind it: no panel is trapped, the last one is out after %i s', (places, lastOutS) => {
		const { stages, ...all } = lineTimes(line(oven({ gate: 'safe' }), places));
		expect(all.lastOutS).toBe(lastOutS);
		expect(stages[1]!.mostWaiting).toBeLessThanOrEqual(places);
	});

	test('panels go in a headway apart, come out as long after as the belt takes, and hold up what is before them', () => {
		const slow = lineTimes([machine('A', each(4, 5)), oven({ headwayS: 30, placesBefore: 0 })]);
		expect(slow.stages[1]!.startS).toEqual([5, 35, 65, 95]);
		expect(slow.stages[1]!.leftS).toEqual([245, 275, 305, 335]);
		expect(slow.stages[0]!.blockedS).toBe(25 * 3);
		const roomy = lineTimes([machine('A', each(4, 5)), oven({ headwayS: 30, placesBefore: 2 })]);
		expect(roomy.stages[0]!.leftS).toEqual([5, 10, 15, 35]);
		expect(roomy.stages[1]!.mostWaiting).toBe(0);
	});
});

test('what cannot be is refused with its stage and field', () => {
	const refused = (stages: readonly LineStage[]) => {
		try {
			lineTimes(stages);
			return null;
		} catch (error) {
			return error instanceof InputError ? `${error.code} ${error.path}` : error;
		}
	};
	const good = machine('A', [20, 20]);
	expect(refused([good])).toBeNull();
	expect(refused([])).toBe('empty stages');
	expect(refused([oven()])).toBe('empty stages');
	expect(refused([good, machine('B', [20])])).toBe('mismatch stages.1.serviceS');
	expect(refused([good, machine('B', [20, -1])])).toBe('out-of-range stages.1.serviceS');
	expect(refused([good, machine('B', [0, 0])])).toBeNull();
	expect(refused([good, machine('B', [20, 20], 0.5)])).toBe('out-of-range stages.1.placesBefore');
	expect(refused([good, machine('B', [20, 20], -1)])).toBe('out-of-range stages.1.placesBefore');
	expect(refused([good, oven({ headwayS: 0 })])).toBe('out-of-range stages.1.headwayS');
	expect(refused([good, oven({ transitS: -1 })])).toBe('out-of-range stages.1.transitS');
	expect(refused([good, oven(), oven()])).toBe('out-of-range stages.1.kind');
});
