import { describe, expect, test } from 'vitest';
import { combine, hasErrors, InputError, levelWord, LEVELS, noData, quoteValue, requireRange, worstLevel } from './index.ts';

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

describe('what an error shows of a value', () => {
	const shown = (value: unknown) => new InputError('unknown', 'x', 'something else', value).message;

	test('numbers as they are, also those that are none; nothing as nothing; text in quotes', () => {
		expect(shown(0.25)).toBe('x: expected something else, received 0.25');
		expect(shown(NaN)).toContain('received NaN');
		expect(shown(undefined)).toContain('received undefined');
		expect(shown('foil')).toContain('received "foil"');
		expect(shown({ foilUm: 3 })).toContain('received {"foilUm":3}');
	});

	test('80 letters whole, 81 cut to 77 and three dots', () => {
		const quoted = (letters: number) => shown('a'.repeat(letters - 2)).split('received ')[1]!;
		expect(quoted(80)).toHaveLength(80);
		expect(quoted(80)).not.toContain('...');
		expect(quoted(81)).toBe(`"${'a'.repeat(76)}...`);
	});

	test('a range takes both its ends, and nothing beyond', () => {
		expect(() => requireRange('foilUm', 30, 30, 300)).not.toThrow();
		expect(() => requireRange('foilUm', 300, 30, 300)).not.toThrow();
		expect(() => requireRange('foilUm', 29.999, 30, 300, 'µm')).toThrow('foilUm: expected 30 to 300 µm, received 29.999');
		expect(() => requireRange('foilUm', 300.001, 30, 300)).toThrow('expected 30 to 300, received');
		expect(() => requireRange('foilUm', Infinity, 30, 300)).toThrow('a finite number');
	});
});

test('a quoted value: 60 letters whole, 61 cut to 59 and a dot of its own; what cannot be seen becomes a dot', () => {
	expect(quoteValue('a'.repeat(60))).toBe('a'.repeat(60));
	expect(quoteValue('a'.repeat(61))).toBe(`${'a'.repeat(59)}…`);
	expect(quoteValue('a\u0000b\u007fc')).toBe('a·b·c');
});

test('one error among warnings keeps a record out; warnings alone do not', () => {
	const issue = (severity: 'error' | 'warning') => ({ severity, code: 'c', field: 'f', value: '', message: '' });
	expect(hasErrors([issue('warning'), issue('error')])).toBe(true);
	expect(hasErrors([issue('warning'), issue('warning')])).toBe(false);
	expect(hasErrors([])).toBe(false);
});

test('every level has its word', () => {
	expect(LEVELS.map(levelWord)).toEqual(['Good', 'Watch', 'Act', 'Stopped', 'No data']);
});
