import { expect, test } from 'vitest';
import { pasted, readOneWay } from './decimal-comma.ts';

test.each([
	['0,25', '0.25'],
	['62,5', '62.5'],
	['62.5', '62.5'],
	[' 62,5 mm', '62.5'],
	['1.234,5', '1234.5'],
	['1,234.5', '1234.5'],
	['1250', '1250'],
	['-3,75', '-3.75'],
	['0,250', '0.25'],
	['1,250', null],
	['1.250', '1.25'],
	['1,2,3', null],
	['ten', null],
	['', null]
])('"%s" is taken as %s', (text, taken) => expect(readOneWay(text)).toBe(taken));

test.each([
	['0.25', '0.25'],
	['0,25', '0.25'],
	['1.250', null],
	['1,250', '1.25'],
	['1.234,5', '1234.5']
])('where numbers have commas, "%s" is taken as %s', (text, taken) => expect(readOneWay(text, ',')).toBe(taken));

test.each([
	['5 mil', '.', '5 mil'],
	['0,127 mm', '.', '0.127 mm'],
	['0.127 mm', ',', '0,127 mm'],
	['75 °F', ',', '75 °F'],
	['1,250 g', '.', null],
	['ten', '.', null]
] as const)('"%s" pasted where the sign is "%s" stands as %s', (text, sign, stands) => expect(pasted(text, sign)).toBe(stands));
