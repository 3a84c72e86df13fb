import { readPasteLayer } from '@keen-relay/core/artwork';
import { InputError } from '@keen-relay/core/judgement';
import {
	applyRule,
	chooseFoil,
	deliveredByFoil,
	expectedShortPads,
	fitTransfer,
	foilAlternatives,
	frameOf,
	groupFactor,
	hardestOpenings,
	judgeLongOpenings,
	judgeWebs,
	measureShape,
	paneForCoverage,
	paneFromWeb,
	pinInPaste,
	shapeFactors,
	stepArea,
	stepKeepOutMm,
	STOCK_FOILS_MM,
	turningAreaRatio,
	wallModel,
	WALLS,
	websOf,
	windowPanes,
	withNeeds,
	writePasteLayer
} from '@keen-relay/core/stencil';
import { z } from 'zod';
import { openingRule } from '../bodies.ts';
import { model, opening } from './opening.ts';
import { calculation } from './calculation.ts';

const point = z.object({ x: z.number(), y: z.number() });
const wall = z.enum(WALLS).default('laser');
const shape = z.discriminatedUnion('kind', [
	z.object({ kind: z.enum(['rectangle', 'oblong']), lengthMm: z.number(), widthMm: z.number() }),
	z.object({ kind: z.enum(['circle', 'square']), sizeMm: z.number() }),
	z.object({ kind: z.literal('roundedRectangle'), lengthMm: z.number(), widthMm: z.number(), radiusMm: z.number() }),
	z.object({ kind: z.literal('homePlate'), lengthMm: z.number(), widthMm: z.number(), pointMm: z.number() }),
	z.object({ kind: z.literal('polygon'), outline: z.array(point).min(1).max(5000), holes: z.array(z.array(point)).optional() })
]);
const named = opening.extend({ name: z.string() });
const group = z.object({ areaRatio: z.number().positive(), efficiency: z.number().nonnegative(), pads: z.number().positive() });
const GERBER = '%FSLAX34Y34*%\n%MOMM*%\n%ADD10R,0.5X0.54*%\n%ADD11C,0.3*%\nD10*\nX0Y0D03*\nX9600D03*\nD11*\nX30000Y0D03*\nM02*';
const GROUPS = [
	[0.45, 0.455],
	[0.55, 0.637],
	[0.66, 0.79],
	[0.8, 0.915],
	[1.2, 0.99]
].map(([areaRatio, efficiency]) => ({ areaRatio: areaRatio!, efficiency: efficiency!, pads: 400 }));

export const stencilCalculations = [
	calculation({
		name: 'opening_shape',
		summary: 'Area, perimeter, governing width and length of a shape by its dimensions, mm.',
		input: z.object({ name: z.string().default('aperture'), shape }),
		example: { name: 'U7 pin 23', shape: { kind: 'homePlate', lengthMm: 0.7, widthMm: 0.6, pointMm: 0.25 } },
		run: (given) => measureShape(given.shape as Parameters<typeof measureShape>[0], given.name)
	}),
	calculation({
		name: 'transfer_fit',
		summary: 'Fits the transfer curve to measured volumes by size of opening; says where it is not identifiable.',
		input: z.object({ groups: z.array(group).min(1).max(5000) }),
		example: { groups: GROUPS },
		run: ({ groups }) => {
			const fit = fitTransfer(groups);
			return { ...fit, turningAreaRatio: turningAreaRatio(fit.model) };
		}
	}),
	calculation({
		name: 'transfer_group_factor',
		summary: 'A wall’s, paste’s or shape’s own factor on the plant’s curve, shrunk by n/(n+n0); of all groups, and of each shape.',
		input: z.object({
			groups: z.array(group.extend({ shape: z.string().default('any') })),
			model,
			wall,
			n0: z.number().positive().default(200)
		}),
		example: { groups: [{ shape: 'circle', areaRatio: 0.66, efficiency: 0.85, pads: 300 }] },
		run: ({ groups, model: m, wall: w, n0 }) => ({
			factor: groupFactor(groups, wallModel(w, m), n0),
			byShape: shapeFactors(groups, wallModel(w, m), n0)
		})
	}),
	calculation({
		name: 'delivered_by_foil',
		summary:
			'Volume that an opening delivers over foil thickness, nL, and where a thicker foil delivers less (model). Null outside the measured area ratios, where they are given.',
		input: z.object({
			opening,
			wall,
			model,
			measured: z.object({ from: z.number().positive(), to: z.number().positive() }).default({ from: 0.01, to: 100 }),
			foilsMm: z.array(z.number().min(0.03).max(0.3)).default([...STOCK_FOILS_MM])
		}),
		example: { opening: { areaMm2: 0.049087, perimeterMm: 0.785398, widthMm: 0.25, lengthMm: 0.25 } },
		run: ({ opening: o, wall: w, model: m, measured, foilsMm }) => {
			const turning = turningAreaRatio(wallModel(w, m));
			const delivered = deliveredByFoil(o, foilsMm, w, m, measured);
			return {
				delivered: foilsMm.map((foilMm, i) => ({ foilMm, areaRatio: o.areaMm2 / (o.perimeterMm * foilMm), deliveredNl: delivered[i]! })),
				turningAreaRatio: turning,
				turningFoilMm: turning === null ? null : o.areaMm2 / (o.perimeterMm * turning)
			};
		}
	}),
	calculation({
		name: 'hardest_openings',
		summary: 'The openings nearest to their limit, one of each size, by their index.',
		input: z.object({
			openings: z.array(named).min(1).max(30_000),
			foilMm: z.number(),
			wall,
			model,
			most: z.int().min(1).max(50).default(4)
		}),
		example: {
			openings: [
				{ name: 'U1 pin A1', areaMm2: 0.070686, perimeterMm: 0.942478, widthMm: 0.3, lengthMm: 0.3 },
				{ name: 'J1 pin 1', areaMm2: 2.4, perimeterMm: 6.4, widthMm: 1.2, lengthMm: 2 }
			],
			foilMm: 0.1
		},
		run: ({ openings, foilMm, wall: w, model: m, most }) => ({ openings: hardestOpenings(openings, foilMm, w, m, null, most) })
	}),
	calculation({
		name: 'foil_choice',
		summary: 'One foil, a step, or the ways out in numbers; the worst opening and its thickest foil.',
		input: z.object({
			openings: z
				.array(named.extend({ neededMm3: z.number().positive().optional() }))
				.min(1)
				.max(30_000),
			wall,
			model,
			foilsMm: z
				.array(z.number().min(0.03).max(0.3))
				.min(1)
				.default([...STOCK_FOILS_MM])
		}),
		example: {
			openings: [
				{ name: 'U1 pin A1', areaMm2: 0.070686, perimeterMm: 0.942478, widthMm: 0.3, lengthMm: 0.3 },
				{ name: 'J1 pin 1', areaMm2: 2.4, perimeterMm: 6.4, widthMm: 1.2, lengthMm: 2, neededMm3: 0.25 }
			]
		},
		run: (given) => chooseFoil(given.openings as Parameters<typeof chooseFoil>[0], given.wall, given.model, given.foilsMm)
	}),
	calculation({
		name: 'step_keep_out',
		summary: 'Least distance across the edge of a step, mm.',
		input: z.object({ depthUm: z.number().positive() }),
		example: { depthUm: 20 },
		run: ({ depthUm }) => ({ keepOutMm: stepKeepOutMm(depthUm) })
	}),
	calculation({
		name: 'step_area',
		summary: 'Rectangles of a step around the openings of the named parts, and the openings that stand too near its edge, mm.',
		input: z.object({
			gerber: z.string().min(1).max(60_000_000),
			inStep: z.array(z.int().nonnegative()).min(1),
			depthUm: z.number().positive()
		}),
		example: { gerber: GERBER, inStep: [0, 1], depthUm: 20 },
		run: ({ gerber, inStep, depthUm }) => {
			const { apertures } = readPasteLayer(gerber);
			const odd = inStep.find((i) => i >= apertures.length);
			if (odd !== undefined) throw new InputError('out-of-range', 'inStep', `openings from 0 to ${apertures.length - 1}`, odd);
			return stepArea(apertures, inStep, depthUm);
		}
	}),
	calculation({
		name: 'joint_needs',
		summary: 'What each opening has to deliver where the joints of parts need so much, mm³: the panes of one pad share it by their areas.',
		input: z.object({
			openings: z.array(z.object({ refDes: z.string().nullable(), from: z.int(), areaMm2: z.number().positive() })).max(100_000),
			needs: z.record(z.string(), z.number().positive())
		}),
		example: {
			openings: [
				{ refDes: 'J1', from: 0, areaMm2: 1 },
				{ refDes: 'J1', from: 0, areaMm2: 3 }
			],
			needs: { J1: 0.4 }
		},
		run: ({ openings, needs }) => ({ openings: withNeeds(openings, (refDes) => needs[refDes] ?? null) })
	}),
	calculation({
		name: 'expected_short_pads',
		summary: 'Expected pads with too little paste in 1000 panels at a foil and wall (model).',
		input: z.object({ openings: z.array(named.extend({ lowPct: z.number() })).min(1), foilMm: z.number(), wall, model }),
		example: {
			openings: [{ name: 'U1 pin A1', areaMm2: 0.070686, perimeterMm: 0.942478, widthMm: 0.3, lengthMm: 0.3, lowPct: 60 }],
			foilMm: 0.1
		},
		run: ({ openings, foilMm, wall: w, model: m }) => ({ padsPer1000Panels: expectedShortPads(openings, foilMm, w, m) })
	}),
	calculation({
		name: 'foil_alternatives',
		summary: 'Expected pads with too little paste in 1000 panels for every foil and wall, and for the step that a wall asks for (model).',
		input: z.object({
			openings: z.array(named.extend({ lowPct: z.number(), neededMm3: z.number().positive().optional() })).min(1),
			model,
			foilsMm: z
				.array(z.number().min(0.03).max(0.3))
				.min(1)
				.default([...STOCK_FOILS_MM])
		}),
		example: {
			openings: [{ name: 'U1 pin A1', areaMm2: 0.070686, perimeterMm: 0.942478, widthMm: 0.3, lengthMm: 0.3, lowPct: 60 }]
		},
		run: ({ openings, model: m, foilsMm }) => ({ alternatives: foilAlternatives(() => openings, m, foilsMm) })
	}),
	calculation({
		name: 'webs',
		summary: 'Foil left between each opening of a layer and its nearest neighbour, mm, how each stands to the least, and the verdict.',
		input: z.object({ gerber: z.string().min(1).max(60_000_000), foilMm: z.number(), reachMm: z.number().positive().default(1) }),
		example: { gerber: GERBER, foilMm: 0.12 },
		run: ({ gerber, foilMm, reachMm }) => {
			const webs = websOf(readPasteLayer(gerber).apertures, reachMm);
			const { results, verdict } = judgeWebs(webs, foilMm, (i) => `opening ${i + 1}`);
			return { webs: webs.map((w, i) => ({ ...w, result: results[i] })), verdict };
		}
	}),
	calculation({
		name: 'long_openings',
		summary: 'Openings of a layer that are over 3 mm in one piece, which the blade may scoop; null where there is none.',
		input: z.object({ gerber: z.string().min(1).max(60_000_000) }),
		example: { gerber: GERBER },
		run: ({ gerber }) => ({ verdict: judgeLongOpenings(readPasteLayer(gerber).apertures, (i) => `opening ${i + 1}`) })
	}),
	calculation({
		name: 'windows',
		summary: 'Window panes over a pad: for a coverage, or from a web; those that keep to the usual sizes.',
		input: z.object({
			padXMm: z.number(),
			padYMm: z.number(),
			marginMm: z.number().nonnegative().default(0.1),
			coverage: z.number().default(0.6),
			columns: z.int().min(1).max(8).optional(),
			rows: z.int().min(1).max(8).optional(),
			webMm: z.number().nonnegative().optional()
		}),
		example: { padXMm: 4.6, padYMm: 4.6, columns: 2, rows: 2 },
		run: ({ padXMm, padYMm, marginMm, coverage, columns, rows, webMm }) => ({
			pane:
				columns && rows
					? webMm === undefined
						? paneForCoverage(padXMm, padYMm, marginMm, columns, rows, coverage)
						: paneFromWeb(padXMm, padYMm, marginMm, columns, rows, webMm)
					: null,
			panes: windowPanes(padXMm, padYMm, marginMm, coverage)
		})
	}),
	calculation({
		name: 'pin_in_paste',
		summary: 'Metal and paste that a pin in paste needs, mm³.',
		input: z.object({
			holeMm: z.number().positive(),
			pinAreaMm2: z.number().positive(),
			boardMm: z.number(),
			filletsMm3: z.number().default(0),
			metalShare: z.number().default(0.51)
		}),
		example: { holeMm: 1, pinAreaMm2: 0.3848, boardMm: 1.6, filletsMm3: 0.25 },
		run: (p) => pinInPaste(p.holeMm, p.pinAreaMm2, p.boardMm, p.filletsMm3, p.metalShare)
	}),
	calculation({
		name: 'opening_rule',
		summary: 'What a plant’s rule makes of one opening: reduced, home plate, rounded square, or windows.',
		input: z.object({ outline: z.array(point).min(3).max(5000), rule: openingRule, towards: point.nullable().default(null) }),
		example: {
			outline: [
				{ x: 0, y: 0 },
				{ x: 5, y: 0 },
				{ x: 5, y: 5 },
				{ x: 0, y: 5 }
			],
			rule: { kind: 'windows', coverage: 0.6, marginMm: 0.1, overMm: 3 }
		},
		run: ({ outline, rule, towards }) => ({ frame: frameOf(outline), outlines: applyRule(outline, rule, towards) })
	}),
	calculation({
		name: 'write_paste_layer',
		summary: 'A paste layer in RS-274X from openings, which reads back to the same openings.',
		input: z.object({
			gerber: z.string().min(1).max(60_000_000),
			side: z.enum(['top', 'bottom']).default('top'),
			name: z.string().max(200).default('paste')
		}),
		example: { gerber: GERBER },
		run: ({ gerber, side, name }) => ({ gerber: writePasteLayer(readPasteLayer(gerber).apertures, { side, name }) })
	})
];
