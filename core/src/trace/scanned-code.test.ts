import { expect, test } from 'vitest';
import { codesIn } from './index.ts';

test('a plain code is itself, without the blanks around it; a blank scan is nothing', () => {
	expect(codesIn(' J-0031\n')).toEqual(['J-0031']);
	expect(codesIn('  ')).toEqual([]);
	// A serial that begins with S is no field of an envelope: its S stays.
	expect(codesIn('S-014')).toEqual(['S-014']);
});

test('an envelope gives its fields, each first without its identifier and then as it stands', () => {
	expect(codesIn('[)>\u001e06\u001dSJ2412-0003\u001d1PR-10K\u001e\u0004')).toEqual(['J2412-0003', 'SJ2412-0003', 'R-10K', '1PR-10K']);
	// Format 05 likewise, also where a reader drops the separators of the header.
	expect(codesIn('[)>0506\u001d1TL26-114\u001e\u0004')[0]).toBe('06');
	expect(codesIn('[)>\u001e05\u001d1TL26-114\u001e\u0004')).toEqual(['L26-114', '1TL26-114']);
});
