import { describe, expect, test } from 'vitest';
import { boxOf } from '../geometry/index.ts';
import { plotGerber, readOutlineLayer, readPasteLayer } from './index.ts';
import { modernWords } from './old-words.ts';

const MM = '%FSLAX34Y34*%\n%MOMM*%\n';
const layer = (body: string, head = MM) => readPasteLayer(`${head}${body}\nM02*\n`);
const openings = (body: string, head = MM) =>
	layer(body, head).apertures.map((a) => [...[a.centre.x, a.centre.y, a.areaMm2].map((v) => Number(v.toFixed(3)) + 0)]);

describe('words of older writers', () => {
	test.each([
		['X0Y0D03*\nX1Y1D01*', 'X0Y0D03*\nX1Y1D01*'],
		['G54D10*', 'D10*'],
		['G55X1Y2D03*', 'X1Y2D03*'],
		['G70*', '%OLD70*%'],
		['G070G090G01X1Y2D02*', '%OLD70*%%OLD90*%G01X1Y2D02*'],
		['G36G01X0Y0D02*', 'G36*G01X0Y0D02*'],
		['G75G03X1Y2I3J4D01*', 'G75*G03X1Y2I3J4D01*'],
		['G01G75X1Y2D01*', 'G75*G01X1Y2D01*'],
		['D11X1Y2D03*', 'D11*X1Y2D03*'],
		['X1Y2D03M02*', 'X1Y2D03*M02*'],
		['%FSLAX23Y23*MOIN*OFA0B0*%', '%FSLAX23Y23*%%MOIN*%%OFA0B0*%'],
		['%FSLAX23Y23*\nMOIN*%', '%FSLAX23Y23*%\n%MOIN*%'],
		['%AMA*1,1,1,0,0*21,1,1,1,0,0,0*%', '%AMA*1,1,1,0,0*21,1,1,1,0,0,0*%'],
		['G04 G54 D10 and 50 % of it*X0Y0D03*', 'G04 G54 D10 and 50 % of it*X0Y0D03*']
	])('%s', (old, modern) => expect(modernWords(old)).toBe(modern));

	test('lines stay where they were', () => {
		const text = 'G54\nD10\nX1Y1D03*\nX2Y2D03*\n';
		expect(modernWords(text).split('\n')).toHaveLength(text.split('\n').length);
	});

	test('a megabyte of blanks or of a command without an end takes no time', () => {
		const begun = performance.now();
		for (const text of [`G54${' '.repeat(1e6)}D10*`, 'G54D'.repeat(250_000), `%${'A*'.repeat(300_000)}`, ' '.repeat(1e6)])
			modernWords(text);
		expect(performance.now() - begun).toBeLessThan(3000);
	});
});

describe('the unit', () => {
	const bare = '%FSLAX24Y24*%\n%ADD10R,0.04X0.02*%\nD10*\nX1000Y0D03*\nM02*\n';
	test('G70 and G71 say it as well as %MO does', () => {
		for (const [word, areaMm2] of [
			['G70*', 0.04 * 0.02 * 25.4 ** 2],
			['G71*', 0.04 * 0.02]
		] as const) {
			const read = readPasteLayer(word + bare);
			expect(read.issues).toEqual([]);
			expect(read.apertures[0]!.areaMm2).toBeCloseTo(areaMm2, 9);
		}
	});
	test('where nothing says it, it is asked, and the answer goes', () => {
		expect(readPasteLayer(bare)).toMatchObject({ apertures: [], issues: [{ code: 'needs_unit', field: 'units', severity: 'error' }] });
		expect(readPasteLayer(bare, 'inch').apertures[0]!.centre.x).toBeCloseTo(2.54, 9);
		expect(readPasteLayer(bare, 'mm').apertures[0]!.centre.x).toBeCloseTo(0.1, 9);
		expect(readPasteLayer(bare, 'inch').unit).toBe('inch');
	});
	test('where the file says both, it is asked with both lines; where it says one, nobody can say the other', () => {
		const both = readPasteLayer(`%MOMM*%\nG70*\n${bare}`);
		expect(both.issues[0]).toMatchObject({ code: 'needs_unit', line: 2 });
		expect(both.issues[0]!.message).toContain('mm in line 1 and inch in line 2');
		expect(readPasteLayer(`%MOMM*%\nG70*\n${bare}`, 'inch').apertures[0]!.centre.x).toBeCloseTo(2.54, 9);
		expect(readPasteLayer(`%MOMM*%\n${bare}`, 'inch').apertures[0]!.centre.x).toBeCloseTo(0.1, 9);
	});
	test('an aperture before %MO has its unit', () => {
		expect(openings('X0Y0D03*', '%FSLAX24Y24*%\n%ADD10R,0.04X0.02*%\n%MOIN*%\nD10*\n')).toEqual([[0, 0, 0.516]]);
	});
	test('an outline layer without one asks for the same', () => {
		const outline = '%FSLAX24Y24*%\n%ADD10C,0*%\nD10*\nX0Y0D02*\nX10000Y0D01*\nX10000Y5000D01*\nM02*\n';
		expect(readOutlineLayer(outline).issues.map((i) => i.code)).toContain('needs_unit');
		expect(readOutlineLayer(outline, 'inch').box).toMatchObject({ maxX: 25.4, maxY: 12.7 });
	});
});

describe('parameters of the whole image', () => {
	const L = '%ADD10R,1X0.4*%\nD10*\nX10000Y5000D03*\nX30000Y10000D03*';
	test.each([
		[
			'',
			[
				[1, 0.5, 0.4],
				[3, 1, 0.4]
			]
		],
		[
			'%MIA1B0*%',
			[
				[-1, 0.5, 0.4],
				[-3, 1, 0.4]
			]
		],
		[
			'%MIA0B1*%',
			[
				[1, -0.5, 0.4],
				[3, -1, 0.4]
			]
		],
		[
			'%OFA2B-1*%',
			[
				[3, -0.5, 0.4],
				[5, 0, 0.4]
			]
		],
		[
			'%SFA2B2*%',
			[
				[2, 1, 1.6],
				[6, 2, 1.6]
			]
		],
		[
			'%SFA2B1*%',
			[
				[2, 0.5, 0.8],
				[6, 1, 0.8]
			]
		],
		[
			'%IR90*%',
			[
				[-0.5, 1, 0.4],
				[-1, 3, 0.4]
			]
		],
		[
			'%ASAYBX*%',
			[
				[0.5, 1, 0.4],
				[1, 3, 0.4]
			]
		],
		[
			'%MIA1B0*%\n%SFA2B2*%\n%OFA1B0*%',
			[
				[-1, 1, 1.6],
				[-5, 2, 1.6]
			]
		],
		[
			'%IPPOS*%\n%ASAXBY*%\n%ICAS*%\n%SFA1.0B1.0*%\n%MIA0B0*%',
			[
				[1, 0.5, 0.4],
				[3, 1, 0.4]
			]
		]
	])('%s', (parameters, expected) => {
		expect(layer(`${parameters}\n${L}`).issues).toEqual([]);
		expect(openings(`${parameters}\n${L}`)).toEqual(expected);
	});
	test('an offset is in the unit of the file, and turns an opening with the image', () => {
		const { shapes } = plotGerber(`%FSLAX24Y24*%\n%MOIN*%\n%OFA0.1B0*%\n%IR90*%\n%ADD10R,0.04X0.02*%\nD10*\nX0Y0D03*\nM02*\n`);
		const box = boxOf(shapes[0]!.outline);
		expect(box.maxX - box.minX).toBeCloseTo(0.508, 9);
		expect((box.minY + box.maxY) / 2).toBeCloseTo(2.54, 9);
	});
	test('a negative: what it leaves of a sheet, or what it draws, and it is said which', () => {
		const sheet = '%ADD11R,6X4*%\n%ADD12C,1*%\nD11*\nX0Y0D03*\n%LPC*%\nD12*\nX-15000Y0D03*\nX15000Y0D03*';
		const negative = layer(`%IPNEG*%\n${sheet}`);
		expect(negative.apertures.map((a) => a.centre.x.toFixed(2)).sort()).toEqual(['-1.50', '1.50']);
		expect(negative.issues).toMatchObject([{ severity: 'warning', code: 'negative_image', line: 3 }]);
		expect(negative.issues[0]!.message).toContain('what it leaves of its sheet');
		const pads = layer(`%IPNEG*%\n${L}`);
		expect(pads.apertures).toHaveLength(2);
		expect(pads.issues[0]!.message).toContain('what it draws');
	});
});

describe('incremental coordinates', () => {
	test.each([
		['%FSLIX34Y34*%\n%MOMM*%\n', ''],
		[MM, 'G91*\n']
	])('%s%s', (head, word) => {
		expect(openings(`%ADD10C,0.4*%\n${word}D10*\nX10000Y10000D03*\nX10000D03*\nX-5000Y2000D03*`, head).map(([x, y]) => [x, y])).toEqual([
			[1, 1],
			[2, 1],
			[1.5, 1.2]
		]);
	});
	test('and back to absolute ones', () => {
		expect(openings('%ADD10C,0.4*%\nG91*\nD10*\nX10000Y10000D03*\nX10000D03*\nG90*\nX10000Y0D03*').map(([x, y]) => [x, y])).toEqual([
			[1, 1],
			[2, 1],
			[1, 0]
		]);
	});
});

describe('pens', () => {
	test('a line drawn with a pen that has a hole is whole, but for a hole that stays over one place', () => {
		const long = layer('%ADD10C,1X0.4*%\nD10*\nX0Y0D02*\nX20000Y0D01*');
		expect(long.issues).toEqual([]);
		expect(long.apertures[0]!.areaMm2 / (2 + Math.PI / 4)).toBeCloseTo(1, 2);
		const short = layer('%ADD10C,1X0.4*%\nD10*\nX0Y0D02*\nX2000Y0D01*');
		expect(short.issues.map((i) => i.code)).toEqual(['island_in_opening']);
		// The lens of two circles of 0.4 mm, 0.2 mm apart: 2r² acos(d/2r) − d/2 √(4r² − d²).
		const lens = 2 * 0.04 * Math.acos(0.5) - 0.1 * Math.sqrt(0.16 - 0.04);
		expect(short.apertures[0]!.areaMm2 / (0.2 + Math.PI / 4 - lens)).toBeCloseTo(1, 2);
	});
	test.each([
		['an oblong', '%ADD10O,1X0.4*%'],
		['a polygon', '%ADD10P,1X6*%'],
		['a round macro', '%AMDOT*1,1,0.5,0,0*%\n%ADD10DOT*%'],
		['a rectangle', '%ADD10R,1X0.4*%']
	])('%s draws lines', (name, tool) => {
		const read = layer(`${tool}\nD10*\nX0Y0D02*\nX0Y20000D01*`);
		expect(read.apertures).toHaveLength(1);
		expect(read.issues.map((i) => [i.code, i.severity])).toEqual(name === 'a round macro' ? [] : [['odd_pen', 'warning']]);
	});
	test('an oblong sweeps its width, and its round end at either end', () => {
		const [a] = layer('%ADD10O,1X0.4*%\nD10*\nX0Y0D02*\nX0Y20000D01*').apertures;
		expect(a!.areaMm2).toBeCloseTo(2 * 1 + 0.4 * 0.6 + (Math.PI * 0.16) / 4, 2);
	});
	test('a pen of two pieces, or a bent one, is refused', () => {
		const bent = '%AMB*21,1,1,0.2,0,0,0*21,1,0.2,1,0,0,0*%\n%ADD10B*%\nD10*\nX0Y0D02*\nX0Y20000D01*';
		expect(layer(bent).issues).toMatchObject([{ code: 'bad_stroke', severity: 'error', line: 7 }]);
	});
});

test('flashes without a size draw nothing and are counted', () => {
	const read = layer('%ADD10C,0*%\n%ADD11C,0.5*%\nD10*\nX0Y0D03*\nX10000Y0D03*\nD11*\nX20000Y0D03*');
	expect(read.apertures).toHaveLength(1);
	expect(read.issues).toMatchObject([{ severity: 'warning', code: 'zero_size', line: 6, value: 'D10' }]);
	expect(read.issues[0]!.message).toContain('2 flashes draw nothing');
});

describe('openings of different pins that overlap', () => {
	const two = (gap: number, first = '1', second = '2') =>
		layer(`%ADD10R,1X0.4*%\nD10*\n%TO.P,U1,${first}*%\nX0Y0D03*\n%TO.P,U1,${second}*%\nX${Math.round((1 + gap) * 10_000)}Y0D03*\n%TD*%`);
	test('are one opening that joins both, named', () => {
		const { apertures, issues } = two(-0.01);
		expect(apertures).toMatchObject([{ refDes: 'U1', pin: '1', joins: ['U1.1', 'U1.2'] }]);
		expect(issues).toMatchObject([{ severity: 'warning', code: 'openings_overlap', line: 6, value: 'U1.1 and U1.2' }]);
	});
	test('apart, or of one pin, they join nothing', () => {
		expect(two(0.01).apertures.map((a) => a.joins)).toEqual([undefined, undefined]);
		expect(two(0.01).issues).toEqual([]);
		expect(two(-0.01, '1', '1').apertures).toHaveLength(1);
		expect(two(-0.01, '1', '1').apertures[0]!.joins).toBeUndefined();
	});
	test('a neighbour whose box only touches is not joined', () => {
		// Two triangles in the corners of one box: they do not meet.
		const corner = (pin: string, points: string) => `%TO.P,U1,${pin}*%\nG36*\n${points}\nG37*`;
		const read = layer(
			`%ADD10C,0.1*%\n${corner('1', 'X0Y0D02*\nX10000Y0D01*\nX0Y10000D01*\nX0Y0D01*')}\n${corner('2', 'X11000Y2000D02*\nX11000Y12000D01*\nX1000Y12000D01*\nX11000Y2000D01*')}\n%TD*%`
		);
		expect(read.apertures.map((a) => [a.pin, a.joins]).sort()).toEqual([
			['1', undefined],
			['2', undefined]
		]);
	});
});
