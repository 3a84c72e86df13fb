import { describe, expect, test } from 'vitest';
import { Line, type LineOptions } from './line.ts';
import type { Sent } from './message.ts';
import { Sensor, type SensorInfo } from './sensors.ts';
import type { StationInfo, Work } from './work.ts';

const START = Date.UTC(2026, 5, 1, 6);
const CELL: StationInfo[] = [
	{ name: 'Print', role: 'print', spec: { cycleS: 12 } },
	{ name: 'Paste check', role: 'pasteCheck', spec: { cycleS: 10 } }
];
const WORK: Work = {
	runId: 7,
	job: 'J-7',
	side: 'top',
	panels: 60,
	printed: 0,
	ended: false,
	serials: null,
	onLine: [],
	foilUm: 100,
	circuits: 2,
	panel: {
		widthMm: 100,
		heightMm: 80,
		origins: [
			{ x: 0, y: 0, rotationDeg: 0 },
			{ x: 50, y: 0, rotationDeg: 180 }
		],
		fiducials: [
			{ x: 5, y: 5 },
			{ x: 95, y: 5 },
			{ x: 5, y: 75 }
		]
	},
	pads: Array.from({ length: 30 }, (_, i) => ({
		xMm: i,
		yMm: i % 7,
		areaMm2: 0.27,
		perimeterMm: 2.08,
		padClass: 'chip',
		refDes: `R${i >> 1}`
	})),
	parts: [],
	machines: [],
	recipe: { setC: [], beltCmPerMin: 60 }
};

function cell(work: Partial<Work> = {}, more: Partial<LineOptions> = {}) {
	const messages: Sent[] = [];
	const line = new Line({
		name: 'Line 1',
		stations: CELL,
		work: { ...WORK, ...work },
		seed: 3,
		startMs: START,
		bootId: '00000000-0000-4000-8000-000000000002',
		out: (m) => messages.push(m),
		...more
	});
	const of = (type: string) => messages.filter((m) => m.type === type) as (Sent & Record<string, unknown>)[];
	return { line, of, run: (minutes: number) => line.runTo(line.nowMs + minutes * 60_000) };
}

describe('first prints', () => {
	test('the printer stops after those that it may print and goes on when the run is released', () => {
		const { line, of, run } = cell({ mayPrint: 2 });
		run(10);
		expect(of('print')).toHaveLength(2);
		expect(of('paste_inspection')).toHaveLength(2);
		line.hear({ panels: 60, serials: null, mayPrint: 3 });
		run(5);
		expect(of('print')).toHaveLength(3);
		line.hear({ panels: 60, serials: null, mayPrint: null });
		run(10);
		expect(of('print').length).toBeGreaterThan(20);
	});
	test('a line that starts again within its first prints makes only those that are left', () => {
		const { of, run } = cell({ mayPrint: 2, printed: 1 });
		run(10);
		expect(of('print').map((m) => m.panel)).toEqual(['J-7-0002']);
	});
	test('a server that says nothing of it leaves the printer as it is', () => {
		const { line, of, run } = cell({ mayPrint: 2 });
		line.hear({ panels: 60, serials: null });
		run(5);
		expect(of('print')).toHaveLength(2);
	});
});

describe('the printer is set', () => {
	const meanAt = (setting: Work['setting'], pads = WORK.pads) => {
		const { of, run } = cell({ setting, pads, panels: 60 });
		run(20);
		const all = of('paste_inspection').flatMap((m) => m.volumePct as number[]);
		return all.reduce((a, b) => a + b, 0) / all.length;
	};
	const start = { forceKgPerCm: 0.2, speedMmPerS: 40, separationMmPerS: 2 };

	test('as it comes is what the run’s starting recipe says', () => {
		expect(meanAt(start)).toBe(meanAt(null));
	});
	test('too little force leaves a film; a stroke twice as fast needs more', () => {
		expect(meanAt({ ...start, forceKgPerCm: 0.12 })).toBeGreaterThan(1.04 * meanAt(start));
		expect(meanAt({ ...start, speedMmPerS: 80 })).toBeGreaterThan(1.01 * meanAt({ ...start, speedMmPerS: 80, forceKgPerCm: 0.26 }));
	});
	test('a foil that leaves too fast or too slowly pulls paste back out of small openings, hardly out of large ones', () => {
		const small = WORK.pads.map((pad) => ({ ...pad, areaMm2: 0.0616, perimeterMm: 0.88 }));
		for (const separationMmPerS of [0.4, 10]) {
			const loss = (pads: Work['pads']) => 1 - meanAt({ ...start, separationMmPerS }, pads) / meanAt(start, pads);
			expect(loss(small)).toBeGreaterThan(0.05);
			expect(loss(WORK.pads)).toBeLessThan(0.3 * loss(small));
		}
	});
	test('a new setting holds from the next print on', () => {
		const { line, of, run } = cell({ setting: start, panels: 200 });
		run(20);
		const before = of('paste_inspection').length;
		line.hear({ panels: 200, serials: null, setting: { ...start, forceKgPerCm: 0.1 } });
		run(20);
		const mean = (list: Record<string, unknown>[]) =>
			list.flatMap((m) => m.volumePct as number[]).reduce((a, b, _, v) => a + b / v.length, 0);
		const after = of('paste_inspection').slice(before + 2);
		expect(after.length).toBeGreaterThan(10);
		expect(mean(after)).toBeGreaterThan(1.05 * mean(of('paste_inspection').slice(0, before)));
	});
});

describe('a study of the inspection unit', () => {
	test('one panel is measured again and again: the same pads, its own noise, numbered inspections', () => {
		const { of, run } = cell({}, { gauge: { panel: 3, times: 6 } });
		run(6);
		const again = of('paste_inspection').filter((m) => m.panel === 'J-7-0003');
		expect(again.map((m) => m.inspectionAttempt)).toEqual([undefined, 2, 3, 4, 5, 6]);
		expect(of('paste_inspection').filter((m) => m.panel === 'J-7-0002')).toHaveLength(1);
		const volumes = again.map((m) => m.volumePct as number[]);
		for (let pad = 0; pad < 60; pad++) {
			const values = volumes.map((v) => v[pad]!);
			// One per cent of noise: six readings of one pad lie within a few per cent of each other, and are not all the same.
			expect(Math.max(...values) / Math.min(...values)).toBeLessThan(1.1);
			expect(new Set(values).size).toBeGreaterThan(1);
		}
	});
});

describe('paste and alignment of the simulated printer', () => {
	test('the bead is topped up from the jar at the printer, with its grams, and the counter begins anew', () => {
		const { of, run } = cell({ jar: 'J-0042', beadG: 0 });
		run(15);
		const loads = of('paste_loaded');
		expect(loads[0]).toMatchObject({ jar: 'J-0042', runId: 7, grams: 200 });
		expect(of('print')[0]!.printsSinceTopup).toBe(0);
		expect(of('print')[1]!.printsSinceTopup).toBe(1);
	});
	test('another jar at the printer is the one of the next top-up; without a jar nothing is reported', () => {
		const { line, of, run } = cell({ jar: null, beadG: 0, panels: 500 });
		run(5);
		expect(of('paste_loaded')).toEqual([]);
		line.hear({ panels: 500, serials: null, jar: 'J-0043' });
		run(600);
		expect(of('paste_loaded').every((m) => m.jar === 'J-0043')).toBe(true);
	});
	test('marks are read with every print: as many on the board as on the stencil, a few hundredths apart', () => {
		const { of, run } = cell();
		run(5);
		for (const print of of('print')) {
			const [stencil, board] = [print.stencilMarks, print.boardMarks] as { x: number; y: number }[][];
			expect(board).toHaveLength(3);
			stencil!.forEach((s, i) => expect(Math.hypot(board![i]!.x - s.x, board![i]!.y - s.y)).toBeLessThan(0.6));
		}
	});
	test('a cured cause is gone from the next print on', () => {
		const trouble = { station: 'Print', kind: 'strokePair' as const, strength: 4, fromMs: START, toMs: Infinity };
		const apart = (prints: (Sent & Record<string, unknown>)[], inspections: (Sent & Record<string, unknown>)[]) => {
			const strokeOf = new Map(prints.map((p) => [p.panel, p.stroke]));
			const means = (stroke: string) =>
				inspections.filter((m) => strokeOf.get(m.panel) === stroke).map((m) => (m.volumePct as number[]).reduce((a, b) => a + b, 0) / 60);
			const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / v.length;
			return Math.abs(mean(means('F')) - mean(means('R')));
		};
		const { line, of, run } = cell({}, { troubles: [trouble] });
		run(5);
		const [prints, inspections] = [of('print').length, of('paste_inspection').length];
		expect(apart(of('print'), of('paste_inspection'))).toBeGreaterThan(10);
		line.hear({ panels: 60, serials: null, cured: ['STROKE_PAIR'] });
		run(6);
		expect(apart(of('print').slice(prints + 1), of('paste_inspection').slice(inspections + 2))).toBeLessThan(6);
	});
});

describe('simulated sensors', () => {
	const read = (info: SensorInfo, hours: number, troubles: ConstructorParameters<typeof Sensor>[5] = []) => {
		const messages: Sent[] = [];
		new Sensor(info, 9, START, '00000000-0000-4000-8000-000000000003', (m) => messages.push(m), troubles).runTo(START + hours * 3_600_000);
		return messages as (Sent & { temperatureC: number; rhPct?: number; at: string })[];
	};
	test('a fridge stays between 2 and 10 °C and says nothing of humidity', () => {
		const log = read({ name: 'Fridge 1', kind: 'fridge', everyMin: 5 }, 24);
		expect(log).toHaveLength(24 * 12 + 1);
		for (const r of log) {
			expect(r.temperatureC).toBeGreaterThan(2);
			expect(r.temperatureC).toBeLessThan(10);
			expect(r.rhPct).toBeUndefined();
		}
	});
	test('an open door warms it towards the room, and it cools again', () => {
		const trouble = { fromMs: START + 2 * 3_600_000, toMs: START + 3 * 3_600_000, toC: 19 };
		const log = read({ name: 'Fridge 1', kind: 'fridge', everyMin: 5 }, 6, [trouble]);
		const at = (hours: number) => log[Math.round(hours * 12)]!.temperatureC;
		expect(at(2.9)).toBeGreaterThan(15);
		expect(at(1.9)).toBeLessThan(7);
		expect(at(5.5)).toBeLessThan(7);
	});
	test('a room follows the day, with humidity', () => {
		const log = read({ name: 'Line 1', kind: 'room', everyMin: 10 }, 24);
		const temperatures = log.map((r) => r.temperatureC);
		expect(Math.max(...temperatures) - Math.min(...temperatures)).toBeGreaterThan(1);
		expect(log.every((r) => r.rhPct! > 30 && r.rhPct! < 70)).toBe(true);
	});
	test('readings go on where they stopped, none twice', () => {
		const messages: Sent[] = [];
		const sensor = new Sensor({ name: 'Store', kind: 'store', everyMin: 5 }, 2, START, '00000000-0000-4000-8000-000000000004', (m) =>
			messages.push(m)
		);
		for (let minute = 1; minute <= 60; minute++) sensor.runTo(START + minute * 60_000);
		expect(messages).toHaveLength(13);
		expect(new Set(messages.map((m) => m.at)).size).toBe(13);
	});
});
