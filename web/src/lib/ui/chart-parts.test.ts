import { expect, test } from 'vitest';
import { decadeName } from './chart-parts.ts';

test('a logarithmic axis names 1, 2 and 5 of each decade and nothing between', () => {
	const ticks = [0.0001, 0.0002, 0.0003, 0.0005, 0.0009, 0.001, 0.002, 0.01, 0.05, 0.09999999999999999, 0.1, 1, 2, 3, 5, 10, 50, 70];
	expect(ticks.map(decadeName).filter(Boolean)).toEqual([
		'0.0001',
		'0.0002',
		'0.0005',
		'0.001',
		'0.002',
		'0.01',
		'0.05',
		'0.1',
		'0.1',
		'1',
		'2',
		'5',
		'10',
		'50'
	]);
	expect(decadeName('0.3')).toBe('');
});
