import { expect, test } from 'vitest';
import { judgePrintCycle } from './index.ts';

test('a printer that keeps up is good, one that paces the line is watched, none is no data', () => {
	expect(judgePrintCycle([18, 20, 28], 40)).toMatchObject({
		meanS: 22,
		verdict: { level: 'good', statement: 'Printing every 22.0 s, faster than the placers need.' }
	});
	const slow = judgePrintCycle([18, 20, 28], 20).verdict;
	expect(slow).toMatchObject({ level: 'watch', doNext: ['Lengthen the wipe interval or print faster'] });
	expect(slow.statement).toContain('22.0 s a panel against 20.0 s');
	expect(judgePrintCycle([], 20)).toMatchObject({ meanS: null, verdict: { level: 'noData' } });
});
