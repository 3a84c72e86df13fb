import {
	align,
	ALIGNMENT_LIMITS,
	checkSupport,
	jobToleranceUm,
	judgeBlade,
	judgeFirstPrints,
	judgeTension,
	paceLevers,
	pasteGPerPanel,
	printTime,
	recipeRemarks,
	refusesStencil,
	planTrial,
	readTrial,
	replayAdaptiveWipe,
	reprintDecision,
	rescuedByScaling,
	settingOfPrints,
	sortStretched,
	startingPrintRecipe,
	strokeS,
	washPays,
	wipeAfter,
	wipeCosts,
	wipeInterval,
	wipeSPerPanel
} from '@keen-relay/core/printing';
import { z } from 'zod';
import { bodies, misprintFacts, printRecipe } from '../bodies.ts';
import { calculation } from './calculation.ts';

const point = z.object({ x: z.number(), y: z.number() });
const positive = z.number().positive();
/** −1, 0 or +1 of a trial's factor. */
const level = z.number().min(-1).max(1);
const makeUp = {
	board: z.string(),
	revision: z.string(),
	side: z.enum(['top', 'bottom']),
	circuits: z.int().positive(),
	fiducials: z.array(point)
};
const MARKS = [
	{ x: 20, y: 20 },
	{ x: 220, y: 20 },
	{ x: 220, y: 140 },
	{ x: 20, y: 140 }
];
const RECIPE = startingPrintRecipe(180, 0.5);
const wipes = printRecipe.shape.wipes;

export const printing = [
	calculation({
		name: 'print_recipe',
		summary: 'A print recipe to start from: blade, force per length and total, speed, separation, wipes.',
		input: z.object({ panelAcrossMm: z.number(), finestPitchMm: z.number().nullable().default(null) }),
		example: { panelAcrossMm: 180, finestPitchMm: 0.4 },
		run: ({ panelAcrossMm, finestPitchMm }) => startingPrintRecipe(panelAcrossMm, finestPitchMm)
	}),
	calculation({
		name: 'print_time',
		summary:
			'Stroke, separation, wipe share and cycle of a print, s; force in all, N, and by length of blade, N/cm; what outside the usual range does; what each lever buys.',
		input: z.object({ recipe: printRecipe, panelAlongMm: positive, panelAcrossMm: positive }),
		example: { recipe: RECIPE, panelAlongMm: 160, panelAcrossMm: 180 },
		run: ({ recipe, panelAlongMm: alongMm, panelAcrossMm: acrossMm }) => ({
			...printTime(recipe, { acrossMm, alongMm }),
			remarks: recipeRemarks(recipe),
			levers: paceLevers(recipe, { acrossMm, alongMm })
		})
	}),
	calculation({
		name: 'stroke_time',
		summary: 'Time of one straight move with ramps, s.',
		input: z.object({ lengthMm: z.number(), speedMmPerS: z.number(), accelerationMmPerS2: z.number() }),
		example: { lengthMm: 280, speedMmPerS: 40, accelerationMmPerS2: 200 },
		run: (p) => ({ strokeS: strokeS(p.lengthMm, p.speedMmPerS, p.accelerationMmPerS2) })
	}),
	calculation({
		name: 'wipe_share',
		summary: 'Wipe time a panel over the common period of the intervals, s, and the wipe that falls due after a print.',
		input: z.object({ wipes, longerReplaces: z.boolean().default(true), prints: z.int().nonnegative().default(10) }),
		example: {
			wipes: [
				{ kind: 'dry', everyPrints: 5, seconds: 10 },
				{ kind: 'wetVacuum', everyPrints: 10, seconds: 25 }
			]
		},
		run: (p) => ({ wipeSPerPanel: wipeSPerPanel(p.wipes, p.longerReplaces), due: wipeAfter(p.prints, p.wipes, p.longerReplaces) })
	}),
	calculation({
		name: 'paste_use',
		summary: 'Paste that one panel takes, g: openings, wipe loss, ends of the stencil.',
		input: z.object({
			deliveredMm3: positive,
			pasteGPerCm3: positive.default(4.2627),
			wipes,
			wipeLossG: z.number().default(0.2),
			endLossG: z.number().default(0),
			runPanels: positive.default(1)
		}),
		example: { deliveredMm3: 120, wipes: [{ kind: 'dry', everyPrints: 5, seconds: 10 }] },
		run: (p) => ({ gPerPanel: pasteGPerPanel(p.deliveredMm3, p.pasteGPerCm3, p.wipes, p.wipeLossG, p.endLossG, p.runPanels) })
	}),
	calculation({
		name: 'alignment',
		summary: 'Turn and move of the stencil about the stage centre from fiducial readings; stretch, residuals, verdict.',
		input: z.object({
			stencil: z.array(point).max(50),
			board: z.array(point).max(50),
			centre: point,
			rMaxMm: positive,
			limits: z
				.object({ maxUm: positive, cleanUm: positive, travelMm: positive, travelDeg: positive, readingUm: positive })
				.partial()
				.default({})
		}),
		example: {
			stencil: MARKS,
			board: [
				{ x: 20.112, y: 19.953 },
				{ x: 220.108, y: 19.968 },
				{ x: 220.094, y: 139.961 },
				{ x: 20.101, y: 139.957 }
			],
			centre: { x: 120, y: 80 },
			rMaxMm: 116.6
		},
		run: ({ stencil, board, centre, rMaxMm, limits }) =>
			align(stencil, board, centre, rMaxMm, {
				...ALIGNMENT_LIMITS,
				...Object.fromEntries(Object.entries(limits).filter(([, v]) => v !== undefined))
			})
	}),
	calculation({
		name: 'alignment_tolerance',
		summary: 'Alignment tolerance of a job from its fine parts, µm.',
		input: z.object({ fineParts: z.array(z.object({ padWidthMm: positive, pitchMm: positive.nullable() })) }),
		example: { fineParts: [{ padWidthMm: 0.25, pitchMm: 0.5 }] },
		run: ({ fineParts }) => ({ toleranceUm: jobToleranceUm(fineParts) })
	}),
	calculation({
		name: 'stretch_groups',
		summary: 'The fewest scaled stencils for boards of these stretches, and how many boards they rescue.',
		input: z.object({ ppm: z.array(z.number()).min(1).max(100_000), rMaxMm: z.number(), tolUm: z.number() }),
		example: { ppm: [10, 60, 250, -30, 290, 205, 90, 260], rMaxMm: 140, tolUm: 14 },
		run: ({ ppm, rMaxMm, tolUm }) => ({
			groups: sortStretched(ppm, rMaxMm, tolUm),
			rescued: rescuedByScaling(ppm, rMaxMm, tolUm)
		})
	}),
	calculation({
		name: 'support',
		summary: 'Support pins against the parts below and the spans that they leave.',
		input: z.object({
			panel: z.object({ widthMm: positive, heightMm: positive, thicknessMm: z.number() }),
			pins: z.array(point.extend({ radiusMm: positive })).max(500),
			parts: z
				.array(z.object({ name: z.string(), box: z.object({ minX: z.number(), minY: z.number(), maxX: z.number(), maxY: z.number() }) }))
				.max(20_000)
		}),
		example: { panel: { widthMm: 160, heightMm: 100, thicknessMm: 1.6 }, pins: [{ x: 80, y: 50, radiusMm: 2 }], parts: [] },
		run: ({ panel, pins, parts }) => checkSupport(panel, pins, parts)
	}),
	calculation({
		name: 'wipe_interval',
		summary: 'Prints between wipes that the measured drift allows, what to offer, and the verdict.',
		input: z.object({
			readings: z.array(z.object({ sinceWipe: z.int().nonnegative(), meanPct: z.number() })).max(5000),
			padSigma: positive,
			lowestPct: z.number(),
			longest: z.int().positive().default(30)
		}),
		example: {
			readings: [92.1, 91, 90.3, 89.2, 88.4, 87.1].map((meanPct, sinceWipe) => ({ sinceWipe, meanPct })),
			padSigma: 4,
			lowestPct: 60
		},
		run: (p) => wipeInterval(p.readings, p.padSigma, p.lowestPct, p.longest)
	}),
	calculation({
		name: 'wipe_cost',
		summary: 'Cost of a panel at each wipe interval, and the cheapest.',
		input: z.object({
			wipeS: positive,
			costPerS: z.number().nonnegative(),
			costPerDefect: z.number().nonnegative(),
			classes: z.array(z.object({ pads: positive, mean: z.number(), sigma: positive, slope: z.number(), lowestPct: z.number() })),
			longest: z.int().min(1).max(500).default(60)
		}),
		example: { wipeS: 18, costPerS: 0.015, costPerDefect: 0.5, classes: [{ pads: 480, mean: 88, sigma: 6.5, slope: -0.6, lowestPct: 60 }] },
		run: (p) => wipeCosts(p.wipeS, p.costPerS, p.costPerDefect, p.classes, p.longest)
	}),
	calculation({
		name: 'adaptive_wipe',
		summary: 'A run replayed with a wipe only when the next panel is too likely to fall below its limit.',
		input: z.object({
			panels: z.array(z.object({ meanPct: z.number(), sinceWipe: z.int().nonnegative() })).max(20_000),
			drift: z.object({ b: z.number(), sigma: positive, lowestPct: z.number() }),
			wipeS: positive,
			fixedEvery: z.int().positive(),
			risk: z.number().positive().max(0.5).default(0.01)
		}),
		example: {
			panels: [92, 91, 90, 89, 92, 91, 90, 89].map((meanPct, i) => ({ meanPct, sinceWipe: i % 4 })),
			drift: { b: -1, sigma: 4, lowestPct: 70 },
			wipeS: 10,
			fixedEvery: 4
		},
		run: ({ panels, drift, wipeS, fixedEvery, risk }) => replayAdaptiveWipe(panels, drift, { wipeS, fixedEvery, risk })
	}),
	calculation({
		name: 'trial_plan',
		summary: 'Settings of a 2³ trial with centre points, in a drawn order.',
		input: z.object({ ranges: bodies.trial.shape.ranges, seed: z.int().nonnegative() }),
		example: {
			ranges: {
				force: { low: 0.18, high: 0.26, unit: 'kg/cm' },
				speed: { low: 30, high: 60, unit: 'mm/s' },
				separation: { low: 1, high: 5, unit: 'mm/s' }
			},
			seed: 1
		},
		run: ({ ranges, seed }) => ({ settings: planTrial(ranges, seed) })
	}),
	calculation({
		name: 'trial_setting_of_prints',
		summary: 'Which setting of a trial each panel was printed with; null before the first and after the end.',
		input: z.object({
			steps: z.array(z.object({ setting: z.int().nonnegative(), from: z.iso.datetime({ offset: true }) })).max(100),
			ended: z.iso.datetime({ offset: true }).nullable(),
			printed: z.array(z.iso.datetime({ offset: true })).max(100_000)
		}),
		example: {
			steps: [
				{ setting: 0, from: '2026-05-11T10:00:00Z' },
				{ setting: 1, from: '2026-05-11T10:08:00Z' }
			],
			ended: null,
			printed: ['2026-05-11T09:59:00Z', '2026-05-11T10:02:00Z', '2026-05-11T10:09:00Z']
		},
		run: ({ steps, ended, printed }) => ({
			settings: settingOfPrints(
				steps.map(({ setting, from }) => ({ setting, fromMs: Date.parse(from) })),
				ended === null ? null : Date.parse(ended),
				printed.map((at) => Date.parse(at))
			)
		})
	}),
	calculation({
		name: 'trial_effects',
		summary: 'Effects of a 2³ trial with intervals, for each stroke apart; the bend of the response; the corner nearest to the target.',
		input: z.object({
			panels: z
				.array(
					z.object({
						coded: z.object({ force: level, speed: level, separation: level }),
						stroke: z.string(),
						response: z.number()
					})
				)
				.max(2000),
			targetPct: z.number().default(100)
		}),
		example: {
			panels: [-1, 1].flatMap((force) =>
				[-1, 1].flatMap((speed) =>
					[-1, 1].flatMap((separation) =>
						[0, 1].map((i) => ({ coded: { force, speed, separation }, stroke: 'F', response: 95 - 3 * force + 0.4 * i }))
					)
				)
			)
		},
		run: ({ panels, targetPct }) => readTrial(panels, targetPct)
	}),
	calculation({
		name: 'reprint',
		summary: 'Wash and print again, ask an engineer, or look at scrapping: every reason, the steps.',
		input: misprintFacts,
		example: {
			washes: 0,
			finish: 'other',
			sinceFirstReflowH: null,
			partsPlacedThisSide: false,
			uncuredGlue: false,
			washSensitiveParts: false
		},
		run: (panel) => reprintDecision(panel)
	}),
	calculation({
		name: 'wash_pays',
		summary: 'Whether a wash costs less than the rework it saves.',
		input: z.object({
			defects: z.array(z.object({ probability: z.number().min(0).max(1), reworkCost: z.number().nonnegative() })),
			washCost: z.number().nonnegative(),
			damageProbability: z.number().min(0).max(1),
			boardCost: z.number().nonnegative()
		}),
		example: { defects: [{ probability: 0.6, reworkCost: 9 }], washCost: 4, damageProbability: 0.01, boardCost: 80 },
		run: (p) => washPays(p.defects, p.washCost, p.damageProbability, p.boardCost)
	}),
	calculation({
		name: 'stencil_tension',
		summary: 'Tension readings of a foil, judged.',
		input: z.object({ readings: bodies.tension.shape.readings }),
		example: { readings: [38, 37, 39, 36, 38].map((nPerCm, i) => ({ x: (i % 2) * 300, y: Math.floor(i / 2) * 150, nPerCm })) },
		run: ({ readings }) => judgeTension(readings)
	}),
	calculation({
		name: 'stencil_fits',
		summary: 'Why a stencil may not print a job: board, revision, side, panel, marks, foil.',
		input: z.object({
			stencil: z.object({
				code: z.string(),
				...makeUp,
				foilUm: positive,
				state: z.enum(['usable', 'blocked', 'scrapped']),
				damage: z.string().nullable()
			}),
			job: z.object({ ...makeUp, foilUm: positive.nullable() })
		}),
		example: {
			stencil: {
				code: 'S-014',
				board: 'Frost sensor',
				revision: 'B',
				side: 'top',
				circuits: 4,
				fiducials: MARKS,
				foilUm: 120,
				state: 'usable',
				damage: null
			},
			job: { board: 'Frost sensor', revision: 'C', side: 'top', circuits: 4, fiducials: MARKS, foilUm: 120 }
		},
		run: ({ stencil, job }) => ({ refusals: refusesStencil(stencil, job) })
	}),
	calculation({
		name: 'blade',
		summary: 'How a blade stands by its strokes.',
		input: z.object({ strokes: z.int().nonnegative(), nicked: z.boolean().default(false) }),
		example: { strokes: 21_000 },
		run: ({ strokes, nicked }) => judgeBlade(strokes, nicked)
	}),
	calculation({
		name: 'first_prints',
		summary: 'Whether the first prints let a run be released.',
		input: z.object({
			prints: z.array(
				z.object({
					alignment: z.string().nullable(),
					panel: z.string(),
					pads: z.int().positive(),
					fails: z.int().nonnegative(),
					warnings: z.int().nonnegative(),
					meanVolumePct: z.number(),
					offsetUm: z.number()
				})
			),
			toleranceUm: positive
		}),
		example: {
			prints: [1, 2].map((i) => ({
				alignment: 'ok',
				panel: `J-1-000${i}`,
				pads: 400,
				fails: 0,
				warnings: 1,
				meanVolumePct: 96,
				offsetUm: 7
			})),
			toleranceUm: 25
		},
		run: ({ prints, toleranceUm }) => judgeFirstPrints(prints, toleranceUm)
	})
];
