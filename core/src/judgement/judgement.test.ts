import { expect, test } from 'vitest';
import { ACTIONS, combine, InputError, may, noData, quoteValue, requireRange, ROLES, rolesThatMay, worstLevel } from './index.ts';

test('a lead may do everything, and every action has somebody', () => {
	for (const action of ACTIONS) {
		expect(may('lead', action)).toBe(true);
		expect(rolesThatMay(action).length).toBeGreaterThan(0);
	}
	expect(may('operator', 'recipe.release')).toBe(false);
	expect(ROLES).toHaveLength(5);
});

test('a missing reading never outranks a judged one', () => {
	expect(worstLevel(['good', 'noData'])).toBe('good');
	expect(worstLevel(['watch', 'stopped', 'act'])).toBe('stopped');
	expect(worstLevel([])).toBe('noData');
});

test('the worst of several verdicts speaks, all of them give their evidence', () => {
	const good = {
		level: 'good' as const,
		statement: 'A.',
		because: [{ quantity: 'a', value: 1, unit: '', limit: null, source: 's' }],
		doNext: []
	};
	const watch = {
		level: 'watch' as const,
		statement: 'B.',
		because: [{ quantity: 'b', value: 2, unit: '', limit: null, source: 's' }],
		doNext: ['Look']
	};
	const both = combine([good, noData('C.'), watch]);
	expect(both).toMatchObject({ level: 'watch', statement: 'B.', doNext: ['Look'] });
	expect(both.because.map((reason) => reason.quantity)).toEqual(['b', 'a']);
});

test('an error names the place, what was expected and what came', () => {
	expect(() => requireRange('foilMm', 120, 0.03, 0.3, 'mm')).toThrow('foilMm: expected 0.03 to 0.3 mm, received 120');
	expect(() => requireRange('x', NaN, 0, 1)).toThrow(InputError);
	expect(quoteValue('a\u0000b'.repeat(40))).toHaveLength(60);
});
