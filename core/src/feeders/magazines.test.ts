import { describe, expect, test } from 'vitest';
import { judgeMagazines, magazineEnds } from './index.ts';

const clock = { nowMs: 0, taktS: 40, toLoad: 100, toUnload: 110, breaks: [] };

describe('the ends of a line', () => {
	test('a loader is empty, an unloader full, after as many panels as are left', () => {
		const ends = magazineEnds(
			[
				{ end: 'loader', panels: 50, moved: 10 },
				{ end: 'unloader', panels: 25, moved: 10 }
			],
			clock
		);
		expect(ends).toEqual([
			{ end: 'unloader', left: 15, endMs: 600_000 },
			{ end: 'loader', left: 40, endMs: 1_600_000 }
		]);
	});

	test('breaks in which the line stands are left out', () => {
		const breaks = [{ fromMs: 100_000, toMs: 400_000 }];
		expect(magazineEnds([{ end: 'loader', panels: 5, moved: 0 }], { ...clock, breaks })[0]!.endMs).toBe(500_000);
	});

	test('what outlasts the run asks for nothing: each end by its own panels', () => {
		expect(magazineEnds([{ end: 'loader', panels: 100, moved: 0 }], clock)).toEqual([]);
		expect(magazineEnds([{ end: 'loader', panels: 99, moved: 0 }], clock)).toHaveLength(1);
		expect(magazineEnds([{ end: 'unloader', panels: 109, moved: 0 }], clock)).toHaveLength(1);
		expect(magazineEnds([{ end: 'unloader', panels: 110, moved: 0 }], clock)).toEqual([]);
	});

	test('more moved than there were is none left, not less', () => {
		expect(magazineEnds([{ end: 'loader', panels: 5, moved: 9 }], clock)).toEqual([{ end: 'loader', left: 0, endMs: 0 }]);
		expect(() => magazineEnds([{ end: 'loader', panels: 5, moved: -1 }], clock)).toThrow('moved');
		expect(() => magazineEnds([{ end: 'loader', panels: -1, moved: 0 }], clock)).toThrow('panels');
	});

	test('ten minutes before it is said; then that the line stands', () => {
		const at = (left: number, endMs: number) => judgeMagazines([{ end: 'loader', left, endMs }], 0);
		expect(at(20, 600_001)).toBeNull();
		expect(at(15, 600_000)).toMatchObject({ level: 'watch', statement: 'The loader is empty in 10 min: the line will stand.' });
		expect(at(0, 0)).toMatchObject({ level: 'act', statement: 'The loader is empty by the count: the line stands for it.' });
		expect(judgeMagazines([{ end: 'unloader', left: 0, endMs: 0 }], 0)!.statement).toContain('unloader is full');
		expect(judgeMagazines([], 0)).toBeNull();
	});
});
