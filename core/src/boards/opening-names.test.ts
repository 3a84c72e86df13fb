import { expect, test } from 'vitest';
import { namedOpenings, openingNames } from './index.ts';

const opening = (index: number, refDes: string | null, pin: string | null) => ({ index, refDes, pin });

test('a known pin is named, an unknown one is counted in the order of the file', () => {
	expect(
		openingNames([opening(0, 'U7', '23'), opening(1, 'R1', null), opening(2, 'R1', null), opening(3, null, null), opening(4, 'U7', null)])
	).toEqual(['U7 pin 23', 'R1 opening 1', 'R1 opening 2', 'opening 4', 'U7 opening 1']);
});

test('names go with sizes', () => {
	const [named] = namedOpenings([
		{
			...opening(0, 'C1', null),
			shape: 'rectangle',
			outline: [],
			centre: { x: 0, y: 0 },
			areaMm2: 0.2,
			perimeterMm: 2,
			widthMm: 0.4,
			lengthMm: 0.5,
			line: 9
		}
	]);
	expect(named).toEqual({ areaMm2: 0.2, perimeterMm: 2, widthMm: 0.4, lengthMm: 0.5, shape: 'rectangle', name: 'C1 opening 1' });
});
