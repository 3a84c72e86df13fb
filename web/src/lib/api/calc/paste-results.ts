import { classCapability, cpk, ewmaChart, offsetCorrection } from '@keen-relay/core/control';
import {
	afterWipe,
	baselineOf,
	causeStatistic,
	consequenceLimits,
	CAUSE_CODES,
	causeText,
	checkLimits,
	checkRun,
	classReports,
	classSpreads,
	DEPOSIT_LIMITS,
	explainResiduals,
	findSignatures,
	judgeSignatures,
	studyCauses,
	type PasteMapping,
	followUp,
	gapToNeighbourMm,
	gaugeShare,
	identityFactor,
	jointOfCall,
	judgeIdentity,
	readPasteTable,
	smallOpeningMeans,
	statisticalLimits,
	strokeMedians,
	widened,
	type LimitSet,
	type SignatureRun
} from '@keen-relay/core/inspection';
import { exactInterval } from '@keen-relay/core/numerics';
import { PAD_CLASSES } from '@keen-relay/core/parts';
import { z } from 'zod';
import { bodies } from '../bodies.ts';
import { calculation } from './calculation.ts';
import { model } from './opening.ts';

const readings = z.array(z.number().nullable()).max(5_000_000);
const run = z.object({
	pads: z
		.array(
			z.object({
				name: z.string(),
				refDes: z.string().nullable(),
				padClass: z.string(),
				xMm: z.number(),
				yMm: z.number(),
				minSideMm: z.number().positive(),
				areaRatio: z.number().positive()
			})
		)
		.min(1)
		.max(100_000),
	panels: z
		.array(
			z.object({
				serial: z.string(),
				tMin: z.number(),
				stroke: z.string(),
				printsSinceWipe: z.int().nonnegative(),
				printsSinceTopup: z.int().nonnegative(),
				minutesSincePrevious: z.number().nonnegative()
			})
		)
		.min(1),
	/** Panel by panel, pad by pad; null where it is missing. */
	volumePct: readings,
	heightUm: readings,
	areaPct: readings,
	offsetXUm: readings,
	offsetYUm: readings,
	peakHeightUm: readings.optional(),
	bridges: z.array(z.int().nonnegative()).optional(),
	foilUm: z.number().positive(),
	strokeAxis: z.enum(['x', 'y'])
});
const code = z.enum(CAUSE_CODES);

const floats = (values: (number | null)[]) => Float32Array.from(values, (v) => v ?? NaN);
function runOf({ peakHeightUm, bridges, ...r }: z.infer<typeof run>): SignatureRun {
	const whole = {
		...r,
		volumePct: floats(r.volumePct),
		heightUm: floats(r.heightUm),
		areaPct: floats(r.areaPct),
		offsetXUm: floats(r.offsetXUm),
		offsetYUm: floats(r.offsetYUm),
		...(peakHeightUm ? { peakHeightUm: floats(peakHeightUm) } : {}),
		...(bridges ? { bridges } : {})
	};
	checkRun(whole);
	return whole;
}

/** Two strokes that differ by a tenth, on 14 panels of 30 pads. */
const RUN = (() => {
	const pads = Array.from({ length: 30 }, (_, i) => ({
		name: `R${i + 1} pin 1`,
		refDes: `R${i + 1}`,
		padClass: 'chip',
		xMm: (i % 6) * 8,
		yMm: Math.floor(i / 6) * 8,
		minSideMm: 0.5,
		areaRatio: 1.1
	}));
	const panels = Array.from({ length: 14 }, (_, m) => ({
		serial: `P${m + 1}`,
		tMin: m,
		stroke: m % 2 ? 'R' : 'F',
		printsSinceWipe: m % 5,
		printsSinceTopup: m,
		minutesSincePrevious: 1
	}));
	const each = (value: (m: number, p: number) => number) => panels.flatMap((_, m) => pads.map((__, p) => value(m, p)));
	const wobble = (m: number, p: number) => ((m * 7 + p * 13) % 11) / 10 - 0.5;
	const volumePct = each((m, p) => (m % 2 ? 89 : 98) + wobble(m, p));
	return {
		pads,
		panels,
		volumePct,
		heightUm: volumePct.map((v) => Math.round(v * 10) / 10),
		areaPct: each(() => 100),
		offsetXUm: each((m, p) => 4 * wobble(m, p)),
		offsetYUm: each((m, p) => -3 * wobble(m, p)),
		foilUm: 100,
		strokeAxis: 'y' as const
	};
})();

const table = z.string().min(1, 'the file is empty').max(60_000_000);

export const pasteResults = [
	calculation({
		name: 'signatures',
		summary:
			'Causes in a run’s paste results, ranked: size with interval, evidence, confidence, next action, the separating test; what could not be judged.',
		input: z.object({ run, golden: z.array(z.number().positive()).optional() }),
		example: { run: RUN },
		run: ({ run: given, golden }) => {
			const report = findSignatures(runOf(given), undefined, undefined, golden);
			return { ...report, verdict: judgeSignatures(report), signatures: report.signatures.map((s) => ({ ...s, ...causeText(s.code) })) };
		}
	}),
	calculation({
		name: 'paste_study',
		summary:
			'Causes in a run that is given as three tables: pads, panels (how each was printed) and readings. Nothing is kept; rows that do not fit are named.',
		input: z.object({
			pads: table,
			panels: table,
			readings: table,
			mapping: bodies.pasteImport.shape.mapping,
			heightUnit: bodies.pasteImport.shape.heightUnit,
			strokeAxis: z.enum(['x', 'y']).default('y'),
			model
		}),
		example: {
			pads: 'pad_id,refdes,package_class,x_mm,y_mm,shape,size_x_mm,size_y_mm,foil_um,area_mm2,area_ratio\nR1.1,R1,chip,1,2,rectangle,0.5,0.6,100,,\n',
			panels: 'panel_no,t_min,stroke,prints_since_wipe,prints_since_topup,minutes_since_previous_print\n1,0,F,0,0,0\n',
			readings: 'panel_no,pad_id,volume_pct,height_um,area_pct,offset_x_um,offset_y_um\n1,R1.1,95,98,97,3,-4\n'
		},
		run: ({ pads, panels, readings, mapping, ...options }) =>
			studyCauses({ pads, panels, readings }, { ...options, mapping: mapping as PasteMapping })
	}),
	calculation({
		name: 'signature_follow_up',
		summary: 'Whether an action helped, by the cause’s own statistic on the panels before and after.',
		input: z.object({
			code,
			threshold: z.number(),
			size: z.number(),
			pads: z.array(z.int().nonnegative()).optional(),
			before: run,
			after: run.nullable()
		}),
		example: { code: 'STROKE_PAIR', threshold: 5, size: 9, before: RUN, after: null },
		run: ({ code: c, threshold, size, pads, before, after }) =>
			followUp(runOf(before), after && runOf(after), { code: c, threshold, size, where: pads ? { pads } : {} })
	}),
	calculation({
		name: 'signature_statistic',
		summary: 'A cause’s own statistic on a set of panels, with its standard error.',
		input: z.object({ code, run, pads: z.array(z.int().nonnegative()).optional() }),
		example: { code: 'STROKE_PAIR', run: RUN },
		run: ({ code: c, run: given, pads }) => causeStatistic(runOf(given), c, pads ? { pads } : {})
	}),
	calculation({
		name: 'signature_variance',
		summary: 'Share of the residuals that each cause pattern explains, by forward selection.',
		input: z.object({ run }),
		example: { run: RUN },
		run: ({ run: given }) => explainResiduals(runOf(given))
	}),
	calculation({
		name: 'paste_table',
		summary: 'Paste inspection results from a table: rows, blanks, issues by line; asks where a unit is doubtful.',
		input: z.object({
			text: z.string().min(1).max(60_000_000),
			mapping: bodies.pasteImport.shape.mapping,
			foilUm: z.number().positive().default(100),
			decimal: z.enum(['.', ',']).nullable().default(null)
		}),
		example: { text: 'panel_no,pad_id,volume_pct,height_um,area_pct,offset_x_um,offset_y_um\n1,R1.1,95,98,97,3,-4\n' },
		run: ({ text, mapping, foilUm, decimal }) => {
			const t = readPasteTable(text, mapping as Parameters<typeof readPasteTable>[1], foilUm, decimal);
			return {
				mapping: t.mapping,
				titles: t.titles,
				issues: t.issues,
				asks: t.asks,
				blanks: t.blanks,
				rows: t.pad.map((pad, i) => ({
					line: t.line[i],
					panel: t.panel[i],
					pad,
					...Object.fromEntries(Object.entries(t.values).map(([name, list]) => [name, Number.isNaN(list[i]!) ? null : list[i]])),
					bridge: t.bridge[i] === 1
				}))
			};
		}
	}),
	calculation({
		name: 'paste_limits',
		summary: 'Checks limits by class: contradictions refused, what they widen named; statistical limits that may only tighten.',
		input: z.object({
			limits: bodies.pasteLimits.shape.limits,
			meanPct: z.number().default(95),
			sigmaPct: z.number().positive().default(6),
			spreads: z.number().min(2).max(8).default(4)
		}),
		example: { limits: DEPOSIT_LIMITS },
		run: ({ limits, meanPct, sigmaPct, spreads }) => {
			checkLimits(limits as LimitSet);
			return {
				widens: widened(DEPOSIT_LIMITS, limits as LimitSet),
				statistical: Object.fromEntries(PAD_CLASSES.map((c) => [c, statisticalLimits((limits as LimitSet)[c], meanPct, sigmaPct, spreads)]))
			};
		}
	}),
	calculation({
		name: 'consequence_limits',
		summary:
			'Limits from what deposits led to: logistic curve of P(defect | volume, offset), break-even with interval; nothing is widened on fewer than 30 defects.',
		input: z.object({
			outcomes: z
				.array(
					z.object({
						volumePct: z.number(),
						offsetShare: z.number(),
						defect: z.boolean(),
						weight: z.number().positive().optional()
					})
				)
				.max(200_000),
			padClass: z.enum(PAD_CLASSES),
			stopCost: z.number(),
			defectCost: z.number()
		}),
		example: {
			outcomes: Array.from({ length: 60 }, (_, i) => ({
				volumePct: 40 + ((i * 37) % 80),
				offsetShare: (i % 7) / 50,
				defect: 40 + ((i * 37) % 80) < 52
			})),
			padClass: 'chip',
			stopCost: 0.2,
			defectCost: 4
		},
		run: ({ outcomes, padClass, stopCost, defectCost }) => consequenceLimits(outcomes, DEPOSIT_LIMITS[padClass], stopCost, defectCost)
	}),
	calculation({
		name: 'joint_of_call',
		summary: 'The deposit that a call is put to: its pin’s own, else the part’s deposit that is farthest from 100 %.',
		input: z.object({
			pads: z.array(z.object({ pin: z.string().nullable(), volumePct: z.number().nonnegative() })).max(10_000),
			pin: z.string().nullable()
		}),
		example: {
			pads: [
				{ pin: '1', volumePct: 96 },
				{ pin: '2', volumePct: 48 }
			],
			pin: null
		},
		run: ({ pads, pin }) => ({
			pad: jointOfCall(
				pads.map((p, index) => ({ index, pin: p.pin })),
				pin,
				(index) => pads[index]!.volumePct
			)
		})
	}),
	calculation({
		name: 'pad_baseline',
		summary: 'What each pad of a good run carries, as a share of its opening’s volume: its median over the panels.',
		input: z.object({ run }),
		example: { run: RUN },
		run: ({ run: given }) => ({ efficiency: baselineOf(runOf(given)) })
	}),
	calculation({
		name: 'small_opening_means',
		summary: 'Mean volume of the 40 % of the openings with the smallest area ratios, panel by panel, %; null where none was measured.',
		input: z.object({ run }),
		example: { run: RUN },
		run: ({ run: given }) => ({ meanVolumePct: smallOpeningMeans(runOf(given)).map((v) => (v === v ? v : null)) })
	}),
	calculation({
		name: 'stroke_medians',
		summary: 'What each pad carries in the middle of the panels of one stroke: volume, height, area, offset; null where it was never read.',
		input: z.object({ run, stroke: z.string() }),
		example: { run: RUN, stroke: 'F' },
		run: ({ run: given, stroke }) => strokeMedians(runOf(given), stroke)
	}),
	calculation({
		name: 'class_charts',
		summary: 'Charts, capability and wipe interval by class of pads over a run’s panels; stroke and wipe phase taken out.',
		input: z.object({ run }),
		example: { run: RUN },
		run: ({ run: given }) => classReports(runOf(given), DEPOSIT_LIMITS)
	}),
	calculation({
		name: 'first_after_wipe',
		summary: 'What the print right after a wipe lost or gained, %, against the line of the later ones; null where too few prints show it.',
		input: z.object({ readings: z.array(z.object({ sinceWipe: z.int().nonnegative(), meanPct: z.number() })).max(10_000) }),
		example: { readings: Array.from({ length: 24 }, (_, i) => ({ sinceWipe: i % 8, meanPct: i % 8 ? 92 - (i % 8) : 90 })) },
		run: ({ readings }) => ({ firstAfterWipe: afterWipe(readings) })
	}),
	calculation({
		name: 'class_spreads',
		summary: 'Mean and spread of the single deposits of each class over a run’s panels: what statistical limits are made of.',
		input: z.object({ run }),
		example: { run: RUN },
		run: ({ run: given }) => classSpreads(runOf(given))
	}),
	calculation({
		name: 'gap_to_neighbour',
		summary: 'Gap between a deposit and the neighbouring pad, mm.',
		input: z.object({
			pitchMm: z.number().positive(),
			padMm: z.number().positive(),
			openingMm: z.number().positive(),
			offsetUm: z.number()
		}),
		example: { pitchMm: 0.4, padMm: 0.2, openingMm: 0.18, offsetUm: 30 },
		run: (p) => ({ gapMm: gapToNeighbourMm(p.pitchMm, p.padMm, p.openingMm, p.offsetUm) })
	}),
	calculation({
		name: 'identity_factor',
		summary: 'How a unit’s volume stands to its area × height by group, against what was learned.',
		input: z.object({
			groups: z
				.array(
					z.object({
						group: z.string(),
						readings: z.array(z.object({ volumePct: z.number(), areaPct: z.number(), heightUm: z.number() })).min(1)
					})
				)
				.min(1),
			learned: z.array(z.object({ group: z.string(), factor: z.number().positive(), readings: z.int().positive() })).default([]),
			foilUm: z.number().positive()
		}),
		example: { groups: [{ group: 'chip', readings: [{ volumePct: 95, areaPct: 97, heightUm: 98 }] }], foilUm: 100 },
		run: ({ groups, learned, foilUm }) => {
			const today = groups.map((g) => identityFactor(g.group, g.readings, foilUm));
			return { factors: today, verdict: judgeIdentity(today, new Map(learned.map((l) => [l.group, l]))) };
		}
	}),
	calculation({
		name: 'gauge',
		summary: 'Repeatability of an inspection unit against the tolerance: 6σ over its width.',
		input: z.object({ repeats: z.array(z.array(z.number()).min(2)).min(1), lowPct: z.number(), highPct: z.number() }),
		example: { repeats: [[99, 100, 101]], lowPct: 60, highPct: 140 },
		run: ({ repeats, lowPct, highPct }) => gaugeShare(repeats, lowPct, highPct)
	}),
	calculation({
		name: 'cpk',
		summary: 'Cpk with its 95 % lower bound from mean and spread.',
		input: z.object({ mean: z.number(), sigma: z.number(), low: z.number(), high: z.number(), n: z.int() }),
		example: { mean: 93, sigma: 9, low: 60, high: 140, n: 120 },
		run: (p) => cpk(p.mean, p.sigma, p.low, p.high, p.n)
	}),
	calculation({
		name: 'class_capability',
		summary: 'Capability of a class: spread pooled within each pad over the panels; percentiles where there are enough readings.',
		input: z.object({ readings: z.array(z.array(z.number())).min(1), low: z.number(), high: z.number() }),
		example: { readings: [[95, 97, 93, 96]], low: 60, high: 140 },
		run: ({ readings: r, low, high }) => ({ capability: classCapability(r, low, high) })
	}),
	calculation({
		name: 'ewma',
		summary: 'Exponentially weighted moving average chart.',
		input: z.object({
			values: z.array(z.number()).min(1),
			centre: z.number(),
			sigma: z.number(),
			lambda: z.number().default(0.25),
			width: z.number().positive().default(3)
		}),
		example: { values: [52, 47, 53, 49.3], centre: 50, sigma: 2.05, lambda: 0.3 },
		run: (p) => ewmaChart(p.values, p.centre, p.sigma, p.lambda, p.width)
	}),
	calculation({
		name: 'offset_correction',
		summary: 'Damped correction of the print offset, strokes averaged apart, nothing inside the deadband; µm.',
		input: z.object({
			offsets: z.array(z.object({ offsetUm: z.number(), stroke: z.string() })),
			lambda: z.number().min(0.05).max(1).default(0.3),
			deadbandUm: z.number().nonnegative().default(10)
		}),
		example: {
			offsets: [
				{ offsetUm: 22, stroke: 'F' },
				{ offsetUm: 14, stroke: 'R' }
			]
		},
		run: (p) => offsetCorrection(p.offsets, p.lambda, p.deadbandUm)
	}),
	calculation({
		name: 'exact_interval',
		summary: 'Exact (Clopper–Pearson) interval of a proportion.',
		input: z.object({ count: z.int().nonnegative(), total: z.int().positive(), confidence: z.number().min(0.5).max(0.999).default(0.95) }),
		example: { count: 0, total: 300 },
		run: (p) => exactInterval(p.count, p.total, p.confidence)
	})
];
