import { describe, expect, test } from 'vitest';
import { beadG, jarForTopUp, jarStatus, scanJar, topUpG, type JarFacts } from './index.ts';

const H = 3_600_000;
const jar: JarFacts = { id: 'J17', lot: 'L4', paste: 'P-305', receivedMs: 0, expiryMs: 2000 * H, grams: 500 };
let id = 0;
const event = (kind: string, atMs: number, more: object = {}) => ({ id: (id += 1), kind, atMs, ...more }) as never;
const scan = (events: object[], nowMs: number, asked = {}) => scanJar(jar, jarStatus(jar, events as never, nowMs), asked, nowMs);
const open = [event('store_cold', 0), event('take_out', H), event('open', 6 * H, { stirred: true })];

describe('a jar that is scanned', () => {
	test('open for the right paste: it goes on the stencil, and nothing of putting it away is offered', () => {
		const found = scan(open, 7 * H, { wanted: { paste: 'P-305' } });
		expect(found.no).toBeNull();
		if (found.no) return;
		expect(found.next.kind).toBe('load_stencil');
		expect(found.moves.map((m) => m.kind)).toEqual(['load_stencil']);
	});

	test('still cold: no, with how long it takes', () => {
		const found = scan(open.slice(0, 2), 2 * H);
		expect(found.no).toMatchObject({ ofPaste: false });
		expect(found.no!.why).toContain('J17 opens in 3 h 00: warm-up 1 h 00 of 4 h 00');
	});

	test('past its life: it is discarded, whatever was asked', () => {
		const found = scan([...open, event('load_stencil', 7 * H, { grams: 200, stencil: 'S1' })], 40 * H);
		expect(found).toEqual({ no: { why: 'Discard it now.', ofPaste: true } });
	});

	test('in quarantine: with what went wrong, in words', () => {
		const found = scan([event('store_cold', 0), event('take_out', H), event('open', 2 * H, { stirred: true })], 3 * H);
		expect(found.no!.why).toBe('In quarantine: opened before it was warm. An engineer reviews it, or it is discarded.');
	});

	test('empty: another jar is taken', () => {
		expect(scan([...open, event('empty', 7 * H)], 8 * H).no!.why).toBe('J17 is empty. Take another jar.');
	});
});

describe('what a top-up adds, g', () => {
	const full = Math.round(beadG(16, 250) / 10) * 10;

	test('back to the bead of the start, in tens', () => {
		expect(topUpG([{ grams: full - 57 }], 16, 250)).toBe(Math.round((beadG(16, 250) - full + 57) / 10) * 10);
		expect(topUpG([], 16, 250)).toBe(full);
		expect(topUpG([{ grams: 60 }, { grams: 50 }], 16, 250)).toBe(Math.round((beadG(16, 250) - 110) / 10) * 10);
	});

	test('20 at least: less is not worth opening the printer for; and where no panel says how long the bead is', () => {
		expect(topUpG([{ grams: full - 25 }], 16, 250)).toBeGreaterThanOrEqual(20);
		expect(topUpG([{ grams: full }], 16, 250)).toBe(20);
		expect(topUpG([{ grams: 900 }], 16, 250)).toBe(20);
		expect(topUpG([], 16, null)).toBe(20);
	});
});

describe('the jar of the next top-up', () => {
	const one = (of: string, state: string, more: object = {}) =>
		({ facts: { id: of, paste: 'P-305' }, status: { state, gramsLeft: 100, discardNow: false, ...more } }) as never;

	test('the jar whose paste lies on the stencil, while it lasts; else the first that is open', () => {
		const jars = [one('A', 'open'), one('B', 'on_stencil')];
		expect(jarForTopUp(jars, [{ jar: 'B' }], 'P-305')).toBe('B');
		expect(jarForTopUp([one('A', 'open'), one('B', 'on_stencil', { gramsLeft: 0 })], [{ jar: 'B' }], 'P-305')).toBe('A');
		expect(jarForTopUp(jars, [], 'P-305')).toBe('A');
	});

	test('never a jar from another stencil, another paste, a sealed one, or one past its life', () => {
		expect(jarForTopUp([one('B', 'on_stencil')], [{ jar: 'X' }], 'P-305')).toBeNull();
		expect(jarForTopUp([one('A', 'open')], [], 'P-9')).toBeNull();
		expect(jarForTopUp([one('A', 'ready'), one('B', 'cold')], [], 'P-305')).toBeNull();
		expect(jarForTopUp([one('A', 'open', { discardNow: true })], [], 'P-305')).toBeNull();
	});
});
