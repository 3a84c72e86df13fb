import { describe, expect, test } from 'vitest';
import {
	padClass,
	PAD_CLASS_NAMES,
	readPackage,
	slotsForTape,
	usualSupply,
	type PackageKind,
	checkFact,
	classificationC,
	packageSheet,
	withFacts
} from './index.ts';

/** Imperial chip codes with their size, mm (EIA sizes, common practice). */
const CHIPS = [
	{ code: '01005', l: 0.4, w: 0.2 },
	{ code: '0201', l: 0.6, w: 0.3 },
	{ code: '0402', l: 1.0, w: 0.5 },
	{ code: '0603', l: 1.6, w: 0.8 },
	{ code: '0805', l: 2.0, w: 1.25 },
	{ code: '1008', l: 2.5, w: 2.0 },
	{ code: '1206', l: 3.2, w: 1.6 },
	{ code: '1210', l: 3.2, w: 2.5 },
	{ code: '1812', l: 4.5, w: 3.2 },
	{ code: '2010', l: 5.0, w: 2.5 },
	{ code: '2512', l: 6.3, w: 3.2 }
];

describe('bare chip codes are imperial', () => {
	test.each(CHIPS)('$code is $l x $w mm', ({ code, l, w }) => {
		for (const name of [code, `R${code}`, `C_${code}`, `${code}_HAND`]) {
			expect(readPackage(name)).toMatchObject({ kind: 'chip', chip: code, lengthMm: l, widthMm: w });
		}
	});

	test('a code that stands in both systems says what was assumed', () => {
		expect(readPackage('0603').source).toContain('exists in both systems');
		expect(readPackage('0805').source).toBe('imperial chip code');
	});

	test('a code marked metric is the smaller part', () => {
		expect(readPackage('0603 metric').chip).toBe('0201');
		expect(readPackage('1608M').chip).toBe('0603');
	});

	test('digits inside a longer number are no chip code', () => {
		expect(readPackage('X40201').kind).toBe('unknown');
		expect(readPackage('12064').kind).toBe('unknown');
	});
});

/** IPC-7351 land-pattern names (from memory): sizes in 0.1 mm for chips, in 0.01 mm for bodies with leads. */
const NAMES: { name: string; kind: PackageKind; l: number; w: number; h: number; pitch: number | null }[] = [
	{ name: 'RESC1005X40N', kind: 'chip', l: 1.0, w: 0.5, h: 0.4, pitch: null },
	{ name: 'CAPC0603X33N', kind: 'chip', l: 0.6, w: 0.3, h: 0.33, pitch: null },
	{ name: 'CAPC3225X200N', kind: 'chip', l: 3.2, w: 2.5, h: 2.0, pitch: null },
	{ name: 'LEDC2012X100N', kind: 'chip', l: 2.0, w: 1.25, h: 1.0, pitch: null },
	{ name: 'INDM4040X200', kind: 'magnetic', l: 4, w: 4, h: 2, pitch: null },
	{ name: 'INDM100100X450', kind: 'magnetic', l: 10, w: 10, h: 4.5, pitch: null },
	{ name: 'DIOM5226X230', kind: 'chip', l: 5.2, w: 2.6, h: 2.3, pitch: null },
	{ name: 'QFN50P700X700X90-49', kind: 'noLead', l: 7, w: 7, h: 0.9, pitch: 0.5 },
	{ name: 'SON65P200X300X80-6', kind: 'noLead', l: 2, w: 3, h: 0.8, pitch: 0.65 },
	{ name: 'QFP50P1200X1200X160-64', kind: 'leaded', l: 12, w: 12, h: 1.6, pitch: 0.5 },
	{ name: 'SOIC127P600X175-8', kind: 'leaded', l: 5.08, w: 6, h: 1.75, pitch: 1.27 },
	{ name: 'SOIC127P600X175-16', kind: 'leaded', l: 10.16, w: 6, h: 1.75, pitch: 1.27 },
	{ name: 'SOT95P280X145-5', kind: 'leaded', l: 2.375, w: 2.8, h: 1.45, pitch: 0.95 },
	{ name: 'BGA81C40P9X9_400X400X80', kind: 'ballGrid', l: 4, w: 4, h: 0.8, pitch: 0.4 },
	{ name: 'BGA100C80P10X10_900X900X140', kind: 'ballGrid', l: 9, w: 9, h: 1.4, pitch: 0.8 },
	{ name: 'CONN_24X8X9', kind: 'connector', l: 24, w: 8, h: 9, pitch: null },
	{ name: 'CAPE_8X8X10.5', kind: 'leaded', l: 8, w: 8, h: 10.5, pitch: null },
	{ name: 'OSC_3.2X2.5X0.8', kind: 'noLead', l: 3.2, w: 2.5, h: 0.8, pitch: null },
	{ name: 'SOT-23', kind: 'leaded', l: 2.9, w: 1.3, h: 1.1, pitch: 0.95 }
];

describe('names that say the size', () => {
	test.each(NAMES)('$name', ({ name, kind, l, w, h, pitch }) => {
		const body = readPackage(name);
		expect(body.kind).toBe(kind);
		expect(body.lengthMm).toBeCloseTo(l, 6);
		expect(body.widthMm).toBeCloseTo(w, 6);
		expect(body.heightMm).toBeCloseTo(h, 6);
		expect(body.pitchMm).toBe(pitch);
		expect(body.source).not.toBe('');
	});

	test('lower case and blanks do not matter', () => {
		expect(readPackage('  qfn50p400x400x80-25 ')).toMatchObject({ kind: 'noLead', lengthMm: 4 });
	});

	test('what is not understood is unknown, never a guess', () => {
		for (const name of ['', 'WEIRD-THING', 'MODULE_A', 'FIDUCIAL']) {
			expect(readPackage(name)).toMatchObject({ kind: 'unknown', lengthMm: null, massG: null, pitchMm: null });
		}
		expect(readPackage('').source).toBe('no package given');
	});

	test('mass follows from the body: a power inductor weighs grams, a chip milligrams', () => {
		expect(readPackage('INDM100100X450').massG).toBeCloseTo(2.025, 3);
		expect(readPackage('RESC1005X40N').massG).toBeCloseTo(0.0008, 6);
	});
});

describe('classes of paste limits', () => {
	test.each([
		{ name: 'BGA81C40P9X9_400X400X80', widthMm: 0.25, expected: 'fineBallGrid' },
		{ name: 'BGA100C80P10X10_900X900X140', widthMm: 0.4, expected: 'large' },
		{ name: 'CAPC0603X33N', widthMm: 0.3, expected: 'smallChip' },
		{ name: 'RESC1005X40N', widthMm: 0.5, expected: 'chip' },
		{ name: 'QFN50P700X700X90-49', widthMm: 0.23, expected: 'fineLead' },
		{ name: 'QFN50P700X700X90-49', widthMm: 1.18, expected: 'thermal' },
		{ name: 'QFN65P500X500X90-21', widthMm: 0.3, expected: 'large' },
		{ name: 'SOIC127P600X175-8', widthMm: 0.55, expected: 'large' },
		{ name: '', widthMm: 0.5, expected: 'large' }
	] as const)('$name, opening $widthMm mm: $expected', ({ name, widthMm, expected }) => {
		expect(padClass(readPackage(name), widthMm)).toBe(expected);
		expect(PAD_CLASS_NAMES[expected]).not.toBe('');
	});
});

/** Usual tapes: EIA-481 widths and pitches (from memory), quantities common practice. */
describe('supply', () => {
	test.each([
		{ name: 'CAPC0603X33N', widthMm: 8, pitchMm: 2, pieces: 10000 },
		{ name: 'RESC1005X40N', widthMm: 8, pitchMm: 2, pieces: 10000 },
		{ name: 'CAPC1608X90N', widthMm: 8, pitchMm: 4, pieces: 4000 },
		{ name: 'RESC3216X60N', widthMm: 8, pitchMm: 4, pieces: 3000 },
		{ name: 'SOT95P237X112-3', widthMm: 8, pitchMm: 4, pieces: 3000 },
		{ name: 'SOIC127P600X175-8', widthMm: 12, pitchMm: 8, pieces: 2500 },
		{ name: 'QFN50P700X700X90-49', widthMm: 16, pitchMm: 12, pieces: 1500 },
		{ name: 'QFP50P1200X1200X160-64', widthMm: 24, pitchMm: 16, pieces: 800 },
		{ name: 'CONN_24X8X9', widthMm: 44, pitchMm: 32, pieces: 250 }
	])('$name comes in $widthMm mm tape', ({ name, ...tape }) => {
		expect(usualSupply(readPackage(name))).toMatchObject({ kind: 'tape', ...tape });
	});

	test('a large ball grid comes in a tray, an unknown body in an assumed tape that says so', () => {
		expect(usualSupply(readPackage('BGA256C80P16X16_1400X1400X150')).kind).toBe('tray');
		expect(usualSupply(readPackage('WEIRD')).source).toContain('body unknown');
	});

	test('part pitch is 1, 2 or a multiple of 4 mm', () => {
		for (const { name } of NAMES) {
			const { pitchMm } = usualSupply(readPackage(name));
			expect(pitchMm === 2 || pitchMm % 4 === 0).toBe(true);
		}
	});

	test('a wider feeder body or a narrower slot takes more slots', () => {
		expect(slotsForTape(24, 14)).toBe(2);
		expect(slotsForTape(24, 14, 6)).toBe(3);
		expect(slotsForTape(24, 12)).toBe(3);
	});
});

describe('what is known of a package', () => {
	const row = (name: string, field: string, entered = {}) => packageSheet(name, entered).find((fact) => fact.field === field)!;

	test('each value with its source, or unknown', () => {
		expect(row('QFN50P700X700X90-49', 'leads')).toMatchObject({ value: 49, source: expect.stringContaining('IPC-7351') });
		// 7 x 7 x 0.9 mm is 44.1 mm³: thin and small.
		expect(row('QFN50P700X700X90-49', 'classificationC')).toMatchObject({ value: 260, source: expect.stringContaining('J-STD-020') });
		expect(row('MYSTERY', 'massG')).toMatchObject({ value: null, source: 'unknown' });
		expect(row('RESC1005X40N', 'classificationC')).toMatchObject({ value: null, source: 'unknown' });
	});

	test('classification temperatures of the lead-free table', () => {
		expect([
			classificationC(1.5, 2500),
			classificationC(2, 300),
			classificationC(2, 400),
			classificationC(3, 300),
			classificationC(3, 2500)
		]).toEqual([260, 260, 250, 250, 245]);
	});

	test('what was entered outranks the name, and changes what is reckoned from it', () => {
		const entered = { heightMm: { value: 3, source: 'maker’s data sheet' }, massG: { value: 0.4, source: 'weighed' } };
		expect(row('QFN50P700X700X90-49', 'heightMm', entered)).toEqual({
			field: 'heightMm',
			value: 3,
			source: 'maker’s data sheet',
			entered: true
		});
		expect(row('QFN50P700X700X90-49', 'classificationC', entered).value).toBe(250);
		expect(withFacts(readPackage('QFN50P700X700X90-49'), entered)).toMatchObject({ heightMm: 3, massG: 0.4, lengthMm: 7 });
	});

	test('a value without a source, or beyond reason, is refused', () => {
		expect(() => checkFact('massG', 0.4, ' ')).toThrow('massG.source');
		expect(() => checkFact('heightMm', 900, 'x')).toThrow('heightMm: expected 0.05 to 60 mm, received 900');
		expect(() => checkFact('leads', null, 'nobody knows')).not.toThrow();
	});
});
