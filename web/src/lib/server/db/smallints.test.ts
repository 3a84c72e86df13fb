import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readSmallints } from './smallints.ts';

test('every list of whole numbers is read as it was written', () => {
	fc.assert(
		fc.property(fc.array(fc.integer({ min: -32768, max: 32767 }), { maxLength: 100 }), (numbers) => {
			expect(readSmallints(`{${numbers.join(',')}}`)).toEqual(numbers);
		})
	);
});

test.each(['{1,NULL}', '{{1,2},{3,4}}', '[0:1]={1,2}', '{1,2', '{1,,2}', '{1.5}', '{-}', '{1-2}'])(
	'%s is refused, never half read',
	(text) => {
		expect(() => readSmallints(text)).toThrow('not a list of whole numbers');
	}
);
