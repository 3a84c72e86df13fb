import { describe, expect, test } from 'vitest';
import { Line, type LineOptions } from './line.ts';
import type { Sent } from './message.ts';
import type { StationInfo, Work } from './work.ts';

const STATIONS: StationInfo[] = [
	{ name: 'Print', role: 'print', spec: { cycleS: 12 } },
	{ name: 'Paste check', role: 'pasteCheck', spec: { cycleS: 10 } },
	{ name: 'Place 1', role: 'place', spec: {} },
	{ name: 'Place 2', role: 'place', spec: {} },
	{ name: 'Oven', role: 'oven', spec: { gapMm: 60, oven: { zoneM: [0.4, 0.4, 0.4, 0.4], entryM: 0.3, cooling: [{ lengthM: 0.4 }] } } },
	{ name: 'Optical', role: 'optical', spec: { cycleS: 9 } },
	{ name: 'In-circuit', role: 'inCircuit', spec: { cycleS: 11 } }
];

const pads = Array.from({ length: 40 }, (_, i) => ({
	xMm: i,
	yMm: 1,
	areaMm2: i < 10 ? 0.05 : 0.27,
	perimeterMm: i < 10 ? 0.8 : 2.08,
	padClass: 'chip',
	refDes: `R${Math.floor(i / 2) + 1}`
}));

const WORK: Work = {
	runId: 5,
	job: 'J-1',
	side: 'top',
	panels: 30,
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
			{ x: 50, y: 0, rotationDeg: 0 }
		]
	},
	pads,
	parts: Array.from({ length: 20 }, (_, i) => ({ refDes: `R${i + 1}`, packageName: 'RESC1005X40N', partNumber: 'R-10K' })),
	machines: [
		{ name: 'Place 1', cycleS: 14, feeders: [{ slot: 3, partNumber: 'R-10K', perPanel: 40, reelPieces: 500, left: null }] },
		{ name: 'Place 2', cycleS: 11, feeders: [{ slot: 8, partNumber: 'U-1', perPanel: 2, reelPieces: 1000, left: null }] }
	],
	recipe: { setC: [120, 160, 200, 250], beltCmPerMin: 70 }
};
const START = Date.UTC(2026, 5, 1, 6);

function lineOf(work: Work, seed: number, out: (message: Sent) => void, more: Partial<LineOptions> = {}): Line {
	return new Line({
		name: 'Line 1',
		stations: STATIONS,
		work,
		seed,
		startMs: START,
		bootId: '00000000-0000-4000-8000-000000000001',
		out,
		...more
	});
}

function simulate(work: Work, seed: number, seconds = 4000, more: Partial<LineOptions> = {}): { messages: Sent[]; line: Line } {
	const messages: Sent[] = [];
	const line = lineOf(work, seed, (m) => messages.push(m), more);
	line.runTo(START + seconds * 1000);
	return { messages, line };
}

const of = (messages: readonly Sent[], type: string) => messages.filter((m) => m.type === type);

describe('a simulated line', () => {
	const { messages, line } = simulate(WORK, 7);

	test('builds every panel through every station', () => {
		expect(line.finished).toBe(30);
		expect(line.empty).toBe(true);
		for (const type of ['print', 'paste_inspection', 'oven_pass']) expect(of(messages, type)).toHaveLength(30);
		expect(of(messages, 'placement')).toHaveLength(60);
		// Two circuits, each a visit of its own.
		expect(of(messages, 'optical_inspection')).toHaveLength(60);
		expect(of(messages, 'in_circuit_test')).toHaveLength(60);
	});

	test('the same seed, work and steps give the same messages; another seed gives others', () => {
		expect(simulate(WORK, 7).messages).toEqual(messages);
		expect(simulate(WORK, 8).messages).not.toEqual(messages);
	});

	test('small steps of time and one large step give the same messages', () => {
		const slow: Sent[] = [];
		const other = lineOf(WORK, 7, (m) => slow.push(m));
		for (let s = 1; s <= 4000; s += 13) other.runTo(START + s * 1000);
		other.runTo(START + 4000 * 1000);
		expect(slow).toEqual(messages);
	});

	test('every source numbers its messages from 0 without a gap, in order of time', () => {
		const bySource = new Map<string, Sent[]>();
		for (const m of messages) bySource.set(m.source, [...(bySource.get(m.source) ?? []), m]);
		expect(bySource.size).toBe(7);
		for (const [source, list] of bySource) {
			expect(
				list.map((m) => m.number),
				source
			).toEqual(list.map((_, i) => i));
			for (let i = 1; i < list.length; i++) expect(list[i]!.at >= list[i - 1]!.at).toBe(true);
		}
	});

	test('prints and reels say which run they belong to', () => {
		for (const type of ['print', 'feeder_loaded']) for (const m of of(messages, type)) expect(m.runId).toBe(5);
	});

	test('a panel meets the stations in line order', () => {
		const order = ['print', 'paste_inspection', 'placement', 'placement', 'oven_pass', 'optical_inspection', 'in_circuit_test'];
		const own = messages.filter((m) => m.panel === 'J-1-0012');
		const types = own.filter((m, i) => i === 0 || m.type !== own[i - 1]!.type || m.source !== own[i - 1]!.source).map((m) => m.type);
		expect(types).toEqual(order);
	});

	test('strokes change from print to print, and the counter falls back to 0 at each wipe', () => {
		const prints = of(messages, 'print');
		prints.forEach((m, i) => expect(m.stroke).toBe(i % 2 === 0 ? 'F' : 'R'));
		expect(prints.map((m) => m.printsSinceWipe)).toEqual(prints.map((_, i) => i % 10));
		const wiped = prints.filter((m, i) => i > 0 && m.printsSinceWipe === 0).map((m) => m.cycleS as number);
		expect(Math.min(...wiped)).toBeGreaterThan(18);
	});

	test('readings cover every pad of every circuit with plausible values', () => {
		for (const m of of(messages, 'paste_inspection')) {
			for (const field of ['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm']) expect(m[field]).toHaveLength(80);
			const volume = m.volumePct as number[];
			const mean = volume.reduce((a, b) => a + b, 0) / volume.length;
			expect(mean).toBeGreaterThan(70);
			expect(mean).toBeLessThan(110);
			expect(Math.min(...volume)).toBeGreaterThanOrEqual(0);
		}
	});

	test('smaller area ratios deliver less', () => {
		const volumes = of(messages, 'paste_inspection').map((m) => m.volumePct as number[]);
		const mean = (pick: (pad: number) => boolean) => {
			const list = volumes.flatMap((v) => v.filter((_, i) => pick(i % 40)));
			return list.reduce((a, b) => a + b, 0) / list.length;
		};
		expect(mean((pad) => pad < 10)).toBeLessThan(mean((pad) => pad >= 10) - 5);
	});

	test('reels are loaded at the start and spliced before they run out', () => {
		const loads = of(messages, 'feeder_loaded').filter((m) => m.source === 'Line 1/Place 1');
		// 30 panels x 40 pieces from reels of 500, changed with three panels left: at least three reels.
		expect(loads.length).toBeGreaterThanOrEqual(3);
		expect(new Set(loads.map((m) => m.reel)).size).toBe(loads.length);
		expect(loads[0]).toMatchObject({ slot: 3, partNumber: 'R-10K', pieces: 500 });
	});

	test('the oven reports its zones near their set-points and a passage as long as the tunnel', () => {
		for (const m of of(messages, 'oven_pass')) {
			(m.zoneC as number[]).forEach((c, i) => expect(Math.abs(c - WORK.recipe.setC[i]!)).toBeLessThan(4));
			const seconds = (Date.parse(m.at) - Date.parse(m.enteredAt as string)) / 1000;
			// (0.3 + 1.6 + 0.4 m + panel 0.1 m) at 70 cm/min.
			expect(seconds).toBeGreaterThan(200);
			expect(seconds).toBeLessThan(212);
		}
	});

	test('panels enter the oven at least a headway apart', () => {
		const entered = of(messages, 'oven_pass').map((m) => Date.parse(m.enteredAt as string) / 1000);
		const headway = (100 + 60) / (700 / 60);
		for (let i = 1; i < entered.length; i++) expect(entered[i]! - entered[i - 1]!).toBeGreaterThanOrEqual(Math.floor(headway));
	});

	test('machines say when they run and when they wait', () => {
		const states = of(messages, 'state').filter((m) => m.source === 'Line 1/Optical');
		expect(states.map((m) => m.state)).toContain('running');
		expect(states.at(-1)!.state).toBe('waiting');
	});
});

test('a run that goes on keeps its serials and its reels', () => {
	const machines = WORK.machines.map((m) => ({ ...m, feeders: m.feeders.map((f) => ({ ...f, left: 400 })) }));
	const { messages } = simulate({ ...WORK, printed: 12, machines }, 3);
	const prints = of(messages, 'print').map((m) => m.panel);
	expect(prints[0]).toBe('J-1-0013');
	expect(prints).toHaveLength(18);
	const firstLoad = of(messages, 'feeder_loaded')[0];
	expect(firstLoad === undefined || Date.parse(firstLoad.at) > START + 60_000).toBe(true);
});

test('a job that was ended goes on at its next serial, however many this run has printed', () => {
	const { messages } = simulate({ ...WORK, panels: 4, printed: 1, nextSerial: 27 }, 3);
	expect(of(messages, 'print').map((m) => m.panel)).toEqual(['J-1-0027', 'J-1-0028', 'J-1-0029']);
});

test('a line that drains prints nothing more and finishes what is on it', () => {
	const messages: Sent[] = [];
	const line = lineOf(WORK, 7, (m) => messages.push(m));
	line.runTo(START + 120_000);
	const printed = of(messages, 'print').length;
	line.runTo(START + 2_000_000, false);
	expect(line.empty).toBe(true);
	// One more may have been on the printer's table.
	expect(of(messages, 'print').length).toBeLessThanOrEqual(printed + 1);
	expect(line.finished).toBe(of(messages, 'print').length);
});

test('a slow placer holds the line back: nothing piles up without end', () => {
	const slow = { ...WORK, machines: WORK.machines.map((m) => ({ ...m, cycleS: 60 })) };
	const { messages } = simulate(slow, 4, 900);
	const printed = of(messages, 'print').length;
	const placed = of(messages, 'placement').filter((m) => m.source === 'Line 1/Place 1').length;
	expect(printed - placed).toBeLessThanOrEqual(8);
});

test('stops name the slot where a pick failed', () => {
	const { messages } = simulate({ ...WORK, panels: 900 }, 12, 20_000);
	const stops = of(messages, 'state').filter((m) => m.state === 'stopped');
	expect(stops.length).toBeGreaterThan(0);
	for (const stop of stops) expect(stop.reason).toMatch(/^(pick failed at slot (3|8)|wipe paper or paste)$/);
});

test('a line that starts again takes on the panels that stood on its belts, and finishes them', () => {
	const onLine = [
		{ serial: 'J-1-0001', after: 'Optical', stroke: 'F' as const, printsSinceWipe: 2 },
		{ serial: 'J-1-0002', after: 'Place 1', stroke: 'R' as const, printsSinceWipe: 3 },
		{ serial: 'J-1-0003', after: 'Print', stroke: 'R' as const, printsSinceWipe: 5 }
	];
	const { messages, line } = simulate({ ...WORK, panels: 3, printed: 3, onLine }, 5);
	expect(of(messages, 'print')).toEqual([]);
	expect(line.finished).toBe(3);
	const seen = (type: string) => of(messages, type).map((m) => m.panel);
	expect(seen('paste_inspection')).toEqual(['J-1-0003']);
	expect(of(messages, 'placement').map((m) => [m.source, m.panel])).toEqual([
		['Line 1/Place 2', 'J-1-0002'],
		['Line 1/Place 1', 'J-1-0003'],
		['Line 1/Place 2', 'J-1-0003']
	]);
	expect(new Set(seen('in_circuit_test'))).toEqual(new Set(['J-1-0001', 'J-1-0002', 'J-1-0003']));
});

test('for the second side the printer takes the panels that come, and waits for more', () => {
	const messages: Sent[] = [];
	const line = lineOf({ ...WORK, serials: ['J-1-0004', 'J-1-0002'] }, 6, (m) => messages.push(m));
	line.runTo(START + 200_000);
	expect(of(messages, 'print').map((m) => m.panel)).toEqual(['J-1-0004', 'J-1-0002']);
	// The same list again brings nothing twice.
	line.hear({ panels: 3, serials: ['J-1-0004', 'J-1-0002', 'J-1-0007'] });
	line.runTo(START + 400_000);
	expect(of(messages, 'print').map((m) => m.panel)).toEqual(['J-1-0004', 'J-1-0002', 'J-1-0007']);
});

describe('troubles on request', () => {
	const all = { fromMs: START, toMs: START + 4_000_000 };
	const volumes = (messages: readonly Sent[]) => of(messages, 'paste_inspection').map((m) => m.volumePct as number[]);
	const meanOf = (list: number[][]) => list.flat().reduce((a, b) => a + b, 0) / list.flat().length;

	test('dry paste takes volume away, small openings most', () => {
		const calm = volumes(simulate(WORK, 7).messages);
		const dry = volumes(simulate(WORK, 7, 4000, { troubles: [{ station: 'Print', kind: 'dryPaste', strength: 1, ...all }] }).messages);
		const small = (list: number[][]) => list.map((pads) => pads.filter((_, i) => i % 40 < 10));
		expect(meanOf(dry)).toBeLessThan(meanOf(calm) - 3);
		expect(meanOf(small(calm)) - meanOf(small(dry))).toBeGreaterThan(meanOf(calm) - meanOf(dry));
	});

	test('a bad reel loses picks at its slot and stops its machine; a zone falls behind; only while they last', () => {
		const reel = simulate({ ...WORK, panels: 200 }, 9, 9000, {
			troubles: [{ station: 'Place 1', kind: 'badReel', strength: 1, fromMs: START, toMs: START + 3_000_000 }]
		}).messages;
		const lost = (from: number, to: number) =>
			of(reel, 'placement')
				.filter((m) => m.source === 'Line 1/Place 1' && Date.parse(m.at) >= from && Date.parse(m.at) < to)
				.reduce((sum, m) => sum + ((m.lost as Record<string, number>)['3'] ?? 0), 0);
		expect(lost(START, START + 3_000_000)).toBeGreaterThan((20 * Math.max(1, lost(START + 3_000_000, START + 6_000_000))) / 4);
		const low = simulate(WORK, 9, 4000, { troubles: [{ station: 'Oven', kind: 'zoneLow', strength: 1, ...all }] }).messages;
		const zone = of(low, 'oven_pass').map((m) => (m.zoneC as number[])[2]!);
		expect(zone.reduce((a, b) => a + b, 0) / zone.length).toBeLessThan(194);
	});
});

test('a placer counts every pick by slot and nozzle; a bad nozzle loses more than the others, and no more once it was cleaned', () => {
	const work = {
		...WORK,
		panels: 200,
		machines: [{ ...WORK.machines[0]!, spindles: 4, feeders: [{ ...WORK.machines[0]!.feeders[0]!, reelPieces: 1e6 }] }, WORK.machines[1]!]
	};
	const troubles = [{ station: 'Place 1', kind: 'badNozzle' as const, strength: 1, fromMs: START, toMs: Infinity }];
	const counted = (messages: readonly Sent[]) => {
		const own = of(messages, 'placement').filter((m) => m.source === 'Line 1/Place 1');
		for (const m of own) {
			const nozzles = m.nozzles as { slot: number; picks: number; lost: number }[];
			const lost = nozzles.reduce((sum, n) => sum + n.lost, 0);
			// 40 pieces are placed; what was lost is picked once more.
			expect(nozzles.reduce((sum, n) => sum + n.picks, 0)).toBe(40 + lost);
			expect((m.lost as Record<string, number>)['3'] ?? 0).toBe(lost);
		}
		return ['N1', 'N2', 'N3', 'N4'].map((name) =>
			own.reduce((sum, m) => sum + (m.nozzles as { nozzle: string; lost: number }[]).find((n) => n.nozzle === name)!.lost, 0)
		);
	};
	const [n1, n2, n3, n4] = counted(simulate(work, 9, 4000, { troubles }).messages);
	expect(n2).toBeGreaterThan(10 * Math.max(n1!, n3!, n4!, 1));
	const messages: Sent[] = [];
	const cleaned = lineOf(work, 9, (m) => messages.push(m), { troubles });
	cleaned.hear({ panels: 200, serials: null, reels: [{ name: 'Place 1', feeders: [], cleanedMs: { N2: START } }] });
	cleaned.runTo(START + 4_000_000);
	expect(counted(messages)[1]).toBeLessThan(n2! / 4);
});

describe('where a placer puts its parts', () => {
	const BEFORE: StationInfo[] = STATIONS.toSpliced(4, 0, { name: 'Pre-oven', role: 'optical', spec: { cycleS: 9 } });
	const names = WORK.parts.map((part) => part.refDes);
	const [one, two] = WORK.machines;
	const own = { reelPieces: 1e6, left: null, perPanel: 20 };
	const work: Work = {
		...WORK,
		panels: 12,
		panel: { ...WORK.panel, origins: [WORK.panel.origins[0]!, { x: 50, y: 0, rotationDeg: 180 }] },
		parts: WORK.parts.map((part, i) => ({
			...part,
			partNumber: i < 10 ? 'R-10K' : 'Q-1',
			packageName: i < 10 ? part.packageName : 'SOIC127P600X175-8N',
			rotationDeg: 90 * (i % 4)
		})),
		machines: [
			{
				...one!,
				spindles: 4,
				placements: [0, 1].flatMap((circuit) => names.map((refDes, i) => [refDes, circuit, (i * 3 + circuit) % 4] as const)),
				feeders: [
					{ slot: 3, partNumber: 'R-10K', refDes: names.slice(0, 10), ...own },
					{ slot: 5, partNumber: 'Q-1', refDes: names.slice(10), ...own }
				]
			},
			{ ...two!, feeders: [] }
		]
	};
	const forever = { fromMs: START, toMs: Infinity };
	type Offset = { refDes: string; dxUm: number; dyUm: number };
	const offsets = (messages: readonly Sent[], station: string) =>
		of(messages, 'optical_inspection')
			.filter((m) => m.source === `Line 1/${station}`)
			.flatMap((m) => (m.offsets as Offset[]).map((o) => ({ ...o, panel: m.panel as string, circuit: m.circuit as number })));
	const middle = (values: number[]) => values.toSorted((a, b) => a - b)[values.length >> 1]!;
	const said = (troubles: LineOptions['troubles'], more: Partial<LineOptions> = {}, of = work) =>
		simulate(of, 11, 2500, { stations: BEFORE, troubles, ...more }).messages;

	test('it picks by its program: slot and spindle of every placement are counted', () => {
		const placed = of(said([]), 'placement').find((m) => m.source === 'Line 1/Place 1')!;
		const picks = (placed.nozzles as { slot: number; nozzle: string; picks: number; lost: number }[]).map((n) => n.picks - n.lost);
		expect(picks).toHaveLength(8);
		expect(picks.reduce((a, b) => a + b, 0)).toBe(40);
	});

	test('a pick that is off shows in what its slot feeds only, along the panel, and a trim takes it away', () => {
		const troubles = [{ station: 'Place 1', kind: 'pickOffset' as const, strength: 1, ...forever }];
		const of = (list: ReturnType<typeof offsets>, from: number) =>
			middle(list.filter((o) => names.indexOf(o.refDes) >= 10 === from >= 10).map((o) => o.dxUm));
		const off = offsets(said(troubles), 'Pre-oven');
		expect(off.length).toBe(12 * 40);
		expect(Math.abs(of(off, 10) + 55)).toBeLessThan(6);
		expect(Math.abs(of(off, 0))).toBeLessThan(6);
		const trims = [{ level: 'feeder' as const, name: '5', dxUm: 55, dyUm: -12 }];
		const trimmed = { ...work, machines: [{ ...work.machines[0]!, trims }, work.machines[1]!] };
		expect(Math.abs(of(offsets(said(troubles, {}, trimmed), 'Pre-oven'), 10))).toBeLessThan(6);
	});

	test('a trim that is made while the line runs holds from the next panel on', () => {
		const messages: Sent[] = [];
		const line = lineOf({ ...work, panels: 40 }, 11, (m) => messages.push(m), { stations: BEFORE });
		line.runTo(START + 300_000);
		const trims = [{ level: 'program' as const, name: 'all', dxUm: 100, dyUm: 0 }];
		line.hear({ panels: 40, serials: null, reels: [{ name: 'Place 1', feeders: [], trims }] });
		line.runTo(START + 1_500_000);
		const seen = offsets(messages, 'Pre-oven');
		const panels = [...new Set(seen.map((o) => o.panel))].map((panel) => middle(seen.filter((o) => o.panel === panel).map((o) => o.dxUm)));
		expect(Math.abs(panels[0]!)).toBeLessThan(20);
		expect(Math.abs(panels.at(-1)! - 100)).toBeLessThan(20);
	});

	test('a wrong reel that nobody scanned is found by the test only, at every part of its slot', () => {
		const few = { ...work.machines[0]!, feeders: work.machines[0]!.feeders.map((f) => ({ ...f, reelPieces: 100 })) };
		const troubles = [{ station: 'Place 1', kind: 'wrongReel' as const, strength: 1, ...forever }];
		const wrong = (messages: readonly Sent[]) =>
			of(messages, 'in_circuit_test').flatMap((m) =>
				(m.calls as { refDes: string; code: string }[]).filter((c) => c.code === 'value wrong').map((c) => ({ panel: m.panel, ...c }))
			);
		const messages = said(troubles, {}, { ...work, machines: [few, work.machines[1]!] });
		const found = wrong(messages);
		expect(new Set(found.map((c) => c.refDes))).toEqual(new Set(names));
		// The reels that it began with were right: the first panels pass.
		expect(found.map((c) => c.panel)).not.toContain('J-1-0001');
		expect(
			of(messages, 'optical_inspection')
				.flatMap((m) => m.calls as { code: string }[])
				.map((c) => c.code)
		).not.toContain('value wrong');
		// What the machine says of the reel is what its program asks for.
		expect(new Set(of(messages, 'feeder_loaded').map((m) => m.partNumber))).toEqual(new Set(['R-10K', 'Q-1']));
		expect(of(messages, 'feeder_loaded').some((m) => m.spliced)).toBe(true);
		expect(wrong(said([], {}, { ...work, machines: [few, work.machines[1]!] }))).toEqual([]);
	});

	test('circuits that come marked are left out: no pieces, less time, nothing to inspect; the others are built whole', () => {
		const troubles = [{ station: 'Place 1', kind: 'markedCircuits' as const, strength: 12, ...forever }];
		const messages = said(troubles);
		const skipped = new Map(
			of(messages, 'placement')
				.filter((m) => m.source.endsWith('Place 1'))
				.map((m) => [m.panel, m.skipped as number[]])
		);
		const marked = [...skipped].filter(([, list]) => list.length > 0);
		expect(marked.length).toBeGreaterThan(2);
		expect(marked.length).toBeLessThan(skipped.size);
		for (const message of of(messages, 'placement')) {
			const share = 1 - skipped.get(message.panel)!.length / work.circuits;
			const picked = (message.nozzles as { picks: number; lost: number }[]).reduce((sum, n) => sum + n.picks - n.lost, 0);
			const whole = work.machines.find((m) => message.source.endsWith(m.name))!.feeders.reduce((sum, f) => sum + f.perPanel, 0);
			expect(picked).toBe(Math.round(whole * share));
		}
		for (const [panel, list] of marked) {
			const seen = of(messages, 'optical_inspection')
				.filter((m) => m.panel === panel)
				.map((m) => m.circuit as number);
			if (seen.length) expect(seen.some((circuit) => list.includes(circuit))).toBe(false);
		}
		const mean = (of: number[]) => of.reduce((a, b) => a + b, 0) / of.length;
		const cycles = (some: boolean) =>
			mean(
				of(messages, 'placement')
					.filter((m) => m.source.endsWith('Place 1') && skipped.get(m.panel)!.length > 0 === some)
					.map((m) => m.cycleS as number)
			);
		expect(cycles(true)).toBeLessThan(cycles(false) - 1);
		expect(of(said([]), 'placement').every((m) => (m.skipped as number[]).length === 0)).toBe(true);
	});

	test('panels that sit badly are off each for itself', () => {
		const troubles = [{ station: 'Place 1', kind: 'panelShift' as const, strength: 1, ...forever }];
		const spread = (list: ReturnType<typeof offsets>) => {
			const medians = [...new Set(list.map((o) => o.panel))].map((panel) =>
				middle(list.filter((o) => o.panel === panel).map((o) => o.dxUm))
			);
			return Math.max(...medians) - Math.min(...medians);
		};
		expect(spread(offsets(said([]), 'Pre-oven'))).toBeLessThan(35);
		expect(spread(offsets(said(troubles), 'Pre-oven'))).toBeGreaterThan(80);
	});

	test('a line without an inspection before its oven measures after it, where solder has pulled the chips to their pads', () => {
		expect(offsets(said([]), 'Optical')).toEqual([]);
		const trims = [{ level: 'program' as const, name: 'all', dxUm: 100, dyUm: 0 }];
		const after = offsets(
			said([], { stations: STATIONS }, { ...work, machines: [{ ...work.machines[0]!, trims }, work.machines[1]!] }),
			'Optical'
		);
		const of = (leaded: boolean) => middle(after.filter((o) => names.indexOf(o.refDes) >= 10 === leaded).map((o) => o.dxUm));
		expect(Math.abs(of(false) - 15)).toBeLessThan(5);
		expect(Math.abs(of(true) - 100)).toBeLessThan(8);
	});
});

test('a unit that keeps its readings reports sums that agree with them', () => {
	const raw = of(simulate(WORK, 7).messages, 'paste_inspection');
	const sums = of(simulate(WORK, 7, 4000, { rawPaste: false }).messages, 'paste_summary');
	expect(sums).toHaveLength(raw.length);
	const volumes = raw[3]!.volumePct as number[];
	const [chip] = sums[3]!.classes as { pads: number; meanVolumePct: number; sdVolumePct: number }[];
	expect(chip!.pads).toBe(volumes.length);
	expect(chip!.meanVolumePct).toBeCloseTo(volumes.reduce((a, b) => a + b, 0) / volumes.length, 6);
});

test('before the oven parts are missed or moved, never stood up', () => {
	const stations = [...STATIONS.slice(0, 4), { name: 'Pre-oven', role: 'optical' as const, spec: { cycleS: 9 } }, ...STATIONS.slice(4)];
	const many = { ...WORK, panels: 300, parts: Array.from({ length: 900 }, (_, i) => ({ ...WORK.parts[0]!, refDes: `R${i + 1}` })) };
	const { messages } = simulate(many, 2, 9000, { stations });
	const calls = of(messages, 'optical_inspection')
		.filter((m) => m.source === 'Line 1/Pre-oven')
		.flatMap((m) => m.calls as { code: string }[]);
	expect(calls.length).toBeGreaterThan(0);
	expect(new Set(calls.map((c) => c.code)).has('tombstone')).toBe(false);
});
