import { expect, test } from 'vitest';
import { calculationByName } from './calc/index.ts';

// What a script that calls the API gets: numbers worked out apart from this code, by name, in the units that the field says.

/** One calculation as the API runs it: plain JSON in, plain JSON out. */
async function call(name: string, body: unknown): Promise<unknown> {
	const { input, run } = calculationByName.get(name)!;
	return JSON.parse(JSON.stringify(await run(input.parse(body) as never)));
}

/** Every number of the expectation within a share of it (or as close as its last digit near 0); everything else equal. */
function expectAbout(found: unknown, expected: unknown, path: string, share = 0.001): void {
	if (typeof expected === 'number') {
		expect(typeof found, path).toBe('number');
		expect(Math.abs((found as number) - expected), `${path}: ${String(found)}, expected about ${expected}`).toBeLessThanOrEqual(
			Math.max(Math.abs(expected) * share, 1e-6)
		);
	} else if (expected !== null && typeof expected === 'object')
		for (const [key, value] of Object.entries(expected))
			expectAbout((found as Record<string, unknown>)?.[key], value, `${path}.${key}`, share);
	else expect(found, path).toEqual(expected);
}

const rectangle = (l: number, w: number) => ({ areaMm2: l * w, perimeterMm: 2 * (l + w), widthMm: w, lengthMm: l });
const circle = (d: number) => ({ areaMm2: (Math.PI * d * d) / 4, perimeterMm: Math.PI * d, widthMm: d, lengthMm: d });
const at = (clock: string) => `2026-05-11T${clock}:00Z`;
const jar = { id: 'J17', lot: 'L4', paste: 'P-305', received: '2026-05-01T08:00:00Z', expiry: '2026-05-31T22:00:00Z', grams: 500 };
const opened = (clock: string) => [
	{ kind: 'store_cold', at: '2026-05-01T08:10:00Z' },
	{ kind: 'take_out', at: at('05:00') },
	{ kind: 'open', at: at(clock), stirred: true }
];
const outline = (...points: [number, number][]) => points.map(([x, y]) => ({ x, y }));
const wipeReadings = [
	[92.1, 91.0, 90.3, 89.2, 88.4, 87.1, 86.5, 85.2],
	[91.6, 91.3, 89.8, 89.5, 88.0, 87.6, 86.1, 85.6],
	[92.4, 90.7, 90.1, 89.0, 88.6, 87.3, 86.4, 85.5]
].flatMap((interval) => interval.map((meanPct, sinceWipe) => ({ sinceWipe, meanPct })));
const marks = outline([20, 20], [220, 20], [220, 140], [20, 140]);

const VALUES: [what: string, name: string, body: unknown, expected: unknown][] = [
	[
		'a slot 1.5 × 0.25 mm in 127 µm',
		'aperture',
		{ opening: rectangle(1.5, 0.25), foilMm: 0.127 },
		{ areaRatio: 0.8436, aspectRatio: 1.969, volumeNl: 47.625, efficiency: 0.9395 }
	],
	[
		'a disc of 0.28 mm in 100 µm',
		'aperture',
		{ opening: circle(0.28), foilMm: 0.1 },
		{ areaRatio: 0.7, volumeNl: 6.158, efficiency: 0.8429 }
	],
	[
		'a home plate',
		'opening_shape',
		{ name: 'R1 pin 1', shape: { kind: 'homePlate', lengthMm: 0.7, widthMm: 0.6, pointMm: 0.25 } },
		{ areaMm2: 0.345, perimeterMm: 2.28102, widthMm: 0.6 }
	],
	[
		'an oblong',
		'opening_shape',
		{ name: 'U1 pin 1', shape: { kind: 'oblong', lengthMm: 2, widthMm: 0.3 } },
		{ areaMm2: 0.58069, perimeterMm: 4.34248 }
	],
	[
		'a dumbbell has the width of its neck',
		'governing_width',
		{
			outline: outline(
				[0, 0],
				[0.4, 0],
				[0.4, 0.13],
				[0.8, 0.13],
				[0.8, 0],
				[1.2, 0],
				[1.2, 0.4],
				[0.8, 0.4],
				[0.8, 0.27],
				[0.4, 0.27],
				[0.4, 0.4],
				[0, 0.4]
			)
		},
		{ widthMm: 0.14 }
	],
	[
		'a reel that is wanted in another slot',
		'feeder_scan',
		{
			scan: { what: 'dock', slot: 7, feeder: 'F2' },
			setUp: {
				slots: 20,
				needs: [
					{ slot: 7, part: 'C-100N', tapeMm: 8, pitchMm: 4 },
					{ slot: 9, part: 'C-1U', tapeMm: 8, pitchMm: 4 }
				],
				feeders: [{ id: 'F2', tapeMm: 8, pitchMm: 4, reel: 'L9' }],
				reels: [{ id: 'L9', part: 'C-1U', tapeMm: 8, pieces: 900 }]
			}
		},
		{ ok: false, codes: { 0: 'WRONG_SLOT' }, words: 'C-1U is wanted in slot 9, not in 7.' }
	],
	['a reel half used', 'reel_pieces', { outerMm: 110, hubMm: 60, tapeMm: 0.75, pitchMm: 2 }, { pieces: 4451 }],
	[
		'three splices of which the near one goes first',
		'splice_route',
		{
			splices: [
				{ name: 'A', xM: 0, deadlineS: 100, serviceS: 60 },
				{ name: 'B', xM: 12, deadlineS: 193, serviceS: 60 },
				{ name: 'C', xM: 1, deadlineS: 195, serviceS: 60 }
			]
		},
		{ stopS: 0, stops: { 0: { name: 'A' }, 1: { name: 'C', startS: 61 }, 2: { name: 'B', finishS: 192, spareS: 1 } } }
	],
	[
		'a level 5 part that stood in air too long for dry air to undo it',
		'floor_life',
		{
			level: '5',
			stays: [
				{ where: 'air', hours: 9 },
				{ where: 'cabinet', hours: 200, rhPct: 3 },
				{ where: 'air', hours: 30 }
			]
		},
		{ usedH: 39, leftH: 9, expired: false }
	],
	['a thin level 5a part, long past its life', 'bake_hours', { level: '5a', bodyMm: 1.2, overH: 80 }, { hoursAt125C: 16 }],
	[
		'offsets of seven placements on three panels',
		'offset_trim',
		{ offsetsUm: [30, 31, 32, 33, 34, 35, 36], panels: 3 },
		{ medianUm: 33, sigmaUm: 2.9652, standardErrorUm: 1.4046, interval: { lowUm: 30, highUm: 36 }, correctionUm: -23.1 }
	],
	[
		'an offset that went away since: what is left of it is 3 µm',
		'trim_effect',
		{
			trim: { level: 'part', name: 'P', dxUm: 0, dyUm: -40 },
			rows: ['A', 'B', 'C'].flatMap((panel) =>
				['U1', 'U2'].map((refDes) => ({ panel, refDes, partNumber: 'P', angleDeg: 90, xMm: 0, yMm: 0, dxUm: -3, dyUm: 0 }))
			)
		},
		{ state: 'gone', rows: 6, needed: 1, dxUm: 0, dyUm: 3 }
	],
	[
		'what slot 7 feeds sits 30 µm up, on three panels of one circuit',
		'offset_causes',
		{
			rows: ['A', 'B', 'C'].flatMap((panel) =>
				Array.from({ length: 8 }, (_, i) => ({
					panel,
					refDes: `R${i}`,
					partNumber: `P${i % 4}`,
					feeder: i < 4 ? '7' : '8',
					xMm: i,
					yMm: 0,
					dxUm: 0,
					dyUm: i < 4 ? 30 : 0
				}))
			)
		},
		{ rows: 24, panels: 3, sigmaUm: 0, trims: [{ level: 'feeder', name: '7', dxUm: 0, dyUm: -21 }] }
	],
	[
		'one nozzle of two',
		'pick_causes',
		{
			counts: [
				{ feeder: 'F1', nozzle: 'N1', picks: 2000, errors: 4 },
				{ feeder: 'F1', nozzle: 'N2', picks: 2000, errors: 40 }
			]
		},
		{ causes: { 0: { kind: 'nozzle', name: 'N2', ratio: 10, errors: 40 } } }
	],
	[
		'two marks, and the part between them',
		'fiducial_fit',
		{
			nominal: outline([10, 10], [210, 110]),
			measured: outline([309.8, 60.42], [509.45, 161.3]),
			parts: [{ xMm: 110, yMm: 60, rotationDeg: 90 }]
		},
		{ rotationDeg: 0.2417, scaleX: 1.0003689, parts: { 0: { xMm: 409.625, yMm: 110.86, rotationDeg: 90.2417 } } }
	],
	[
		'a place far outside its two marks',
		'place_error',
		{ markUm: 12, marks: outline([0, 0], [40, 0]), places: outline([200, 100]) },
		{ errorsUm: { 0: 87.77 } }
	],
	[
		'a part far from its circuit’s marks',
		'part_error',
		{ part: { refDes: 'U1', xMm: 200, yMm: 100 }, circuit: outline([0, 0], [40, 0]) },
		{ um: 87.77, by: 'circuit' }
	],
	['one circuit of four left out', 'built_share', { skipped: [2], circuits: 4 }, { share: 0.75 }],
	['nozzles on eight spindles', 'fewest_cycles', { counts: [90, 20, 6], spindles: 8 }, { cycles: 18 }],
	['nozzles on four spindles', 'fewest_cycles', { counts: [10, 1], spindles: 4 }, { cycles: 4 }],
	['two strokes', 'pick_strokes', { slots: [4, 6, 8, 11], ratio: 2 }, { strokes: { length: 2 } }],
	['four strokes', 'pick_strokes', { slots: [4, 6, 8, 11], ratio: 1 }, { strokes: { length: 4 } }],
	[
		'a tour of eight places',
		'closed_tour',
		{
			places: outline([0, 0], [10, 0], [10, 10], [0, 10], [50, 5], [60, 5], [50, 40], [20, 30]),
			x: { vMmS: 1000, aMmS2: 10_000 },
			y: { vMmS: 800, aMmS2: 8000 }
		},
		{ seconds: 0.728771 }
	],
	['ranks of a median', 'median_ranks', { n: 25, sigmaUm: 20, offsetUm: 15 }, { ranks: { low: 8, high: 18 }, toSee: 26 }],
	[
		'a slot that nothing is known of',
		'slot_ends',
		{
			slots: [{ machine: 'M1', slot: 4, partNumber: 'R', pieces: 1500, perPanel: 16 }],
			nowMs: 0,
			taktS: 40,
			panelsToGo: 400
		},
		{ ends: { 0: { panels: 93, endMs: 3_720_000, loss: { share: 0.005 } } } }
	],
	[
		'a loader',
		'magazine_ends',
		{ magazines: [{ end: 'loader', panels: 50, moved: 10 }], nowMs: 0, taktS: 40, toLoad: 100, toUnload: 100 },
		{ ends: { 0: { left: 40, endMs: 1_600_000 } } }
	],
	[
		'the panel in which a splice runs through',
		'reels_of_panel',
		{
			loads: [
				{ reel: 'A', spliced: false, panelsSince: 20 },
				{ reel: 'B', spliced: true, panelsSince: 5 }
			],
			perPanel: 16,
			pathMm: 300,
			pitchMm: 4
		},
		{ inPath: 75, reels: { 0: 'A', 1: 'B', length: 2 } }
	],
	['two heads, placing slower than picking', 'alternating_heads', { cycles: Array(5).fill({ pickS: 0.5, placeS: 1 }) }, { totalS: 5.5 }],
	[
		'five parts on a turret',
		'turret_time',
		{
			parts: [
				{ at: { x: 0, y: 0 }, slot: 3 },
				{ at: { x: 10, y: 0 }, slot: 3 },
				{ at: { x: 20, y: 0 }, slot: 4 },
				{ at: { x: 20, y: 15 }, slot: 9 },
				{ at: { x: 25, y: 15 }, slot: 9 }
			],
			turret: { table: { vMmS: 600, aMmS2: 9000 }, carriage: { vMmS: 800, aMmS2: 12000 }, slotPitchMm: 16, indexS: 0.1, stations: 2 }
		},
		{ totalS: 0.566667 }
	],
	['tips of a head of eight', 'tips', { counts: [90, 20, 6], spindles: 8 }, { tips: { 0: 5, 1: 2, 2: 1 } }],
	[
		// By hand: rest, camera, slot and place on one line; v²/a = 100 mm, so 120 mm takes 0.22 s, 40 mm 0.126491 s, 90 mm 0.189737 s.
		'one part, picked, looked at, placed',
		'head_program',
		{
			machine: {
				slots: 20,
				slotPitchMm: 14,
				cameraSlot: 10,
				onTheFly: false,
				spindles: 2,
				headPitchMm: 14,
				x: { vMmS: 1000, aMmS2: 10000 },
				y: { vMmS: 1000, aMmS2: 10000 },
				pickS: 0.1,
				placeS: 0.09,
				cameraS: 0.2,
				transferS: 3,
				fiducialS: 0.4,
				accuracyUm: 50,
				accuracySigmas: 3,
				smallestMm: 0.25,
				largestMm: 10,
				tallestMm: 4,
				finestPitchMm: 0.5,
				trays: false
			},
			placements: [{ refDes: 'R1', feeder: 'A', at: { x: 50, y: 10 }, nozzle: 'small', heightMm: 0.4 }],
			pickSlot: { A: 10 },
			panel: { widthMm: 100, fiducials: 2 },
			tries: 10
		},
		{ totalS: 4.726228, boundS: 4.726228, serpentineS: 4.726228 }
	],
	[
		'a part of 8 g on a bore of 5 mm',
		'hold_limit',
		{ vacuumKPa: 60, boreMm: 5, massG: 8, friction: 0.3, safety: 2 },
		{ accelerationMmS2: 22089 }
	],
	[
		'resistors as bills write them',
		'part_value',
		{ texts: ['6k8', 'R22', '2,2k', '1,000'], kind: 'R' },
		{
			values: {
				0: { value: 6800, unit: 'Ω' },
				1: { value: 0.22 },
				2: { value: 2200 },
				3: { why: '“1,000” can be read in two ways: is the comma its decimal sign?' }
			}
		}
	],
	[
		'a reel that lasts over a break',
		'stop_clock',
		{ from: at('10:30'), panels: 91, taktS: 40, breaks: [{ from: at('11:30'), to: at('12:00') }] },
		{ at: '2026-05-11T12:00:40.000Z' }
	],
	['delivery at an area ratio of 0.50', 'transfer', { areaRatio: 0.5 }, { efficiency: 0.5498, cvPct: 20 }],
	['delivery at 0.66', 'transfer', { areaRatio: 0.66 }, { efficiency: 0.7996, cvPct: 9.51 }],
	[
		'a thicker foil that delivers less',
		'delivered_by_foil',
		{ opening: circle(0.25) },
		{
			delivered: { 0: { deliveredNl: 3.563 }, 1: { deliveredNl: 3.706 }, 2: { deliveredNl: 3.461 }, 4: { deliveredNl: 2.925 } },
			turningFoilMm: 0.0954
		}
	],
	[
		'one foil for a disc and a large part',
		'foil_choice',
		{
			openings: [
				{ name: 'U1 pin A1', ...circle(0.3) },
				{ name: 'J1 pin 1', ...rectangle(2, 1.2), neededMm3: 0.22 }
			]
		},
		{ kind: 'single', foilMm: 0.1, worst: { thickestMm: 0.1136 } }
	],
	[
		'a step where the large part needs more',
		'foil_choice',
		{
			openings: [
				{ name: 'U1 pin A1', ...circle(0.27) },
				{ name: 'J1 pin 1', ...rectangle(2, 1.4), neededMm3: 0.34 }
			]
		},
		{ kind: 'step', foilMm: 0.127, stepMm: 0.1, keepOutMm: 1.622 }
	],
	['paste of 88.5 % by mass', 'paste_density', {}, { pasteGPerCm3: 4.2627, metalShare: 0.50979 }],
	['dew point at 25 °C and 55 %', 'dew_point', { airC: 25, rhPct: 55 }, { dewPointC: 15.33 }],
	['a jar warms in 23 °C', 'warm_up', { startC: 5, airC: 23, toC: 20 }, { physicsH: 1.792, gateH: 4 }],
	[
		'a pin in paste',
		'pin_in_paste',
		{ holeMm: 1, pinAreaMm2: 0.38485, boardMm: 1.6, filletsMm3: 0.25 },
		{ metalMm3: 0.8909, pasteMm3: 1.7468 }
	],
	[
		'four windows over a thermal pad',
		'windows',
		{ padXMm: 4.6, padYMm: 4.6, columns: 2, rows: 2 },
		{ pane: { webMm: 0.8369, windowXMm: 1.7816, coverage: 0.6 } }
	],
	['a bead of 16 mm', 'bead', { spanMm: 240, gPerPanel: 0.75, panelsPerH: 60 }, { beadG: 205.7, leastG: 115.7, panelsToTopUp: 119 }],
	['a stroke with its ramps', 'stroke_time', { lengthMm: 280, speedMmPerS: 40, accelerationMmPerS2: 200 }, { strokeS: 7.2 }],
	[
		'two wipes that fall due together, one replacing the other',
		'wipe_share',
		{
			wipes: [
				{ kind: 'dry', everyPrints: 5, seconds: 10 },
				{ kind: 'wet', everyPrints: 10, seconds: 25 }
			]
		},
		{ wipeSPerPanel: 3.5 }
	],
	[
		'both of them done',
		'wipe_share',
		{
			wipes: [
				{ kind: 'dry', everyPrints: 5, seconds: 10 },
				{ kind: 'wet', everyPrints: 10, seconds: 25 }
			],
			longerReplaces: false
		},
		{ wipeSPerPanel: 4.5 }
	],
	[
		'alignment of four marks, stretched by nothing that is proven',
		'alignment',
		{
			stencil: marks,
			board: outline([20.112, 19.953], [220.108, 19.968], [220.094, 139.961], [20.101, 139.957]),
			centre: { x: 120, y: 80 },
			rMaxMm: 116.6
		},
		{ thetaDeg: 0.00358, dxMm: 0.10375, dyMm: -0.04025, stretchProven: false }
	],
	[
		'boards of two lots and their stencils',
		'stretch_groups',
		{ ppm: [10, 60, 250, -30, 290, 205, 90, 260], rMaxMm: 140, tolUm: 14 },
		{ groups: { 0: { scalePpm: 30 }, 1: { scalePpm: 247.5 }, length: 2 } }
	],
	[
		'prints between wipes from the drift',
		'wipe_interval',
		{ readings: wipeReadings, padSigma: 4, lowestPct: 60 },
		{ a: 91.997, b: -0.9361, bLow: -0.9734, allows: 21, offer: 16 }
	],
	[
		'the cheapest interval',
		'wipe_cost',
		{ wipeS: 18, costPerS: 0.015, costPerDefect: 0.5, classes: [{ pads: 480, mean: 88, sigma: 6.5, slope: -0.6, lowestPct: 60 }] },
		{ best: 9, costs: { 4: 0.05919, 8: 0.04492, 19: 0.2669 } }
	],
	['capability with its lower bound', 'cpk', { mean: 93, sigma: 9, low: 60, high: 140, n: 120 }, { cpk: 1.222, cpkLower: 1.083 }],
	[
		'a weighted average over its limits',
		'ewma',
		{
			values: [52, 47, 53, 49.3, 50.1, 47, 51, 50.1, 51.2, 50.5, 49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1],
			centre: 50,
			sigma: 2.0539,
			lambda: 0.3
		},
		{ points: { 0: 50.6, 1: 49.52, 19: 51.99 }, finalReach: 2.588 }
	],
	[
		'individuals and their limits',
		'individuals_chart',
		{ values: [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1] },
		{ centre: 50.81, meanMovingRange: 1.878, lower: 45.82, upper: 55.8 }
	],
	[
		'a jar on the stencil: what governs it',
		'jar_state',
		{ jar, events: [...opened('09:15'), { kind: 'load_stencil', at: at('09:30'), grams: 200 }], now: at('13:30') },
		{ state: 'on_stencil', governing: 'stencil_life', remainingH: 4 }
	],
	[
		'a jar that was opened too early',
		'jar_state',
		{ jar, events: opened('07:00'), now: at('13:30') },
		{ state: 'quarantined', violations: { 0: { code: 'open_before_warm' } } }
	]
];

test.each(VALUES)('%s (%s)', async (what, name, body, expected) => {
	expectAbout(await call(name, body), expected, name);
});

test('what cannot be is refused with the field, not computed', async () => {
	await expect(call('dew_point', { airC: 25, rhPct: 140 })).rejects.toThrow('rhPct');
	await expect(call('aperture', { opening: circle(0.3), foilMm: 120 })).rejects.toThrow(/foil.*µm/s);
	await expect(call('stretch_groups', { ppm: [10], rMaxMm: -5, tolUm: 14 })).rejects.toThrow('rMaxMm');
	await expect(call('governing_width', { outline: outline([0, 0], [1, 1]) })).rejects.toThrow('outline');
});
