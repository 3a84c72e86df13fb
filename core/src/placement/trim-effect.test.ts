import { describe, expect, test } from 'vitest';
import { seededRandom } from '../numerics/index.ts';
import { causeNext, judgeOffsets, offsetWords } from './judge-offsets.ts';
import { offsetCauses, type OffsetCause, type PlacedOffset } from './offset-causes.ts';
import { correctionUm, isOf, pulledBySolder, trimEffect, trimFor, type Trim } from './trim-effect.ts';

const ROW: PlacedOffset = {
	panel: 'P1',
	circuit: 0,
	refDes: 'R1',
	partNumber: 'R-10K',
	feeder: '14',
	nozzle: 'N1',
	angleDeg: 0,
	circuitDeg: 0,
	xMm: 0,
	yMm: 0,
	dxUm: 0,
	dyUm: 0
};

/** Placements of one kind on so many panels, four a panel, that sit off by so much. */
function rows(panels: number, dxUm: number, dyUm: number, more: Partial<PlacedOffset> = {}, sigmaUm = 10): PlacedOffset[] {
	const random = seededRandom(panels);
	return Array.from({ length: panels * 4 }, (_, i) => ({
		...ROW,
		panel: `P${i % panels}`,
		refDes: `R${Math.floor(i / panels)}`,
		dxUm: dxUm + sigmaUm * random.normal(),
		dyUm: dyUm + sigmaUm * random.normal(),
		...more
	}));
}

describe('what trims add', () => {
	const trim = (level: Trim['level'], name: string): Trim => ({ level, name, dxUm: 50, dyUm: 10 });

	test('a trim of the part turns with the part, one of the designator with its circuit, others lie along the panel', () => {
		expect(correctionUm([trim('part', 'R-10K')], { ...ROW, angleDeg: 90 })).toEqual({ dxUm: -10, dyUm: 50 });
		expect(correctionUm([trim('ref', 'R1')], { ...ROW, angleDeg: 90, circuitDeg: 180 })).toEqual({ dxUm: -50, dyUm: -10 });
		for (const t of [trim('feeder', '14'), trim('program', 'all')])
			expect(correctionUm([t], { ...ROW, angleDeg: 90, circuitDeg: 180 })).toEqual({ dxUm: 50, dyUm: 10 });
		const turned = correctionUm([trim('part', 'R-10K')], { ...ROW, angleDeg: 30 });
		expect(turned.dxUm).toBeCloseTo(50 * Math.cos(Math.PI / 6) - 10 * 0.5, 9);
		expect(turned.dyUm).toBeCloseTo(50 * 0.5 + 10 * Math.cos(Math.PI / 6), 9);
	});

	test('it is about its own only, and several add up', () => {
		expect(isOf({ level: 'program', name: 'all' }, ROW)).toBe(true);
		for (const [level, name] of [
			['feeder', '15'],
			['part', 'R-11K'],
			['ref', 'R2']
		] as const)
			expect(correctionUm([trim(level, name)], ROW)).toEqual({ dxUm: 0, dyUm: 0 });
		expect(correctionUm([trim('feeder', '14'), trim('ref', 'R1')], ROW)).toEqual({ dxUm: 100, dyUm: 20 });
		expect(isOf({ level: 'feeder', name: '14' }, { ...ROW, feeder: null })).toBe(false);
	});

	test('a trim of what was measured takes it away, at every angle', () => {
		for (const angleDeg of [0, 45, 90, 180, 270]) {
			const off = correctionUm([trim('part', 'R-10K')], { ...ROW, angleDeg });
			const back = correctionUm([{ ...trim('part', 'R-10K'), dxUm: -50, dyUm: -10 }], { ...ROW, angleDeg });
			expect(off.dxUm + back.dxUm).toBeCloseTo(0, 9);
			expect(off.dyUm + back.dyUm).toBeCloseTo(0, 9);
		}
	});
});

describe('which trim a cause asks for', () => {
	const offset = rows(10, -40, 4);
	const cause = (more: Partial<OffsetCause> = {}): OffsetCause => ({
		...offsetCauses([...offset, ...rows(10, 0, 0, { feeder: '9' })]).causes[0]!,
		...more
	});

	test('the median the other way round, in whole µm, along the axes that need it', () => {
		const found = cause();
		expect(found).toMatchObject({ level: 'feeder', name: '14' });
		expect(trimFor(found)).toEqual({ level: 'feeder', name: '14', dxUm: -Math.round(found.dxUm), dyUm: 0 });
	});

	test('none for what is mended by hand, for what nobody can tell apart, for what is too little', () => {
		expect(trimFor(cause({ level: 'nozzle' }))).toBeNull();
		expect(trimFor(cause({ level: 'circuit' }))).toBeNull();
		expect(trimFor(cause({ trim: null }))).toBeNull();
		expect(trimFor(cause({ tied: [{ level: 'part', name: 'R-10K' }] }))).toBeNull();
		const { trim } = cause();
		expect(trimFor(cause({ trim: { x: { ...trim!.x, correctionUm: 0.4 }, y: trim!.y } }))).toBeNull();
	});

	test('a tie asks for the swap that would tell, each other cause for its own act', () => {
		const tied = [{ level: 'part' as const, name: 'R-10K' }];
		expect(causeNext({ level: 'feeder', name: '14', tied })).toContain('Move the reel of slot 14 to another feeder');
		expect(causeNext({ level: 'part', name: 'R-10K', tied: [{ level: 'feeder', name: '14' }] })).toContain('reel of slot 14');
		expect(causeNext({ level: 'nozzle', name: 'N2', tied: [{ level: 'ref', name: 'U4' }] })).toBe(
			'Take another nozzle for U4 for two panels: then it shows which'
		);
		expect(causeNext({ level: 'nozzle', name: 'N2', tied: [] })).toContain('Clean nozzle N2');
		expect(causeNext({ level: 'board', name: 'panels', tied: [] })).toContain('no trim mends this');
	});
});

describe('what became of it', () => {
	const trim: Trim = { level: 'feeder', name: '14', dxUm: 40, dyUm: 0 };

	test('gone when what is left is not worth another, left when it is', () => {
		expect(trimEffect(trim, rows(20, 3, -2))).toMatchObject({ state: 'gone', rows: 80 });
		expect(trimEffect(trim, rows(20, 30, 0))).toMatchObject({ state: 'left' });
		expect(trimEffect(trim, rows(20, 0, 30))).toMatchObject({ state: 'left' });
		// Exactly 15 µm is let be, more is not.
		expect(trimEffect(trim, rows(20, 15, 0, {}, 0)).state).toBe('gone');
		expect(trimEffect(trim, rows(20, 15.1, 0, {}, 0)).state).toBe('left');
	});

	test('along both axes at once it is its length that counts, as the search of causes counts it', () => {
		const of = (each: number) => trimEffect({ level: 'program', name: 'all', dxUm: 1, dyUm: 0 }, rows(20, each, each, {}, 2)).state;
		expect([of(13), of(9)]).toEqual(['left', 'gone']);
	});

	test('it waits for three panels and for enough placements of its own', () => {
		expect(trimEffect(trim, [])).toMatchObject({ state: 'waits', rows: 0 });
		expect(trimEffect(trim, rows(2, 0, 0, {}, 0)).state).toBe('waits');
		expect(trimEffect(trim, rows(3, 0, 0, {}, 0)).state).toBe('gone');
		expect(trimEffect(trim, rows(20, 0, 0, { feeder: '15' })).state).toBe('waits');
		const few = trimEffect(trim, rows(4, 0, 0, {}, 40));
		expect(few).toMatchObject({ state: 'waits', rows: 16 });
		expect(few.needed).toBeGreaterThan(16);
	});

	test('a part’s is measured along the part', () => {
		const since = rows(20, 0, 30, { angleDeg: 90 });
		const effect = trimEffect({ ...trim, level: 'part', name: 'R-10K' }, since);
		expect(Math.abs(effect.dxUm - 30)).toBeLessThan(5);
		expect(Math.abs(effect.dyUm)).toBeLessThan(5);
	});
});

describe('the verdict', () => {
	test('nothing measured, too few panels, all well, and what is off', () => {
		expect(judgeOffsets(offsetCauses([]), false).level).toBe('noData');
		expect(judgeOffsets(offsetCauses(rows(2, 0, 0)), false).statement).toContain('on 2 panels yet');
		expect(judgeOffsets(offsetCauses(rows(3, 0, 0)), false).level).toBe('good');
		const off = judgeOffsets(offsetCauses([...rows(10, 40, 0), ...rows(10, 0, 0, { feeder: '9' })]), false);
		expect(off).toMatchObject({ level: 'act', statement: expect.stringMatching(/^What slot 14 feeds sits (3[6-9]|4[0-4]) µm right/) });
		expect(off.because[0]!.formula).toContain('before the oven');
		expect(judgeOffsets(offsetCauses(rows(3, 0, 0)), true).because[0]!.formula).toContain('left out');
	});

	test('directions as the panel lies', () => {
		expect(offsetWords({ dxUm: 34.4, dyUm: -5.2 })).toBe('34 µm right and 5 µm down');
		expect(offsetWords({ dxUm: -7, dyUm: 0.2 })).toBe('7 µm left');
		expect(offsetWords({ dxUm: 0, dyUm: 12 })).toBe('12 µm up');
		expect(offsetWords({ dxUm: 0, dyUm: 0 })).toBe('0 µm');
	});

	test('solder pulls chips and ball grids into place, not leaded parts', () => {
		expect((['chip', 'ballGrid', 'leaded', 'noLead', 'connector'] as const).map(pulledBySolder)).toEqual([true, true, false, false, false]);
	});
});
