import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { InputError } from '../judgement/index.ts';
import { checkReel, DRY_SOON_H, reelStatus, standOfDryness, standOfReel, type ReelEvent, type ReelFacts } from './reel.ts';

const H = 3_600_000;
const FACTS: ReelFacts = { receivedMs: 0, pieces: 5000, place: 'rack C3', moistureLevel: null, labelH: null };
const event = (kind: ReelEvent['kind'], atH: number, more: Partial<ReelEvent> = {}): ReelEvent => ({
	kind,
	atMs: atH * H,
	pieces: null,
	rhPct: null,
	note: '',
	place: '',
	...more
});

describe('pieces', () => {
	test('a count says what is there; what is split off afterwards is less', () => {
		const events = [event('split', 1, { pieces: 500 }), event('count', 2, { pieces: 4400 }), event('split', 3, { pieces: 400 })];
		expect(reelStatus(FACTS, events.slice(0, 1), 9 * H)).toMatchObject({ pieces: 4500, countedMs: 0 });
		expect(reelStatus(FACTS, events.slice(0, 2), 9 * H)).toMatchObject({ pieces: 4400, countedMs: 2 * H });
		expect(reelStatus(FACTS, events, 9 * H)).toMatchObject({ pieces: 4000, countedMs: 2 * H });
	});

	test('what has not happened yet does not count; the order in which it is told does not either', () => {
		const events = [event('count', 5, { pieces: 10 }), event('count', 2, { pieces: 20 })];
		expect(reelStatus(FACTS, events, 3 * H).pieces).toBe(20);
		expect(reelStatus(FACTS, events, 5 * H).pieces).toBe(10);
	});

	test('what is used up has none; more is never split off than there is', () => {
		expect(reelStatus(FACTS, [event('gone', 1)], 2 * H)).toMatchObject({ gone: true, pieces: 0 });
		expect(reelStatus(FACTS, [event('split', 1, { pieces: 9000 })], 2 * H).pieces).toBe(0);
	});

	test('blocked with why, and free again; moved by whatever names a place', () => {
		const blocked = event('block', 1, { note: 'lot in doubt' });
		expect(reelStatus(FACTS, [blocked], 2 * H).blocked).toBe('lot in doubt');
		expect(reelStatus(FACTS, [blocked, event('unblock', 1.5)], 2 * H).blocked).toBeNull();
		expect(reelStatus(FACTS, [event('move', 1, { place: 'cart 2' })], 2 * H).place).toBe('cart 2');
		expect(reelStatus(FACTS, [event('count', 1, { pieces: 1 })], 2 * H).place).toBe('rack C3');
	});
});

describe('the moisture clock', () => {
	const wet: ReelFacts = { ...FACTS, moistureLevel: '3' };

	test('a part that stands the air has none', () => {
		expect(reelStatus({ ...FACTS, moistureLevel: '1' }, [], 9 * H)).toMatchObject({ dry: null, life: null, endsMs: null });
		expect(reelStatus(FACTS, [], 9 * H).life).toBeNull();
	});

	test('it stands in the sealed bag and runs from its opening', () => {
		expect(reelStatus(wet, [], 1000 * H)).toMatchObject({ dry: 'bag', life: { usedH: 0, leftH: 168 }, endsMs: null });
		const open = event('open', 1000, { rhPct: 5 });
		expect(reelStatus(wet, [open], 1011 * H)).toMatchObject({ dry: 'air', life: { usedH: 11, leftH: 157 }, endsMs: 1168 * H });
	});

	test('a bag whose card reads more than 10 % has let air in: its time counts; 10 % has not', () => {
		expect(reelStatus(wet, [event('open', 100, { rhPct: 10 })], 101 * H).life).toMatchObject({ usedH: 1 });
		expect(reelStatus(wet, [event('open', 100, { rhPct: 10.1 })], 101 * H).life).toMatchObject({ usedH: 101 });
	});

	test('the note’s own walk: 11 h of air, 55 h at 8 %, 100 h of air leave 68 h', () => {
		const events = [event('open', 0, { rhPct: 2 }), event('cabinet', 11, { rhPct: 8 }), event('air', 66)];
		expect(reelStatus(wet, events, 166 * H)).toMatchObject({ dry: 'air', life: { usedH: 100, leftH: 68 } });
	});

	test('a cabinet that nobody read is air; a bake begins anew', () => {
		const open = event('open', 0, { rhPct: 2 });
		expect(reelStatus(wet, [open, event('cabinet', 10)], 60 * H).life).toMatchObject({ usedH: 60 });
		expect(reelStatus(wet, [open, event('bake', 200)], 205 * H)).toMatchObject({
			dry: 'air',
			life: { usedH: 5, leftH: 163, expired: false }
		});
	});

	test('closed in a bag again it stands; in the cabinet it has no end', () => {
		const open = event('open', 0, { rhPct: 2 });
		expect(reelStatus(wet, [open, event('bag', 20)], 500 * H)).toMatchObject({ dry: 'bag', life: { usedH: 20 }, endsMs: null });
		expect(reelStatus(wet, [open, event('cabinet', 20, { rhPct: 5 })], 21 * H)).toMatchObject({ dry: 'cabinet', endsMs: null });
	});

	test('time in air is never more than time since the bag was opened (property)', () => {
		const step = fc.record({
			kind: fc.constantFrom<ReelEvent['kind'][]>('cabinet', 'air', 'bag', 'open'),
			atH: fc.double({ min: 1, max: 300, noNaN: true })
		});
		fc.assert(
			fc.property(fc.array(step, { maxLength: 8 }), (steps) => {
				const events = [event('open', 0, { rhPct: 1 }), ...steps.map(({ kind, atH }) => event(kind, atH, { rhPct: 4 }))];
				const { life } = reelStatus(wet, events, 300 * H);
				expect(life!.usedH).toBeGreaterThanOrEqual(0);
				expect(life!.usedH).toBeLessThanOrEqual(300 + 1e-9);
			})
		);
	});
});

describe('a label', () => {
	const label = { pieces: 4000, tapeMm: 8, pitchMm: 4, kind: 'reel', moistureLevel: null, labelH: null } as const;
	const path = (of: Parameters<typeof checkReel>[0]) => {
		try {
			checkReel(of);
			return null;
		} catch (error) {
			return error instanceof InputError ? error.path : error;
		}
	};

	test.each([
		[{ ...label, pieces: 0 }, 'pieces'],
		[{ ...label, pieces: 1.5 }, 'pieces'],
		[{ ...label, tapeMm: 10 }, 'tapeMm'],
		[{ ...label, tapeMm: null }, 'tapeMm'],
		[{ ...label, pitchMm: 3 }, 'pitchMm'],
		[{ ...label, pitchMm: null }, 'pitchMm'],
		[{ ...label, moistureLevel: '6' as const }, 'labelH']
	])('%j is refused at %s', (reel, at) => expect(path(reel)).toBe(at));

	test('pitches of 1, 2, 4 and 12 mm, a tray without tape, and a level 6 with its hours are taken', () => {
		for (const pitchMm of [1, 2, 4, 12]) expect(path({ ...label, pitchMm })).toBeNull();
		expect(path({ ...label, kind: 'tray', tapeMm: null, pitchMm: null })).toBeNull();
		expect(path({ ...label, moistureLevel: '6', labelH: 6 })).toBeNull();
	});
});

describe('how it stands', () => {
	const life = (leftH: number | null, expired = false) => ({ leftH, expired }) as NonNullable<ReturnType<typeof reelStatus>['life']>;
	const free = { gone: false, blocked: null, life: null };

	test('used up, blocked, too long in the air, empty, in use, free: what speaks against it first', () => {
		expect(standOfReel(free, 1, false)).toEqual({ level: 'good', words: 'free to use' });
		expect(standOfReel(free, 1, true)).toEqual({ level: 'good', words: 'in use' });
		expect(standOfReel(free, 0, true)).toEqual({ level: 'watch', words: 'empty' });
		expect(standOfReel({ ...free, life: life(-1, true) }, 0, true)).toEqual({ level: 'stopped', words: 'too long in the air: bake it' });
		expect(standOfReel({ ...free, blocked: 'recalled', life: life(-1, true) }, 9, false)).toEqual({
			level: 'stopped',
			words: 'blocked: recalled'
		});
		expect(standOfReel({ gone: true, blocked: 'recalled', life: null }, 0, false)).toEqual({ level: 'noData', words: 'used up' });
	});

	test('its moisture clock: act below four hours in air, not in a bag or a cabinet; nothing for parts that need not be kept dry', () => {
		expect(DRY_SOON_H).toBe(4);
		const of = (dry: 'bag' | 'air' | 'cabinet', leftH: number | null, expired = false) =>
			standOfDryness({ dry, life: life(leftH, expired) });
		expect(of('air', 4)).toEqual({ level: 'good', words: 'in the air' });
		expect(of('air', 3.99)).toEqual({ level: 'act', words: 'in the air' });
		expect(of('cabinet', 3.99)).toEqual({ level: 'good', words: 'in a dry cabinet' });
		expect(of('bag', null)).toEqual({ level: 'good', words: 'in its bag, without end' });
		expect(of('cabinet', 0, true)).toMatchObject({ level: 'stopped' });
		expect(standOfDryness({ dry: null, life: null })).toBeNull();
	});
});
