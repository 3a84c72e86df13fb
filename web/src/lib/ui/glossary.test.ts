import { expect, test } from 'vitest';
import { GLOSSARY, readGlossary, termsIn } from './glossary.ts';

const named = (line: string) => termsIn(line).map(({ from, to, term }) => [line.slice(from, to), term.names[0]]);

test('the list is read, every word once', () => {
	expect(readGlossary('# Words\n\n- **Aperture, opening**: one hole.\n- **Web**: foil between.\nelse\n')).toEqual([
		{ names: ['Aperture', 'opening'], meaning: 'one hole.' },
		{ names: ['Web'], meaning: 'foil between.' }
	]);
	const names = GLOSSARY.flatMap((term) => term.names.map((name) => name.toLowerCase()));
	expect(names.length).toBeGreaterThan(30);
	expect(new Set(names).size).toBe(names.length);
});

test('words are found as people write them, and only whole ones', () => {
	expect(named('Two openings below an Area Ratio of 0.66')).toEqual([
		['openings', 'Aperture'],
		['Area Ratio', 'Area ratio']
	]);
	expect(named('the takt-time of prerun')).toEqual([]);
	expect(named('log %, blades, webs')).toEqual([
		['log %', 'log %'],
		['blades', 'Blade'],
		['webs', 'Web']
	]);
});
