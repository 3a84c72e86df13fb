import { expect, test } from 'vitest';
import { NOTHING_SCANNED, scanStep, type ScanContext } from './scan-sequence.ts';

const slot = { is: 'slot', stationId: 4, slot: 14 } as const;
const feeder = (tied: boolean) => ({ is: 'feeder', code: 'F-1', tied }) as const;
const reel = { is: 'reel', code: 'RL-1' } as const;
const AT = { stationId: 4, slot: 14 };
const atSlot: ScanContext = { slot: AT, feeder: null };

test('a slot waits for a feeder; where one stands in it, for a reel that is spliced too', () => {
	expect(scanStep(NOTHING_SCANNED, slot, null)).toEqual({ do: 'wait', waits: 'feeder', context: atSlot });
	expect(scanStep(NOTHING_SCANNED, slot, 'F-9')).toEqual({ do: 'wait', waits: 'feeder or reel', context: atSlot });
});

test('slot, then a feeder whose reel is known: it docks; else its reel is asked for, then both are done', () => {
	expect(scanStep(atSlot, feeder(true), null)).toEqual({ do: 'dock', slot: AT, feeder: 'F-1' });
	const waits = scanStep(atSlot, feeder(false), null);
	expect(waits).toEqual({ do: 'wait', waits: 'reel', context: { slot: AT, feeder: 'F-1' } });
	expect(scanStep({ slot: AT, feeder: 'F-1' }, reel, null)).toEqual({ do: 'tie and dock', slot: AT, feeder: 'F-1', reel: 'RL-1' });
});

test('feeder first: its reel ties it, a slot docks it', () => {
	const context = { slot: null, feeder: 'F-1' };
	expect(scanStep(NOTHING_SCANNED, feeder(false), null)).toEqual({ do: 'wait', waits: 'reel', context });
	expect(scanStep(NOTHING_SCANNED, feeder(true), null)).toEqual({ do: 'wait', waits: 'slot or reel', context });
	expect(scanStep(context, reel, null)).toEqual({ do: 'tie', feeder: 'F-1', reel: 'RL-1' });
	expect(scanStep(context, slot, 'F-9')).toEqual({ do: 'dock', slot: AT, feeder: 'F-1' });
});

test('a reel after a slot is spliced to what runs there; without anything there, or alone, nothing is guessed', () => {
	expect(scanStep(atSlot, reel, 'F-9')).toEqual({ do: 'splice', slot: AT, feeder: 'F-9', reel: 'RL-1' });
	expect(scanStep(atSlot, reel, null)).toMatchObject({ do: 'none', why: expect.stringContaining('slot 14') });
	expect(scanStep(NOTHING_SCANNED, reel, null).do).toBe('none');
});

test('another slot or feeder scanned in between begins with that one', () => {
	expect(scanStep(atSlot, { ...slot, slot: 15 }, null)).toMatchObject({ do: 'wait', context: { slot: { slot: 15 } } });
	expect(scanStep({ slot: null, feeder: 'F-2' }, feeder(false), null)).toMatchObject({ context: { slot: null, feeder: 'F-1' } });
});
