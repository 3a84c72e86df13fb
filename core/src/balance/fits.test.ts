import { expect, test } from 'vitest';
import { programAge, whyNotOn } from './fits.ts';

const plan = (...names: string[]) => ({ machines: names.map((machine) => ({ machine })) });

test('a program fits the placers that it was made for, whatever their order', () => {
	expect(whyNotOn(plan('Place 1', 'Place 2'), ['Place 2', 'Place 1'])).toBeNull();
	expect(whyNotOn(plan(), [])).toBeNull();
});

test('a placer that is gone comes before one that has no work', () => {
	expect(whyNotOn(plan('Place 1', 'Place 2'), ['Place 1'])).toBe('it counts on Place 2, which is not in use');
	expect(whyNotOn(plan('A', 'B'), [])).toBe('it counts on A and B, which are not in use');
	expect(whyNotOn(plan('Place 1'), ['Place 1', 'Place 2', 'Place 3'])).toBe('it has no work for Place 2 and Place 3');
	expect(whyNotOn(plan('Place 1'), ['Place 2'])).toContain('counts on Place 1');
});

test('a program that does not fit is replaced, one from before a correction is released anew, one that fits says nothing', () => {
	const program = { revision: 3, plan: plan('Place 1', 'Place 2') };
	expect(programAge(program, ['Place 1', 'Place 2'], [])).toBeNull();
	expect(programAge(program, ['Place 1', 'Place 2'], ['Place 2'])).toEqual({
		misfit: false,
		words: 'Machine data of Place 2 were corrected after program 3. Release it anew to plan with them.'
	});
	// A misfit outranks a correction.
	expect(programAge(program, ['Place 1'], ['Place 1'])).toEqual({
		misfit: true,
		words: 'Program 3 cannot be built here any more: it counts on Place 2, which is not in use. This is one for the placers in use.'
	});
});
