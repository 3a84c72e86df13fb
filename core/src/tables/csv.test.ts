import { expect, test } from 'vitest';
import { csvCell } from './index.ts';

test.each([
	['=HYPERLINK("http://x")', `"'=HYPERLINK(""http://x"")"`],
	['+cmd', "'+cmd"],
	['-cmd', "'-cmd"],
	['@sum', "'@sum"],
	['\tx', `"'\tx"`],
	['U7 pin 23', 'U7 pin 23'],
	['a,b', '"a,b"'],
	['a"b', '"a""b"'],
	['-12.5', '-12.5'],
	['+3', '+3'],
	['', ''],
	[-4.5, '-4.5'],
	[NaN, '']
])('%j is written as %s', (value, written) => expect(csvCell(value)).toBe(written));
