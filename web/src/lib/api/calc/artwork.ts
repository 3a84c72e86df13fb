import {
	chooseAngleRule,
	cornerFiducials,
	defaultPanel,
	guessCircuits,
	looksAPanel,
	panelGeometry,
	pinsFromNetlist,
	readBom,
	openingsOnNoPaste,
	readLayer,
	readNetlist,
	readOutlineLayer,
	readPasteLayer,
	readPositions,
	reconcile,
	registerToArtwork
} from '@keen-relay/core/artwork';
import { governingWidth } from '@keen-relay/core/geometry';
import {
	checkFact,
	classificationC,
	PACKAGE_FIELDS,
	packageSheet,
	pinsOfPart,
	readPackage,
	slotsForTape,
	usualSupply,
	type PackageField
} from '@keen-relay/core/parts';
import { boardSideAreaMm2, checkStencil, forecastOpening, MOST_TAPER_UM, transfer, WALLS } from '@keen-relay/core/stencil';
import { z } from 'zod';
import { panelLayout } from '../bodies.ts';
import { compareRevisions } from '@keen-relay/core/boards';
import { calculation } from './calculation.ts';
import { opening } from './opening.ts';

const text = z.string().min(1).max(60_000_000);
const wall = z.enum(WALLS).default('laser');
const point = z.object({ x: z.number(), y: z.number() });
const board = z.object({ widthMm: z.number().positive(), heightMm: z.number().positive() });
const field = z.enum(Object.keys(PACKAGE_FIELDS) as [PackageField, ...PackageField[]]);
const unit = z.enum(['mm', 'mil', 'inch', 'um']).nullable().default(null);
const decimal = z.enum(['.', ',']).nullable().default(null);

const GERBER = [
	'%FSLAX34Y34*%',
	'%MOMM*%',
	'%ADD10R,0.5X0.54*%',
	'D10*',
	...[
		[80000, 60000],
		[210000, 95000],
		[300000, 150000],
		[90000, 220000]
	].flatMap(([x, y]) => [`X${x! - 4800}Y${y}D03*`, `X${x! + 4800}Y${y}D03*`]),
	'M02*'
].join('\n');
const COPPER = `%TF.FileFunction,Copper,L1,Top*%\n%FSLAX34Y34*%\n%MOMM*%\n%TA.AperFunction,TestPad*%\n%ADD10C,1.0*%\nD10*\nX0Y0D03*\nM02*\n`;
const POSITIONS = [
	'Ref,X (mm),Y (mm),Rot,Side,Package',
	'R1,8,6,0,T,RESC1005X40N',
	'R2,21,9.5,0,T,RESC1005X40N',
	'R3,30,15,0,T,RESC1005X40N',
	'R4,9,22,0,T,RESC1005X40N'
].join('\n');
const BOM = 'Part number,Designators,Quantity,Package\nR-10K,R1-R4,4,RESC1005X40N\n';
const NETLIST = 'P  UNITS CUST 1\n327GND              R1    -1          A01X+007520Y+006000X0500Y0540R000 S2\n999\n';

const revisedPart = z.object({
	refDes: z.string().min(1),
	partNumber: z.string().default(''),
	value: z.string().default(''),
	packageName: z.string().default(''),
	side: z.enum(['top', 'bottom']).default('top'),
	xMm: z.number(),
	yMm: z.number(),
	rotationDeg: z.number().default(0),
	fitted: z.boolean().default(true)
});

export const artwork = [
	calculation({
		name: 'board_revisions',
		summary:
			'What has changed from one revision of a board to the next, by designator: value, part number, turned, package, side, swapped, moved, added, removed; another origin or turn of the whole board is taken out first.',
		input: z.object({ before: z.array(revisedPart).max(5_000), after: z.array(revisedPart).max(5_000) }),
		example: {
			before: [
				{ refDes: 'R1', partNumber: 'FB-R-10K', value: '10k', xMm: 5, yMm: 5 },
				{ refDes: 'R2', partNumber: 'FB-R-10K', value: '10k', xMm: 15, yMm: 5 }
			],
			after: [
				{ refDes: 'R1', partNumber: 'FB-R-12K', value: '12k', xMm: 5, yMm: 5 },
				{ refDes: 'R2', partNumber: 'FB-R-10K', value: '10k', xMm: 15, yMm: 5 }
			]
		},
		run: ({ before, after }) => compareRevisions(before, after)
	}),
	calculation({
		name: 'paste_layer',
		summary: 'Openings of a paste layer in RS-274X: area, perimeter, governing width, centre; issues by line.',
		input: z.object({ gerber: text }),
		example: { gerber: GERBER },
		run: ({ gerber }) => readPasteLayer(gerber)
	}),
	calculation({
		name: 'outline',
		summary: 'Box of a board from its outline layer, mm.',
		input: z.object({ gerber: text }),
		example: { gerber: '%FSLAX34Y34*%\n%MOMM*%\n%ADD10C,0.1*%\nD10*\nX0Y0D02*\nX500000D01*\nY300000D01*\nX0D01*\nY0D01*\nM02*' },
		run: ({ gerber }) => readOutlineLayer(gerber)
	}),
	calculation({
		name: 'layer',
		summary: 'What another layer is for, and its outlines, mm.',
		input: z.object({ gerber: text, name: z.string().max(200) }),
		example: { gerber: GERBER, name: 'board-paste-top.gbr' },
		run: ({ gerber, name }) => readLayer(gerber, name)
	}),
	calculation({
		name: 'openings_on_no_paste',
		summary:
			'Openings of a paste layer that lie on pads of a copper layer which get no paste (fiducials, test pads, vias), by its X2 attributes.',
		input: z.object({ paste: text, copper: text }),
		example: { paste: GERBER, copper: COPPER },
		run: ({ paste, copper }) => {
			const { noPaste } = readLayer(copper, 'copper');
			return { pads: noPaste, pairs: openingsOnNoPaste(readPasteLayer(paste).apertures, noPaste) };
		}
	}),
	calculation({
		name: 'governing_width',
		summary: 'Twice the smallest inset at which a shape splits or vanishes, mm.',
		input: z.object({ outline: z.array(point).min(3).max(5000), holes: z.array(z.array(point).min(3)).default([]) }),
		example: {
			outline: [
				{ x: 0, y: 0 },
				{ x: 2, y: 0 },
				{ x: 2, y: 0.5 },
				{ x: 0, y: 0.5 }
			]
		},
		run: (area) => ({ widthMm: governingWidth(area) })
	}),
	calculation({
		name: 'positions',
		summary: 'Rows of a position (XY) file, mm and degrees; a bad cell rejects its row with line, field and value.',
		input: z.object({ text, unit, decimal, side: z.enum(['top', 'bottom']).nullable().default(null) }),
		example: { text: POSITIONS },
		run: (given) => readPositions(given.text, given.unit, given.decimal, given.side)
	}),
	calculation({
		name: 'bill_of_materials',
		summary: 'Items of a parts list with their designators; what is not fitted; disagreements of quantity.',
		input: z.object({ text }),
		example: { text: BOM },
		run: (given) => readBom(given.text)
	}),
	calculation({
		name: 'netlist',
		summary: 'Pads of an IPC-D-356A netlist: part, pin, net, side, place in mm.',
		input: z.object({ text }),
		example: { text: NETLIST },
		run: (given) => readNetlist(given.text)
	}),
	calculation({
		name: 'pins',
		summary: 'Pin of each opening of a paste layer from a netlist; null where it has none.',
		input: z.object({ gerber: text, netlist: text, side: z.enum(['top', 'bottom']).default('top') }),
		example: { gerber: GERBER, netlist: NETLIST },
		run: ({ gerber, netlist, side }) => ({ pins: pinsFromNetlist(readPasteLayer(gerber).apertures, readNetlist(netlist), side) })
	}),
	calculation({
		name: 'register_positions',
		summary: 'Unit, mirror and moved origin of a position file, by voting against the openings.',
		input: z.object({ gerber: text, positions: text, units: z.array(z.enum(['mm', 'mil', 'inch'])).default(['mm', 'mil', 'inch']) }),
		example: { gerber: GERBER, positions: POSITIONS },
		run: ({ gerber, positions, units }) =>
			registerToArtwork(
				readPositions(positions, null, null, 'top').rows,
				readPasteLayer(gerber).apertures.map((a) => a.centre),
				units
			)
	}),
	calculation({
		name: 'reconcile',
		summary: 'Parts list, positions and paste layer of one side joined: parts, the part of each opening, every disagreement.',
		input: z.object({ gerber: text, positions: text, billOfMaterials: text, side: z.enum(['top', 'bottom']).nullable().default(null) }),
		example: { gerber: GERBER, positions: POSITIONS, billOfMaterials: BOM },
		run: ({ gerber, positions, billOfMaterials, side }) => {
			const { rows } = readPositions(positions, null, null, side);
			return reconcile(
				rows.filter((row) => row.side === 'top'),
				readBom(billOfMaterials, new Set(rows.map((row) => row.refDes))).items,
				readPasteLayer(gerber).apertures,
				readPackage,
				rows.filter((row) => row.side === 'bottom')
			);
		}
	}),
	calculation({
		name: 'circuits',
		summary: 'Whether a paste layer is one circuit or a panel, where its circuits stand and how they are turned.',
		input: z.object({ gerber: text }),
		example: { gerber: GERBER },
		run: ({ gerber }) => guessCircuits(readPasteLayer(gerber).apertures)
	}),
	calculation({
		name: 'pins_from_land_pattern',
		summary:
			'Pins of the openings under a part from a confirmed land pattern: around the middle, or a grid of balls; null where it does not fit.',
		input: z.object({
			part: z.object({ xMm: z.number(), yMm: z.number(), rotationDeg: z.number() }),
			openings: z.array(point).max(5000),
			leads: z.int().positive(),
			pinOneDeg: z.number().min(0).max(360),
			grid: z.boolean().default(false)
		}),
		example: {
			part: { xMm: 10, yMm: 20, rotationDeg: 0 },
			openings: [
				{ x: 9.6, y: 20.4 },
				{ x: 10.4, y: 20.4 },
				{ x: 9.6, y: 19.6 },
				{ x: 10.4, y: 19.6 }
			],
			leads: 4,
			pinOneDeg: 135,
			grid: true
		},
		run: ({ part, openings, ...pattern }) => ({
			pins: pinsOfPart(
				{ ...part, apertures: openings.map((_, i) => i) },
				openings.map((centre) => ({ centre })),
				pattern
			)
		})
	}),
	calculation({
		name: 'bottom_angle_rule',
		summary: 'How a source writes the angles of bottom parts, by which openings lie under their bodies.',
		input: z.object({
			parts: z.array(z.object({ xMm: z.number(), yMm: z.number(), rotationDeg: z.number(), lengthMm: z.number(), widthMm: z.number() })),
			openings: z.array(point)
		}),
		example: {
			parts: [{ xMm: 10, yMm: 10, rotationDeg: 30, lengthMm: 4, widthMm: 1 }],
			openings: [
				{ x: 11.47, y: 10.85 },
				{ x: 8.53, y: 9.15 }
			]
		},
		run: ({ parts, openings }) => chooseAngleRule(parts, openings)
	}),
	calculation({
		name: 'panel',
		summary:
			'Size of a panel, the place and angle of each circuit, and its marks, as the machine sees the side; mm, degrees. `looks`: marks that a placer reads a panel.',
		input: z.object({ board, layout: panelLayout, side: z.enum(['top', 'bottom']).default('top') }),
		example: { board: { widthMm: 52, heightMm: 38 }, layout: defaultPanel({ widthMm: 52, heightMm: 38 }, 2, 2) },
		run: ({ board: size, layout: { free, ...layout }, side }) => {
			const panel = panelGeometry(size, free ? { ...layout, free } : layout, side);
			return { ...panel, looks: looksAPanel(panel) };
		}
	}),
	calculation({
		name: 'corner_fiducials',
		summary: 'Three marks in the rails of a panel, one further in so that a panel loaded backwards is seen; mm.',
		input: z.object({ panel: board, railMm: z.number().nonnegative() }),
		example: { panel: { widthMm: 118, heightMm: 90 }, railMm: 6 },
		run: ({ panel, railMm }) => ({ fiducials: cornerFiducials(panel, railMm) })
	}),
	calculation({
		name: 'package',
		summary: 'What a package name says of body, mass, leads, pitch and classification temperature, each with its source or "unknown".',
		input: z.object({
			name: z.string().max(80),
			entered: z.partialRecord(field, z.object({ value: z.number().nullable(), source: z.string() })).default({})
		}),
		example: { name: 'QFN50P700X700X90-49' },
		run: ({ name, entered }) => {
			for (const [key, fact] of Object.entries(entered)) checkFact(key as PackageField, fact.value, fact.source);
			return { kind: readPackage(name).kind, facts: packageSheet(name, entered), supply: usualSupply(readPackage(name)) };
		}
	}),
	calculation({
		name: 'classification_temperature',
		summary: 'Classification temperature of a lead-free body, °C (J-STD-020 table, value from memory).',
		input: z.object({ heightMm: z.number().positive(), volumeMm3: z.number().positive() }),
		example: { heightMm: 0.9, volumeMm3: 44 },
		run: ({ heightMm, volumeMm3 }) => ({ classificationC: classificationC(heightMm, volumeMm3) })
	}),
	calculation({
		name: 'slots_for_tape',
		summary: 'Feeder slots that a tape takes.',
		input: z.object({
			tapeMm: z.number().positive(),
			slotPitchMm: z.number().positive(),
			bodyExtraMm: z.number().nonnegative().default(4)
		}),
		example: { tapeMm: 16, slotPitchMm: 14 },
		run: ({ tapeMm, slotPitchMm, bodyExtraMm }) => ({ slots: slotsForTape(tapeMm, slotPitchMm, bodyExtraMm) })
	}),
	calculation({
		name: 'aperture',
		summary: 'Area ratio, aspect ratio, volume and what is delivered of one opening at a foil.',
		input: z.object({ opening, foilMm: z.number(), wall }),
		example: { opening: { areaMm2: 0.27, perimeterMm: 2.08, widthMm: 0.5, lengthMm: 0.54 }, foilMm: 0.12 },
		run: ({ opening: o, foilMm, wall: w }) => forecastOpening(o, foilMm, w)
	}),
	calculation({
		name: 'wall_taper',
		summary: 'Area of an opening at the board side, where laser-cut walls let it widen, and the volume it holds: the mean of both.',
		input: z.object({ opening, foilMm: z.number(), taperUm: z.number().min(0).max(MOST_TAPER_UM) }),
		example: { opening: { areaMm2: 0.5, perimeterMm: 3, widthMm: 0.5, lengthMm: 1 }, foilMm: 0.1, taperUm: 8 },
		run: ({ opening: o, foilMm, taperUm }) => {
			const wider = { ...o, boardSideAreaMm2: boardSideAreaMm2(o, taperUm) };
			return { boardSideAreaMm2: wider.boardSideAreaMm2, volumeNl: forecastOpening(wider, foilMm).volumeNl };
		}
	}),
	calculation({
		name: 'transfer',
		summary: 'Share of an opening’s volume that is delivered and its spread, by area ratio (model).',
		input: z.object({ areaRatio: z.number().positive(), wall }),
		example: { areaRatio: 0.66 },
		run: ({ areaRatio, wall: w }) => transfer(areaRatio, w)
	}),
	calculation({
		name: 'stencil',
		summary: 'Every opening of a stencil at one foil: ratios, ranking, which stock foils work, the verdict.',
		input: z.object({ openings: z.array(opening.extend({ name: z.string() })).min(1), foilMm: z.number(), wall }),
		example: {
			openings: [
				{ name: 'R1 pin 1', areaMm2: 0.27, perimeterMm: 2.08, widthMm: 0.5, lengthMm: 0.54 },
				{ name: 'U2 opening 7', areaMm2: 0.0483, perimeterMm: 0.779, widthMm: 0.248, lengthMm: 0.248 }
			],
			foilMm: 0.1
		},
		run: ({ openings, foilMm, wall: w }) => checkStencil(openings, foilMm, w)
	})
];
