import {
	alternatingHeadsS,
	axisTimeS,
	builtShare,
	closedTour,
	fewestCycles,
	MARK_UM,
	medianRanks,
	partErrorUm,
	pickStrokes,
	placementsToSee,
	optimise,
	outOfOrder,
	programBoundS,
	serpentine,
	timeProgram,
	tipsFor,
	fitFiducials,
	holdLimitMmS2,
	offsetCauses,
	offsetTrim,
	pickCauses,
	pickReport,
	placedBy,
	placeErrorUm,
	TRIM_LEVELS,
	trimEffect,
	trimFor,
	turretS
} from '@keen-relay/core/placement';
import { InputError } from '@keen-relay/core/judgement';
import { z } from 'zod';
import { axis, placerData, SIZES } from '$lib/stations/place.ts';
import { calculation } from './calculation.ts';

const point = z.object({ x: z.number(), y: z.number() });
const name = z.string().trim().min(1).max(60);

const offsetRow = z.object({
	panel: name,
	circuit: z.int().nonnegative().default(0),
	refDes: name,
	partNumber: name,
	feeder: name.nullable().default(null),
	nozzle: name.nullable().default(null),
	angleDeg: z.number().default(0),
	circuitDeg: z.number().default(0),
	xMm: z.number(),
	yMm: z.number(),
	dxUm: z.number(),
	dyUm: z.number()
});
/** Slot 14 picks 40 µm to the right of the middle, slot 15 does not: twelve designators on four panels. */
const OFFSET_ROWS = [0, 1, 2, 3].flatMap((panel) =>
	Array.from({ length: 12 }, (_, i) => ({
		panel: `P${panel + 1}`,
		refDes: `R${i + 1}`,
		partNumber: i % 2 ? 'R-10K' : 'C-1U',
		feeder: i % 4 < 2 ? '14' : '15',
		nozzle: `N${(i % 3) + 1}`,
		xMm: 10 + 8 * (i % 4),
		yMm: 10 + 9 * Math.floor(i / 4),
		dxUm: (i % 4 < 2 ? 40 : 0) + ((panel * 7 + i * 5) % 11) - 5,
		dyUm: ((panel * 5 + i * 3) % 9) - 4
	}))
);

export const placement = [
	calculation({
		name: 'head_program',
		summary:
			'Cycles of one placer: the serpentine that a search starts from, what the search finds in so many tries, and a bound that no program of these placements can beat, seconds a panel.',
		input: z.object({
			machine: placerData.extend({ name: name.default('Place') }),
			placements: z
				.array(
					z.object({
						refDes: name,
						circuit: z.int().nonnegative().default(0),
						feeder: name,
						at: point,
						rotationDeg: z.number().default(0),
						nozzle: z.enum(['small', 'medium', 'large']),
						heightMm: z.number().positive(),
						fine: z.boolean().default(false)
					})
				)
				.min(1)
				.max(2000),
			pickSlot: z.record(name, z.number()),
			panel: z.object({ widthMm: z.number().positive(), fiducials: z.int().nonnegative().default(0) }),
			tries: z.int().nonnegative().max(50_000).default(20_000)
		}),
		example: {
			machine: SIZES.small,
			placements: [
				{ refDes: 'R1', feeder: 'R-10K', at: { x: 20, y: 10 }, nozzle: 'small', heightMm: 0.4 },
				{ refDes: 'R2', feeder: 'R-10K', at: { x: 60, y: 40 }, nozzle: 'small', heightMm: 0.4 }
			],
			pickSlot: { 'R-10K': 8 },
			panel: { widthMm: 100 },
			tries: 1000
		},
		run: ({ machine, placements, pickSlot, panel, tries }) => {
			const homeless = placements.find((p) => pickSlot[p.feeder] === undefined);
			if (homeless) throw new InputError('unknown', 'pickSlot', `a slot for ${homeless.feeder}`, homeless.refDes);
			const bench = { pickSlot, panel };
			const first = serpentine(machine, placements, bench);
			const found = optimise(machine, placements, bench, { tries }).program;
			const { split, totalS } = timeProgram(machine, found, bench);
			return {
				serpentineS: timeProgram(machine, first, bench).totalS,
				totalS,
				split,
				boundS: programBoundS(machine, placements, bench),
				outOfOrder: outOfOrder(found).map(([low, high]) => [low.refDes, high.refDes]),
				nozzles: found.nozzles,
				cycles: found.cycles.map(({ held, order }) => ({ held: held.map((p) => p && `${p.refDes}.${p.circuit}`), order }))
			};
		}
	}),
	calculation({
		name: 'tips',
		summary: 'How many spindles carry each kind of tip so that the fewest cycles are needed without changing tips.',
		input: z.object({ counts: z.array(z.int().nonnegative()).min(1).max(12), spindles: z.int().positive().max(60) }),
		example: { counts: [90, 20, 6], spindles: 8 },
		run: ({ counts, spindles }) => ({ tips: tipsFor(counts, spindles) })
	}),
	calculation({
		name: 'offset_trim',
		summary:
			'Whether the offsets of a group of placements, measured before the oven, ask for a correction: median, its interval, and what to add, µm.',
		input: z.object({ offsetsUm: z.array(z.number()).min(1).max(100_000), panels: z.int().positive() }),
		example: {
			offsetsUm: [31, 44, 38, 52, 29, 47, 41, 36, 33, 55, 40, 39, -260, 43, 35, 48, 37, 42, 30, 46, 45, 34, 50, 28, 41],
			panels: 5
		},
		run: ({ offsetsUm, panels }) => offsetTrim(offsetsUm, panels)
	}),
	calculation({
		name: 'offset_causes',
		summary:
			'What offsets of placements have in common (program, circuit, board, nozzle, feeder, part, designator), what cannot be told apart, and the trim that each asks for, µm.',
		input: z.object({
			rows: z.array(offsetRow).max(100_000)
		}),
		example: { rows: OFFSET_ROWS },
		run: ({ rows }) => {
			const report = offsetCauses(rows);
			return { ...report, trims: report.causes.map(trimFor) };
		}
	}),
	calculation({
		name: 'trim_effect',
		summary: 'Whether an offset went away since it was trimmed, from placements that are younger than the trim.',
		input: z.object({
			trim: z.object({ level: z.enum(TRIM_LEVELS), name, dxUm: z.number(), dyUm: z.number() }),
			rows: z.array(offsetRow).max(100_000)
		}),
		example: { trim: { level: 'feeder', name: '14', dxUm: -40, dyUm: 0 }, rows: OFFSET_ROWS },
		run: ({ trim, rows }) => trimEffect(trim, rows)
	}),
	calculation({
		name: 'pick_causes',
		summary: 'Feeders and nozzles whose picks fail more often than the others’, by rate and never by count; the strongest first.',
		input: z.object({
			counts: z.array(z.object({ feeder: name, nozzle: name, picks: z.number(), errors: z.number() })).max(10_000)
		}),
		example: {
			counts: [
				{ feeder: 'F1', nozzle: 'N1', picks: 1000, errors: 1 },
				{ feeder: 'F1', nozzle: 'N2', picks: 1000, errors: 9 },
				{ feeder: 'F2', nozzle: 'N1', picks: 1000, errors: 2 },
				{ feeder: 'F2', nozzle: 'N2', picks: 1000, errors: 11 },
				{ feeder: 'F3', nozzle: 'N1', picks: 4000, errors: 6 },
				{ feeder: 'F3', nozzle: 'N2', picks: 4000, errors: 38 }
			]
		},
		run: ({ counts }) => ({ causes: pickCauses(counts) })
	}),
	calculation({
		name: 'pick_report',
		summary:
			'How the picks of a placer go, slot by slot, nozzle by nozzle, reel by reel, and what makes them fail: a feeder, a reel, a nozzle, or which two cannot be told apart yet.',
		input: z.object({
			panels: z
				.array(
					z.object({
						placedMs: z.number(),
						lost: z.record(z.string(), z.int().nonnegative()),
						nozzles: z
							.array(z.object({ slot: z.int(), nozzle: name, picks: z.int().nonnegative(), lost: z.int().nonnegative() }))
							.nullable()
							.default(null)
					})
				)
				.max(500),
			slots: z
				.array(
					z.object({
						slot: z.int(),
						partNumber: name,
						perPanel: z.int().positive(),
						feeder: name.nullable().default(null),
						reels: z.array(z.object({ reel: name, loadedMs: z.number() })).default([])
					})
				)
				.max(400)
		}),
		example: {
			panels: Array.from({ length: 12 }, (_, i) => ({ placedMs: 60_000 * i, lost: { '9': 1 } })),
			slots: [
				{ slot: 3, partNumber: 'R-10K', perPanel: 80 },
				{
					slot: 9,
					partNumber: 'C-100N',
					perPanel: 40,
					feeder: 'F-0009',
					reels: [
						{ reel: 'RL-1', loadedMs: 0 },
						{ reel: 'RL-2', loadedMs: 300_000 }
					]
				}
			]
		},
		run: ({ panels, slots }) => pickReport(panels, slots)
	}),
	calculation({
		name: 'fiducial_fit',
		summary:
			'Where a placer’s camera found the marks: turn, stretch and move, whether they can be believed, and where the parts of the program lie then.',
		input: z.object({
			nominal: z.array(point).max(64),
			measured: z.array(point).max(64),
			kind: z.enum(['even', 'uneven']).default('even'),
			parts: z
				.array(z.object({ xMm: z.number(), yMm: z.number(), rotationDeg: z.number() }))
				.max(50_000)
				.default([])
		}),
		example: {
			nominal: [
				{ x: 10, y: 10 },
				{ x: 210, y: 110 }
			],
			measured: [
				{ x: 309.8, y: 60.42 },
				{ x: 509.45, y: 161.3 }
			],
			parts: [{ xMm: 110, yMm: 60, rotationDeg: 90 }]
		},
		run: ({ nominal, measured, kind, parts }) => {
			const fit = fitFiducials(nominal, measured, kind);
			return { ...fit, parts: parts.map((part) => placedBy(fit, part)) };
		}
	}),
	calculation({
		name: 'place_error',
		summary: 'How far places can be off for what the marks are read wrong by, µm along each axis.',
		input: z.object({ markUm: z.number(), marks: z.array(point).max(64), places: z.array(point).max(50_000) }),
		example: {
			markUm: 12,
			marks: [
				{ x: 0, y: 0 },
				{ x: 200, y: 0 }
			],
			places: [
				{ x: 100, y: 0 },
				{ x: 200, y: 0 }
			]
		},
		run: ({ markUm, marks, places }) => ({ errorsUm: places.map((place) => placeErrorUm(markUm, marks, place)) })
	}),
	calculation({
		name: 'part_error',
		summary:
			'How far a part can be off for its marks, by the finest that it has: beside it, of its circuit, of the panel; µm along each axis.',
		input: z.object({
			markUm: z.number().default(MARK_UM),
			part: z.object({ refDes: name, xMm: z.number(), yMm: z.number() }),
			panel: z.array(point).max(64).default([]),
			circuit: z.array(point).max(64).default([]),
			local: z
				.array(z.object({ refDes: name, marks: z.array(point).max(8) }))
				.max(200)
				.default([]),
			origin: point.default({ x: 0, y: 0 })
		}),
		example: {
			part: { refDes: 'U7', xMm: 20, yMm: 10 },
			panel: [
				{ x: 0, y: 0 },
				{ x: 200, y: 0 }
			],
			circuit: [
				{ x: 2, y: 2 },
				{ x: 38, y: 28 }
			],
			origin: { x: 50, y: 6 }
		},
		run: ({ markUm, part, panel, circuit, local, origin }) =>
			partErrorUm(markUm, part, { panel, circuit, local }, (p) => ({ x: p.x + origin.x, y: p.y + origin.y }))
	}),
	calculation({
		name: 'built_share',
		summary: 'Share of a panel that is built where circuits are marked to be left out: pieces and placing time are paid for those alone.',
		input: z.object({ skipped: z.array(z.int()).max(400), circuits: z.int().min(1).max(400) }),
		example: { skipped: [1], circuits: 4 },
		run: ({ skipped, circuits }) => ({ share: builtShare(skipped, circuits) })
	}),
	calculation({
		name: 'fewest_cycles',
		summary: 'Fewest cycles of a head for so many placements by each nozzle, no nozzle changed.',
		input: z.object({ counts: z.array(z.int().nonnegative().max(100_000)).min(1).max(40), spindles: z.int().min(1).max(40) }),
		example: { counts: [90, 20, 6], spindles: 8 },
		run: ({ counts, spindles }) => ({ cycles: fewestCycles(counts, spindles) })
	}),
	calculation({
		name: 'pick_strokes',
		summary: 'Strokes that lift all spindles of a cycle: those whose slot less their place on the head is the same go down together.',
		input: z.object({ slots: z.array(z.number().nullable()).min(1).max(40), ratio: z.number().positive() }),
		example: { slots: [4, 6, 8, 11], ratio: 2 },
		run: ({ slots, ratio }) => ({ strokes: pickStrokes(slots, ratio) })
	}),
	calculation({
		name: 'closed_tour',
		summary:
			'The shortest closed way of a head through places, in seconds of its axes: exact up to twelve, beyond that the best that is found.',
		input: z.object({ places: z.array(point).min(1).max(300), x: axis, y: axis }),
		example: {
			places: [
				{ x: 0, y: 0 },
				{ x: 10, y: 0 },
				{ x: 10, y: 10 },
				{ x: 0, y: 10 }
			],
			x: { vMmS: 1000, aMmS2: 10_000 },
			y: { vMmS: 800, aMmS2: 8000 }
		},
		run: ({ places, x, y }) => closedTour(places.map((a) => places.map((b) => Math.max(axisTimeS(a.x - b.x, x), axisTimeS(a.y - b.y, y)))))
	}),
	calculation({
		name: 'median_ranks',
		summary:
			'Ranks between which the true median lies, by the sign test, counted from 1; and how many placements it takes to see an offset.',
		input: z.object({
			n: z.int(),
			confidence: z.number().default(0.95),
			sigmaUm: z.number().default(20),
			offsetUm: z.number().default(15)
		}),
		example: { n: 25 },
		run: ({ n, confidence, sigmaUm, offsetUm }) => ({ ranks: medianRanks(n, confidence), toSee: placementsToSee(sigmaUm, offsetUm) })
	}),
	calculation({
		name: 'alternating_heads',
		summary: 'Two heads that take turns over one place: seconds until the last cycle is placed.',
		input: z.object({ cycles: z.array(z.object({ pickS: z.number(), placeS: z.number() })).max(10_000) }),
		example: {
			cycles: [
				{ pickS: 1.4, placeS: 1 },
				{ pickS: 1.4, placeS: 1 }
			]
		},
		run: ({ cycles }) => ({ totalS: alternatingHeadsS(cycles) })
	}),
	calculation({
		name: 'turret_time',
		summary: 'A turret over a moving table with a moving feeder carriage: seconds for parts in their order.',
		input: z.object({
			parts: z.array(z.object({ at: point, slot: z.number() })).max(10_000),
			turret: z.object({ table: axis, carriage: axis, slotPitchMm: z.number(), indexS: z.number(), stations: z.number() })
		}),
		example: {
			parts: [
				{ at: { x: 0, y: 0 }, slot: 3 },
				{ at: { x: 10, y: 0 }, slot: 3 }
			],
			turret: {
				table: { vMmS: 600, aMmS2: 9000 },
				carriage: { vMmS: 800, aMmS2: 12000 },
				slotPitchMm: 16,
				indexS: 0.1,
				stations: 2
			}
		},
		run: ({ parts, turret }) => ({ totalS: turretS(parts, turret) })
	}),
	calculation({
		name: 'hold_limit',
		summary: 'How fast a nozzle may move a part sideways before it slips, mm/s².',
		input: z.object({
			vacuumKPa: z.number(),
			boreMm: z.number(),
			massG: z.number(),
			friction: z.number().default(0.25),
			safety: z.number().default(2.5)
		}),
		example: { vacuumKPa: 60, boreMm: 5, massG: 8 },
		run: (of) => ({ accelerationMmS2: holdLimitMmS2(of) })
	})
];
