import { expect, test } from 'vitest';
import { readLabel } from './label.ts';

const NOTHING = { partNumber: null, makerPart: null, lot: null, dateCode: null, pieces: null, serial: null };

test('an envelope gives each of its fields, whatever their order', () => {
	const scan = '[)>\u001e06\u001dQ10000\u001dPR-0402-10K\u001d1PAX-10K-5\u001d1TQ2634-118\u001d9D2634\u001d3S0001\u001e\u0004';
	expect(readLabel(scan)).toEqual({
		partNumber: 'R-0402-10K',
		makerPart: 'AX-10K-5',
		lot: 'Q2634-118',
		dateCode: '2634',
		pieces: 10000,
		serial: '0001'
	});
	expect(readLabel(scan.replace('9D', '10D')).dateCode).toBe('2634');
});

test('labels with one code a field are read one scan at a time', () => {
	expect(readLabel('Q5000')).toEqual({ ...NOTHING, pieces: 5000 });
	expect(readLabel(' PC-100N ')).toEqual({ ...NOTHING, partNumber: 'C-100N' });
	expect(readLabel('1PC-100N')).toEqual({ ...NOTHING, makerPart: 'C-100N' });
	expect(readLabel('SRL-7')).toEqual({ ...NOTHING, serial: 'RL-7' });
});

test('what is no quantity or date is not taken for one; a code without an identifier says nothing', () => {
	expect(readLabel('Q10K').pieces).toBeNull();
	expect(readLabel('Q0').pieces).toBeNull();
	expect(readLabel('9D26-34').dateCode).toBeNull();
	expect(readLabel('1T')).toEqual(NOTHING);
	expect(readLabel('')).toEqual(NOTHING);
	expect(readLabel('XY-1')).toEqual(NOTHING);
});
