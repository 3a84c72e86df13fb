import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readOutlineLayer, readPasteLayer } from './apertures.ts';
import { plotGerber } from './gerber-plot.ts';

const MM = '%FSLAX34Y34*%\n%MOMM*%\n';
const layer = (body: string) => readPasteLayer(`${MM}${body}\nM02*\n`);
const areas = (body: string) => layer(body).apertures.map((a) => Number(a.areaMm2.toFixed(4)));

test('flashes of every standard shape have the area of their formula', () => {
	const read = layer(
		'%ADD10C,0.5*%\n%ADD11R,1.0X0.4*%\n%ADD12O,1.0X0.4*%\n%ADD13P,1X6X0*%\nD10*\nX0Y0D03*\nD11*\nX50000Y0D03*\nD12*\nX100000Y0D03*\nD13*\nX150000Y0D03*'
	);
	expect(read.issues).toEqual([]);
	const [circle, rectangle, oblong, hexagon] = read.apertures;
	expect(circle!.areaMm2).toBeCloseTo(Math.PI / 16, 9);
	expect(rectangle!.perimeterMm).toBeCloseTo(2.8, 9);
	expect(oblong!.areaMm2).toBeCloseTo(0.4 * 0.6 + (Math.PI * 0.16) / 4, 9);
	expect(hexagon!.areaMm2).toBeCloseTo((3 * Math.sqrt(3)) / 8, 5);
	expect(hexagon!.widthMm).toBeCloseTo(Math.sqrt(3) / 2, 3);
});

test('inches and modal coordinates: the second flash keeps y', () => {
	const read = readPasteLayer('%FSLAX24Y24*%\n%MOIN*%\n%ADD10C,0.0100*%\nD10*\nX10000Y20000D03*\nX11000D03*\nM02*\n');
	expect(read.unit).toBe('inch');
	expect(read.apertures.map((a) => [a.centre.x, a.centre.y])).toEqual([
		[25.4, 50.8],
		[27.94, 50.8]
	]);
});

test('overlapping shapes are one opening, touching neighbours that do not overlap stay two', () => {
	expect(areas('%ADD10R,1.0X1.0*%\nD10*\nX0Y0D03*\nX5000Y0D03*')).toEqual([1.5]);
	expect(areas('%ADD10R,1.0X1.0*%\nD10*\nX0Y0D03*\nX12000Y0D03*')).toEqual([1, 1]);
});

test('clear polarity cuts windows out of a thermal pad', () => {
	// A 4 mm pad with a cleared cross of 0.4 mm: four windows of 1.8 mm.
	expect(areas('%ADD10R,4.0X4.0*%\n%ADD11R,4.2X0.4*%\n%ADD12R,0.4X4.2*%\nD10*\nX0Y0D03*\n%LPC*%\nD11*\nX0Y0D03*\nD12*\nX0Y0D03*')).toEqual([
		3.24, 3.24, 3.24, 3.24
	]);
});

test('step and repeat places columns and rows, and ends where it is closed', () => {
	const read = layer('%ADD10C,0.3*%\nD10*\n%SRX3Y2I1.0J2.0*%\nX0Y0D03*\n%SR*%\nX100000Y0D03*');
	expect(read.apertures).toHaveLength(7);
	expect(read.apertures.map((a) => a.centre.x.toFixed(1) + '/' + a.centre.y.toFixed(1))).toContain('2.0/2.0');
});

test('block apertures, mirror, rotation and scale move the image about the flash', () => {
	const read = layer(
		'%ADD10R,1.0X0.4*%\n%ABD20*%\nD10*\nX10000Y0D03*\n%AB*%\nD20*\n%LR90.0*%\nX0Y0D03*\n%LR0.0*%\n%LMX*%\nX50000Y0D03*\n%LMN*%\n%LS2.0*%\nX100000Y0D03*'
	);
	expect(read.issues).toEqual([]);
	const [turned, mirrored, scaled] = read.apertures;
	expect([turned!.centre.x, turned!.centre.y].map((v) => Number(v.toFixed(6)))).toEqual([0, 1]);
	expect(mirrored!.centre.x).toBeCloseTo(4, 9);
	expect(scaled!.areaMm2).toBeCloseTo(1.6, 9);
	expect(scaled!.centre.x).toBeCloseTo(12, 9);
});

test('macros: exposure, arithmetic and a minus before a variable', () => {
	// A 1 mm square with a 0.2 mm hole, flashed off centre by -$3.
	const read = layer('%AMHOLE*21,1,$1,$2,-$3,0,0*1,0,$1/5,0-$3,0*%\n%ADD10HOLE,1.0X1.0X0.25*%\nD10*\nX0Y0D03*');
	expect(read.apertures[0]!.areaMm2).toBeCloseTo(1 - Math.PI * 0.01, 3);
	expect(read.apertures[0]!.centre.x).toBeCloseTo(-0.25, 6);
	expect(read.issues.map((issue) => issue.code)).toEqual(['island_in_opening']);
});

test('regions with arcs, and strokes with round ends', () => {
	const read = layer(
		'G75*\nG36*\nX0Y0D02*\nG01*\nX20000Y0D01*\nG03*\nX20000Y20000I0J10000D01*\nG01*\nX0Y20000D01*\nX0Y0D01*\nG37*\n%ADD10C,0.4*%\nD10*\nX100000Y0D02*\nX110000Y0D01*'
	);
	expect(read.issues).toEqual([]);
	expect(read.apertures[0]!.areaMm2).toBeCloseTo(4 + Math.PI / 2, 2);
	// Chords leave the arc by at most 1 µm: less than 0.3 % of this round end.
	expect(Math.abs(read.apertures[1]!.areaMm2 / (0.4 + (Math.PI * 0.16) / 4) - 1)).toBeLessThan(0.003);
});

test('X2 attributes tie an opening to its pin', () => {
	const read = layer('%ADD10C,0.3*%\nD10*\n%TO.P,U7,23*%\nX0Y0D03*\n%TD*%\nX10000Y0D03*');
	expect(read.apertures.map((a) => [a.refDes, a.pin])).toEqual([
		['U7', '23'],
		[null, null]
	]);
});

describe('files that are no drawing get an issue with line and value', () => {
	test.each([
		['', 'not_gerber', 1],
		['Designator,X,Y\nR1,1,2\n', 'not_gerber', 1],
		['PK\u0003\u0004\u0000\u0000binary', 'not_gerber', 1],
		[`${MM}%ADD10C,0.5*%\nD10*\nX0Y0D03*\n`, 'missing_end_of_file', 5],
		[`${MM}D15*\nX0Y0D03*\nM02*\n`, 'undefined_aperture', 3],
		[`${MM}%ADD10C,0.5*%\nD10*\nY5D03*\nM02*\n`, 'coordinate_never_set', 5],
		[`${MM}%ADD10C,0.5*%\nWIBBLE*\nD10*\nX0Y0D03*\nM02*\n`, 'unknown_command', 4],
		[`${MM}%KOD*%\n%ADD10C,0.5*%\nD10*\nX0Y0D03*\nM02*\n`, 'unsupported', 3],
		[`${MM}%ADD10C,-0.5*%\nD10*\nX0Y0D03*\nM02*\n`, 'bad_size', 3],
		[`${MM}%IR45*%\n%ADD10C,0.5*%\nD10*\nX0Y0D03*\nM02*\n`, 'unsupported', 3],
		[`${MM}%SFA-1B1*%\n%ADD10C,0.5*%\nD10*\nX0Y0D03*\nM02*\n`, 'unsupported', 3],
		[`%FSLAX34Y34*%\n%ADD10C,0.5*%\nD10*\nX0Y0D03*\nM02*\n`, 'needs_unit', 1],
		[`${MM}G70*\n%ADD10C,0.5*%\nD10*\nX0Y0D03*\nM02*\n`, 'needs_unit', 3],
		[`${MM}M02*\n`, 'no_openings', 1]
	])('%j: %s on line %i', (text, code, line) => {
		const { issues } = readPasteLayer(text);
		expect(issues[0]).toMatchObject({ severity: 'error', code, line });
		expect(issues[0]!.message.length).toBeGreaterThan(20);
	});
});

test('nothing leaks from one file into the next', () => {
	layer('%ADD10C,0.5*%\nD10*\nX0Y0D03*');
	expect(plotGerber(`${MM}D10*\nX0Y0D03*\nM02*\n`).issues[0]!.code).toBe('undefined_aperture');
});

test('an outline gives width and height from its centre lines', () => {
	const { box } = readOutlineLayer(`${MM}%ADD10C,0.2*%\nD10*\nX10000Y20000D02*\nX510000D01*\nY380000D01*\nX10000D01*\nY20000D01*\nM02*\n`);
	expect(box).toEqual({ minX: 1, minY: 2, maxX: 51, maxY: 38 });
});

test('a sliver that sticks out of a pad counts', () => {
	// 3.2 x 3.1 mm, and a bar of 0.2 x 3.0 mm that reaches 0.05 mm further.
	expect(areas('%ADD10R,3.2X3.1*%\n%ADD11R,0.2X3.0*%\nD10*\nX0Y0D03*\nD11*\nX0Y1000D03*')).toEqual([9.93]);
});

test('the area of two overlapping rectangles is that of their union, wherever they lie', () => {
	const size = fc.integer({ min: 2, max: 40 });
	fc.assert(
		fc.property(size, size, size, size, fc.integer({ min: -60, max: 60 }), fc.integer({ min: -60, max: 60 }), (w1, h1, w2, h2, dx, dy) => {
			const t = (v: number) => (v / 10).toFixed(1);
			const read = areas(`%ADD10R,${t(w1)}X${t(h1)}*%\n%ADD11R,${t(w2)}X${t(h2)}*%\nD10*\nX0Y0D03*\nD11*\nX${dx * 1000}Y${dy * 1000}D03*`);
			const overlap = (a: number, b: number, d: number) => Math.max(0, Math.min(a / 2, d + b / 2) - Math.max(-a / 2, d - b / 2));
			const union = (w1 * h1 + w2 * h2 - overlap(w1, w2, dx) * overlap(h1, h2, dy)) / 100;
			expect(read.reduce((a, b) => a + b, 0)).toBeCloseTo(union, 3);
		}),
		{ numRuns: 200 }
	);
});
