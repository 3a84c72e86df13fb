import { expect, test } from 'vitest';
import { panelsLeft, piecesLeft, stopClockMs } from './run-out.ts';

const at = (clock: string) => Date.parse(`2026-05-11T${clock}Z`);
const noon = { fromMs: at('11:30:00'), toMs: at('12:00:00') };

test('a reel of 1500, 16 a panel, 2 % lost, from half past ten: the break at half past eleven comes between', () => {
	const panels = panelsLeft(1500, 16, 0.02);
	expect(panels).toBe(91);
	expect(stopClockMs(at('10:30:00'), panels, 40, [noon])).toBe(at('12:00:40'));
	expect(stopClockMs(at('10:30:00'), panels, 40)).toBe(at('11:30:40'));
});

test.each([
	// Done just as the break begins; begun within it; the break long over; two that overlap; none to build.
	['10:30:00', 90, [noon], '11:30:00'],
	['11:45:00', 1, [noon], '12:00:40'],
	['12:00:00', 1, [noon], '12:00:40'],
	['13:00:00', 3, [noon], '13:02:00'],
	['11:29:20', 2, [{ fromMs: at('11:50:00'), toMs: at('12:10:00') }, noon], '12:10:40'],
	['11:45:00', 0, [], '11:45:00']
] as const)('from %s, %d panels', (from, panels, breaks, until) => {
	expect(stopClockMs(at(from), panels, 40, breaks)).toBe(at(until));
});

test('what cannot be is refused; a reel holds never less than nothing', () => {
	expect(() => stopClockMs(0, -1, 40)).toThrow(/panels/);
	expect(() => stopClockMs(0, 1, 0)).toThrow(/taktS/);
	expect(() => stopClockMs(0, 1, 40, [{ fromMs: 2, toMs: 1 }])).toThrow(/breaks/);
	expect(() => panelsLeft(100, 0)).toThrow(/perPanel/);
	expect(panelsLeft(100, 10, 0)).toBe(10);
	expect(panelsLeft(99.9, 10, 0)).toBe(9);
	expect(piecesLeft({ loaded: 500, panels: 12, lost: 3 }, 40)).toBe(17);
	expect(piecesLeft({ loaded: 5, panels: 12, lost: 3 }, 40)).toBe(0);
});
