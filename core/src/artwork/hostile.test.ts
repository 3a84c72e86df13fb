import { describe, expect, test } from 'vitest';
import { readBom, readPasteLayer, readPositions } from './index.ts';

// Files that were made to hurt, or that a broken program wrote: an answer in words, soon, and never a wrong drawing in silence.

const HEAD = '%FSLAX34Y34*%\n%MOMM*%\n';
const END = 'M02*\n';
const square = ['X0Y0D02*', 'X100000Y0D01*', 'X100000Y100000D01*', 'X0Y100000D01*', 'X0Y0D01*'].join('\n');
const layer = (body: string) => {
	const began = performance.now();
	const read = readPasteLayer(`${HEAD}${body}\n${END}`);
	// Ten times what these take on a busy machine; a quadratic one takes minutes.
	expect(performance.now() - began).toBeLessThan(15_000);
	return read;
};
const area = (body: string) => layer(body).apertures.reduce((sum, a) => sum + a.areaMm2, 0);

describe('regions that touch themselves', () => {
	test.each([
		['a slit of two metres', '%ADD10C,0.5*%\nD10*\nX0Y0D02*\nX14140000Y14140000D01*', 1, 0.5],
		['a pen of 50 mm along arcs', 'G75*\n%ADD10C,50*%\nD10*\nX0Y0D02*\nG03X600000Y0I300000J0D01*\nG03X900000Y300000I0J300000D01*', 1, null],
		[
			'four thousand regions over each other in a row',
			'G36*\nX0Y0D02*\nX40000Y0D01*\nX20000Y9000D01*\nX0Y0D01*\nG37*',
			1,
			null,
			'X4000Y1I1.5J0'
		],
		['twenty thousand of them', 'G36*\nX0Y0D02*\nX40000Y0D01*\nX20000Y9000D01*\nX0Y0D01*\nG37*', 0, null, 'X20000Y1I1.5J0'],
		['a circle of 70 km', '%ADD10C,70020820*%\nD10*\nX0Y0D03*', 0, null],
		['a macro with a figure that is none', '%AMA*1,1,$1,0,0*%\n%ADD10A,1.2X0..2*%\n%ADD11A,0..2*%\nD11*\nX0Y0D03*', 0, null],
		['a turn by no angle', '%ADD10R,1X0.4*%\n%LR90°*%\nD10*\nX0Y0D03*', 1, 0.4],
		['two million repeats', '%ADD10C,0.4*%\nD10*\nX0Y0D03*', 0, null, 'X2904728Y2I1.5J1.25']
	] as const)('%s: an answer in time, with every number a number', (_, body, openings, widthMm, repeat?: string) => {
		const begun = performance.now();
		const { apertures, issues } = readPasteLayer(
			`%FSLAX34Y34*%\n%MOMM*%\n${repeat ? `%SR${repeat}*%\n` : ''}${body}\n${repeat ? '%SR*%\n' : ''}M02*\n`
		);
		expect(performance.now() - begun).toBeLessThan(10_000);
		expect(apertures).toHaveLength(openings);
		if (openings === 0) expect(issues.some(({ severity }) => severity === 'error')).toBe(true);
		if (widthMm !== null) expect(apertures[0]!.widthMm).toBeCloseTo(widthMm, 2);
		expect(apertures.every((a) => [a.areaMm2, a.perimeterMm, a.widthMm, a.centre.x, a.centre.y].every(Number.isFinite))).toBe(true);
	});

	test('traced twice, they are drawn once', () => {
		expect(area(`G36*\n${square}\n${square.split('\n').slice(1).join('\n')}\nG37*`)).toBeCloseTo(100, 6);
	});
	test('a cut to a hole leaves the hole open, and the island is said', () => {
		const inner = [
			'X0Y50000D01*',
			'X30000Y50000D01*',
			'X30000Y70000D01*',
			'X60000Y70000D01*',
			'X60000Y30000D01*',
			'X30000Y30000D01*',
			'X30000Y50000D01*',
			'X0Y50000D01*',
			'X0Y0D01*'
		];
		const read = layer(`G36*\n${square.split('\n').slice(0, 4).join('\n')}\n${inner.join('\n')}\nG37*`);
		expect(read.apertures[0]!.areaMm2).toBeCloseTo(100 - 12, 6);
		expect(read.issues.map((i) => i.code)).toEqual(['island_in_opening']);
	});
	test('a bow tie fills both of its halves', () => {
		expect(area('G36*\nX0Y0D02*\nX100000Y100000D01*\nX100000Y0D01*\nX0Y100000D01*\nX0Y0D01*\nG37*')).toBeCloseTo(50, 4);
	});
});

describe('macros as old and odd programs write them', () => {
	const flash = (macro: string, modifiers = '') => area(`${macro}\n%ADD10M${modifiers}*%\nD10*\nX0Y0D03*`);
	test.each([
		['on one line', '%AMM*21,1,2,1,0,0,0*%'],
		['over lines', '%AMM*\n21,\n1,\n2,1,\n0,0,0*\n%'],
		['with blanks after commas', '%AMM*21, 1, 2, 1, 0, 0, 0*%'],
		['with a comment', '%AMM*0 a pad, 2 x 1*21,1,2,1,0,0,0*%'],
		['with arithmetic', '%AMM*$3=($1x2-$1)/$2*21,1,$1,$3,0,0,0*%']
	])('%s', (_, macro) => expect(flash(macro, macro.includes('$') ? ',2X2' : '')).toBeCloseTo(2, 6));
	test('a sign before a variable or a bracket counts', () => {
		const read = layer('%AMM*21,1,2,1,-$1,-(1+1),0*%\n%ADD10M,3*%\nD10*\nX0Y0D03*').apertures[0]!;
		expect([read.centre.x, read.centre.y].map((v) => Math.round(1e6 * v) / 1e6)).toEqual([-3, -2]);
	});
	test('exposure 2 is the other than before', () => {
		expect(flash('%AMM*21,1,4,4,0,0,0*21,2,2,2,0,0,0*%')).toBeCloseTo(12, 6);
		expect(flash('%AMM*21,1,4,4,0,0,0*21,2,2,2,0,0,0*21,2,1,1,0,0,0*%')).toBeCloseTo(13, 6);
	});
	test('what is no primitive is said by its line', () => {
		expect(layer('%AMM*21,1,2,,0,0,0*%\n%ADD10M*%\nD10*\nX0Y0D03*').issues[0]).toMatchObject({ code: 'bad_macro', line: 3 });
		expect(layer(`%AMM*21,1,${'('.repeat(5000)}2,1,0,0,0*%\n%ADD10M*%\nD10*\nX0Y0D03*`).issues[0]!.code).toBe('bad_macro');
	});
});

test('a rectangular pen that is turned draws turned', () => {
	// 2 x 1 mm turned by a quarter and drawn 10 mm along x: 1 mm wide, 2 mm high.
	const drawn = (turn: string) => layer(`%ADD10R,2X1*%\nD10*\n${turn}X0Y0D02*\nX100000Y0D01*`).apertures[0]!;
	expect(drawn('').areaMm2).toBeCloseTo(12, 6);
	expect(drawn('%LR90*%\n').areaMm2).toBeCloseTo(22, 6);
});

describe('files that would never end', () => {
	const codes = (body: string) => layer(body).issues.map((i) => i.code);
	test('comments of any length, closed or not', () => {
		expect(codes(`G04 ${'x y '.repeat(250_000)}*\n%ADD10C,1*%\nD10*\nX0Y0D03*`)).toEqual([]);
		expect(codes(`G04 ${'50 % '.repeat(50_000)}*\n%ADD10C,1*%\nD10*\nX0Y0D03*`)).toEqual([]);
		expect(codes(`G04 ${'x'.repeat(200_000)}`)).not.toEqual([]);
	});
	test('commands without an end', () => {
		expect(codes(`X${'1'.repeat(200_000)}D03*`)).toContain('too_long_command');
		expect(codes(`%TO.P,${'x'.repeat(200_000)}*%`)).toContain('too_long_command');
	});
	test('repeats and blocks that multiply', () => {
		expect(codes('%ADD10C,0.3*%\nD10*\n%SRX1000Y1000I1J1*%\nX0Y0D03*\n%SR*%')).toEqual(['too_many_objects']);
		const block = (i: number) =>
			`%ABD${20 + i}*%\n${Array.from({ length: 8 }, (_, k) => `D${i ? 19 + i : 10}*\nX${k * 10000}Y0D03*`).join('\n')}\n%AB*%`;
		expect(codes(`%ADD10C,0.3*%\n${Array.from({ length: 12 }, (_, i) => block(i)).join('\n')}\nD31*\nX0Y0D03*`)).toEqual([
			'too_many_objects'
		]);
	});
	test('places and polygons that are none', () => {
		expect(codes('%ADD10C,1*%\nD10*\nX999999999999Y0D03*')).toContain('far_coordinate');
		expect(codes('%ADD10P,1X100000*%\nD10*\nX0Y0D03*')).toContain('bad_polygon');
	});
	test('a layer of thirty thousand flashes is whole', () => {
		const flashes = Array.from({ length: 30_000 }, (_, i) => `X${(i % 400) * 5000}Y${Math.floor(i / 400) * 5000}D03*`).join('\n');
		expect(layer(`%ADD10C,0.3*%\nD10*\n${flashes}`).apertures).toHaveLength(30_000);
	});
	test('four hundred thousand designators', () => {
		const { items } = readBom(`Part number,Designators\nP1,"${Array.from({ length: 400_000 }, (_, i) => `R${i}`).join(' ')}"\n`);
		expect(items[0]!.designators).toHaveLength(400_000);
	});
	test('tables of one sign', () => {
		for (const cell of ['"'.repeat(200_001), ','.repeat(300_000), ' '.repeat(300_000), '-'.repeat(300_000), '9'.repeat(300_000)]) {
			const began = performance.now();
			readPositions(`Ref,X (mm),Y (mm),Side\nR1,${cell},2,T\n`);
			readBom(`Part number,Designators\nP1,"R1${cell}R2"\n`);
			expect(performance.now() - began).toBeLessThan(10_000);
		}
	});
});

describe('a line that is drawn again', () => {
	const PEN = '%ADD10R,1X0.5*%\nD10*\nG75*\nX0Y0D02*\n';
	const CIRCLE = 'G03X0Y0I0J20000D01*\n';
	test('two thousand times over is what it was once, and takes no longer', () => {
		const once = area(`${PEN}${CIRCLE}`);
		expect(once).toBeGreaterThan(5);
		expect(area(`${PEN}${CIRCLE.repeat(2000)}`)).toBeCloseTo(once, 9);
	});
	test('after something was cleared, with another pen, or to another size it is drawn', () => {
		const line = 'G01X100000Y0D01*\nX0Y0D02*\n';
		const once = area(`${PEN}${line}`);
		expect(area(`${PEN}${line}%LPC*%\n${line}%LPD*%\n`)).toBeCloseTo(0, 9);
		expect(area(`${PEN}${line}%LPC*%\n${line}%LPD*%\n${line}`)).toBeCloseTo(once, 9);
		expect(area(`${PEN}${line}%ADD10R,1X0.9*%\nD10*\n${line}`)).toBeGreaterThan(once * 1.5);
		expect(area(`${PEN}${line}%LS2*%\n${line}`)).toBeGreaterThan(once * 1.5);
	});
});
