import { expect, test } from 'vitest';
import { tellMoved, type MovedReport } from './index.ts';

const moved: MovedReport = {
	report: 'Paste check',
	at: '09:31',
	movedAt: '10:04',
	shownOn: '08:31',
	isOf: '09:20',
	shown: { result: 'pass', fails: 0, pads: 282 },
	judged: { result: 'reject', fails: 12, pads: 282 }
};

test('a verdict that changes because a print came late says what was shown, what it is now, and what came late', () => {
	const { here, there } = tellMoved(moved);
	expect(here).toEqual({
		what: 'Paste check: judged anew',
		level: 'act',
		text: 'The print of 09:20 arrived late, by 10:04: Paste check of 09:31 is of this pass, and was shown on the one printed at 08:31 until then, as pass (0 of 282 pads fail). By this pass’s foil and pads it is reject (12 of 282 pads fail).'
	});
	expect(there.text).toBe(
		'Paste check of 09:31 was shown here as pass (0 of 282 pads fail) until 10:04. The print of 09:20 arrived late and shows that it is of that pass.'
	);
});

test('one that comes to the same elsewhere is not called a new verdict', () => {
	const { here, there } = tellMoved({ ...moved, judged: moved.shown });
	expect(here.what).toBe('Paste check: came over');
	expect(here.level).toBeNull();
	expect(here.text).toMatch(/until then\.$/);
	expect(there.text).toContain('as pass');
});

test('a station that judges itself keeps its own verdict', () => {
	const { here, there } = tellMoved({ ...moved, report: 'Optical', shown: null, judged: null });
	expect([here.what, here.level]).toEqual(['Optical: came over', null]);
	expect(there.text).toBe(
		'Optical of 09:31 was shown here until 10:04. The print of 09:20 arrived late and shows that it is of that pass.'
	);
});

test.each([
	['pass', 'good'],
	['review', 'watch'],
	['reject', 'act']
] as const)('%s is %s', (result, level) => {
	expect(tellMoved({ ...moved, shown: { result, fails: 5, pads: 1 }, judged: { result, fails: 1, pads: 1 } }).here.level).toBe(level);
});
