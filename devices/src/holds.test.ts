import { describe, expect, test } from 'vitest';
import { Line } from './line.ts';
import { linesLeft } from './lines-left.ts';
import type { Sent } from './message.ts';
import type { KnownWork, StationInfo, Work } from './work.ts';

const START = Date.UTC(2026, 5, 1, 6);
const STATIONS: StationInfo[] = [
	{ name: 'Print', role: 'print', spec: { cycleS: 12 } },
	{ name: 'Paste check', role: 'pasteCheck', spec: { cycleS: 10 } },
	{ name: 'Place', role: 'place', spec: {} },
	{ name: 'Optical', role: 'optical', spec: { cycleS: 9 } }
];
const WORK: Work = {
	runId: 5,
	job: 'J-1',
	side: 'top',
	panels: 12,
	printed: 0,
	ended: false,
	serials: null,
	onLine: [],
	foilUm: 100,
	circuits: 1,
	panel: { widthMm: 100, heightMm: 80, origins: [{ x: 0, y: 0, rotationDeg: 0 }] },
	pads: [{ xMm: 1, yMm: 1, areaMm2: 0.27, perimeterMm: 2.08, padClass: 'chip', refDes: 'R1' }],
	parts: [{ refDes: 'R1', packageName: 'RESC1005X40N', partNumber: 'R-10K' }],
	machines: [
		{ name: 'Place', cycleS: 14, feeders: [{ slot: 3, partNumber: 'R-10K', perPanel: 40, reelPieces: 500, left: 5000, reel: 'RL-1' }] }
	],
	recipe: { setC: [120], beltCmPerMin: 70 }
};

/** A line that waits for the server's word, and a server that answers after every step what it holds, what was washed and what is loaded. */
function together(work: Work, more: { servesItself?: boolean } = {}) {
	const messages: Sent[] = [];
	const line = new Line({
		name: 'Line 1',
		stations: STATIONS,
		work,
		seed: 3,
		startMs: START,
		bootId: '00000000-0000-4000-8000-000000000001',
		out: (m) => messages.push(m),
		waitsForWord: true,
		...more
	});
	const answers: Partial<KnownWork> = { held: [], reprint: [] };
	return {
		messages,
		line,
		answers,
		/** @param heard whether the server answers meanwhile */
		run(seconds: number, heard = true) {
			for (let i = 0; i < seconds; i += 5) {
				line.runTo(line.nowMs + 5000);
				if (!heard) continue;
				line.sent();
				line.hear({ panels: work.panels, serials: null, ...answers });
			}
		},
		placed: () => messages.filter((m) => m.type === 'placement').map((m) => m.panel)
	};
}

describe('a line that obeys the server', () => {
	test('places nothing that the server has not answered for', () => {
		const { run, placed, messages } = together(WORK);
		run(300, false);
		expect(messages.some((m) => m.type === 'paste_inspection')).toBe(true);
		expect(placed()).toEqual([]);
		run(600);
		expect(placed().length).toBeGreaterThan(5);
	});

	test('does not place a panel that is held; the others go past it; with leave it is placed', () => {
		const { run, placed, answers, line } = together(WORK);
		answers.held = [{ panel: 'J-1-0003', stations: ['place', 'oven'] }];
		run(900);
		expect(placed()).not.toContain('J-1-0003');
		expect(placed()).toHaveLength(11);
		// It stands beside the belt: the next run need not wait for it.
		expect(line.empty).toBe(true);
		answers.held = [];
		run(100);
		expect(placed()).toContain('J-1-0003');
		expect(line.finished).toBe(12);
	});

	test('a hold that other stations obey does not keep a panel from the placer', () => {
		const { run, placed, answers } = together(WORK);
		answers.held = [{ panel: 'J-1-0003', stations: ['inCircuit'] }];
		run(900);
		expect(placed()).toHaveLength(12);
	});

	test('a washed panel is printed and inspected again, once, as its second attempt, and goes on when it passes', () => {
		const { run, placed, answers, messages } = together(WORK);
		answers.held = [{ panel: 'J-1-0003', stations: ['place'] }];
		run(300);
		answers.reprint = [{ panel: 'J-1-0003', printAttempt: 2 }];
		run(100);
		const of = (type: string) => messages.filter((m) => m.type === type && m.panel === 'J-1-0003').map((m) => m.printAttempt ?? 1);
		expect([of('print'), of('paste_inspection')]).toEqual([
			[1, 2],
			[1, 2]
		]);
		answers.held = [];
		run(600);
		expect(placed().filter((panel) => panel === 'J-1-0003')).toHaveLength(1);
	});

	test('an empty slot stops its placer with the reason until somebody loads it', () => {
		const empty = {
			...WORK,
			machines: [{ ...WORK.machines[0]!, feeders: [{ ...WORK.machines[0]!.feeders[0]!, left: null, reel: null }] }]
		};
		const { run, placed, answers, messages } = together(empty, { servesItself: false });
		run(200);
		expect(placed()).toEqual([]);
		expect(messages.find((m) => m.state === 'stopped' && String(m.source).endsWith('Place'))).toMatchObject({ reason: 'slot 3 is empty' });
		expect(messages.some((m) => m.type === 'feeder_loaded')).toBe(false);
		// Parts for two panels: then it stands again.
		answers.reels = [{ name: 'Place', feeders: [{ slot: 3, left: 90, reel: 'C-1' }] }];
		run(300);
		expect(placed().length).toBeGreaterThan(0);
		expect(placed().length).toBeLessThanOrEqual(2);
		answers.reels = [{ name: 'Place', feeders: [{ slot: 3, left: 5000, reel: 'C-2' }] }];
		run(600);
		expect(placed().length).toBeGreaterThan(8);
	});
});

test('lines are left by their names, all of them, or all but some', () => {
	const left = (text: string) => ['Line 1', 'Line 2', 'Prototypes'].filter(linesLeft(text));
	expect(left('')).toEqual([]);
	expect(left('Line 1, Prototypes')).toEqual(['Line 1', 'Prototypes']);
	expect(left('all')).toEqual(['Line 1', 'Line 2', 'Prototypes']);
	expect(left('all but Line 2, Prototypes')).toEqual(['Line 1']);
});
