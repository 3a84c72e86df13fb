import { panelGeometry } from '@keen-relay/core/artwork';
import { dealParts, ovenHeadwayS, planLine } from '@keen-relay/core/balance';
import { layoutBank, panelsLeft, piecesLeft } from '@keen-relay/core/feeders';
import { judgePace, lineTimes } from '@keen-relay/core/line';
import { axisTimeS, gantryCycle, judgePicks } from '@keen-relay/core/placement';
import { z } from 'zod';
import { axis, placerData } from '$lib/stations/place.ts';
import { panelLayout } from '../bodies.ts';
import { calculation } from './calculation.ts';

const point = z.object({ x: z.number(), y: z.number() });
const AXIS = { vMmS: 1500, aMmS2: 15000 };
const PLACER = {
	name: 'Place 1',
	slots: 60,
	slotPitchMm: 14,
	cameraSlot: 24,
	onTheFly: false,
	spindles: 6,
	headPitchMm: 28,
	x: AXIS,
	y: AXIS,
	pickS: 0.06,
	placeS: 0.07,
	cameraS: 0.28,
	transferS: 3.5,
	fiducialS: 0.4,
	accuracyUm: 25,
	accuracySigmas: 3,
	smallestMm: 0.3,
	largestMm: 55,
	tallestMm: 20,
	finestPitchMm: 0.3,
	trays: true
};
const part = z.object({
	refDes: z.string(),
	partNumber: z.string(),
	value: z.string().default(''),
	packageName: z.string(),
	xMm: z.number(),
	yMm: z.number(),
	rotationDeg: z.number(),
	fitted: z.boolean().default(true)
});

export const line = [
	calculation({
		name: 'line_pace',
		summary: 'Pace of a line, judged once: what its stations reported counts before what was planned; the slowest sets it.',
		input: z.object({
			stages: z
				.array(
					z.object({
						name: z.string(),
						plannedS: z.number().positive().nullable().default(null),
						cyclesS: z.array(z.number().positive()).default([])
					})
				)
				.min(1),
			partTypesByHand: z.int().nonnegative().default(0)
		}),
		example: {
			stages: [
				{ name: 'Print', plannedS: 19, cyclesS: [18.4, 18.9, 27.6, 18.5, 18.8] },
				{ name: 'Place 1', plannedS: 44 }
			]
		},
		run: ({ stages, partTypesByHand }) => judgePace(stages, partTypesByHand)
	}),
	calculation({
		name: 'line_recurrence',
		summary:
			'How panels go through a line, exactly: machines that keep a panel until there is room after them, and ovens as belts that never stop; blocked, starved, lead and panels on the line.',
		input: z.object({
			stages: z
				.array(
					z.discriminatedUnion('kind', [
						z.object({
							kind: z.literal('machine'),
							name: z.string(),
							serviceS: z.array(z.number()).min(1).max(10_000),
							placesBefore: z.number().default(0)
						}),
						z.object({
							kind: z.literal('belt'),
							name: z.string(),
							headwayS: z.number(),
							transitS: z.number(),
							placesBefore: z.number().default(0),
							gate: z.enum(['blind', 'safe']).default('safe')
						})
					])
				)
				.min(1)
				.max(30)
		}),
		example: {
			stages: [
				{ kind: 'machine', name: 'Place', serviceS: [20, 20, 20, 20, 20, 20] },
				{ kind: 'belt', name: 'Oven', headwayS: 15, transitS: 60, placesBefore: 1 },
				{ kind: 'machine', name: 'Optical', serviceS: [18, 18, 80, 18, 18, 18], placesBefore: 4 }
			]
		},
		run: ({ stages }) => lineTimes(stages)
	}),
	calculation({
		name: 'feeder_layout',
		summary: 'A slot for each feeder of a bank, the busiest near the camera; cost in picks·mm a panel.',
		input: z.object({
			feeders: z.array(z.object({ id: z.string(), picks: z.number().nonnegative(), slots: z.int().min(1) })).min(1),
			bank: z.object({ slots: z.int().min(1), pitchMm: z.number().positive(), cameraSlot: z.number().positive() })
		}),
		example: {
			feeders: [
				{ id: 'R-10K', picks: 40, slots: 1 },
				{ id: 'U-1', picks: 2, slots: 2 }
			],
			bank: { slots: 20, pitchMm: 14, cameraSlot: 10 }
		},
		run: ({ feeders, bank }) => layoutBank(feeders, bank)
	}),
	calculation({
		name: 'reel',
		summary: 'Pieces that a reel still holds and whole panels that it still feeds.',
		input: z.object({
			loadedPieces: z.number().nonnegative(),
			panelsSince: z.number().nonnegative(),
			lostPieces: z.number().nonnegative().default(0),
			piecesPerPanel: z.number().positive(),
			lossShare: z.number().min(0).max(0.5).default(0.005)
		}),
		example: { loadedPieces: 5000, panelsSince: 30, lostPieces: 12, piecesPerPanel: 40 },
		run: ({ loadedPieces, panelsSince, lostPieces, piecesPerPanel, lossShare }) => {
			const pieces = piecesLeft({ loaded: loadedPieces, panels: panelsSince, lost: lostPieces }, piecesPerPanel);
			return { pieces, panels: panelsLeft(pieces, piecesPerPanel, lossShare) };
		}
	}),
	calculation({
		name: 'axis_time',
		summary: 'Time of one move with a trapezoidal speed profile, s.',
		input: z.object({ distanceMm: z.number(), axis }),
		example: { distanceMm: 100, axis: { vMmS: 1000, aMmS2: 10000 } },
		run: ({ distanceMm, axis: a }) => ({ timeS: axisTimeS(distanceMm, a) })
	}),
	calculation({
		name: 'gantry_cycle',
		summary: 'One cycle of a gantry: strokes, camera, places; seconds by kind.',
		input: z.object({
			machine: placerData.extend({ name: z.string() }),
			start: point,
			cycle: z.object({
				strokes: z.array(z.object({ spindle: z.int().nonnegative(), at: point })),
				camera: point,
				places: z.array(z.object({ spindle: z.int().nonnegative(), at: point }))
			})
		}),
		example: {
			machine: PLACER,
			start: { x: 0, y: 0 },
			cycle: {
				strokes: [{ spindle: 0, at: { x: 100, y: 0 } }],
				camera: { x: 300, y: 40 },
				places: [{ spindle: 0, at: { x: 320, y: 200 } }]
			}
		},
		run: ({ machine, start, cycle }) => gantryCycle(machine, start, cycle)
	}),
	calculation({
		name: 'deal',
		summary: 'Part types dealt to machines in series so that the slowest is as fast as can be found; says whether it is proven.',
		input: z.object({
			parts: z
				.array(
					z.object({
						id: z.string(),
						count: z.number().positive(),
						slots: z.array(z.int().min(1)).min(1),
						secondsEach: z.array(z.number().positive().nullable()).min(1)
					})
				)
				.min(1)
				.max(400),
			machines: z
				.array(z.object({ slots: z.int().min(1), fixedS: z.number().nonnegative() }))
				.min(1)
				.max(12),
			seed: z.int().default(1)
		}),
		example: {
			parts: [
				{ id: 'R-10K', count: 40, slots: [1, 1], secondsEach: [0.1, 0.25] },
				{ id: 'C-100N', count: 36, slots: [1, 1], secondsEach: [0.1, 0.25] },
				{ id: 'U-1', count: 4, slots: [2, 2], secondsEach: [null, 0.6] }
			],
			machines: [
				{ slots: 20, fixedS: 3 },
				{ slots: 20, fixedS: 3.5 }
			]
		},
		run: ({ parts, machines, seed }) => dealParts(parts, machines, seed)
	}),
	calculation({
		name: 'line_plan',
		summary: 'Parts of one circuit dealt to the placers of a line: load lists in slot order, seconds a panel, what is left to hand.',
		input: z.object({
			parts: z.array(part).min(1).max(5000),
			board: z.object({ widthMm: z.number().positive(), heightMm: z.number().positive() }),
			panel: panelLayout,
			side: z.enum(['top', 'bottom']).default('top'),
			machines: z
				.array(placerData.extend({ name: z.string() }))
				.min(1)
				.max(6)
		}),
		example: {
			parts: [
				{ refDes: 'R1', partNumber: 'R-10K', packageName: 'RESC1005X40N', xMm: 8, yMm: 6, rotationDeg: 0 },
				{ refDes: 'R2', partNumber: 'R-10K', packageName: 'RESC1005X40N', xMm: 21, yMm: 9.5, rotationDeg: 90 }
			],
			board: { widthMm: 40, heightMm: 30 },
			panel: {
				rows: 2,
				columns: 2,
				pitchXMm: 42,
				pitchYMm: 32,
				railMm: 5,
				fiducials: [
					{ x: 2.5, y: 2.5 },
					{ x: 80, y: 60 }
				]
			},
			machines: [PLACER]
		},
		run: ({ parts, board, panel: { free, ...layout }, side, machines }) =>
			planLine(
				parts.map((p) => ({ ...p, apertures: [] })),
				panelGeometry(board, free ? { ...layout, free } : layout, side),
				machines
			)
	}),
	calculation({
		name: 'oven_headway',
		summary: 'Seconds a panel at the oven: (panel + gap) / belt speed.',
		input: z.object({ panelLengthMm: z.number().positive(), gapMm: z.number().nonnegative(), beltCmPerMin: z.number().positive() }),
		example: { panelLengthMm: 300, gapMm: 60, beltCmPerMin: 75 },
		run: ({ panelLengthMm, gapMm, beltCmPerMin }) => ({ secondsPerPanel: ovenHeadwayS(panelLengthMm, gapMm, beltCmPerMin) })
	}),
	calculation({
		name: 'takt',
		summary: 'Takt of a line: its slowest stage, who sets it, and what would not help.',
		input: z.object({
			stages: z.array(z.object({ name: z.string(), secondsPerPanel: z.number().positive() })).min(1),
			partTypesByHand: z.int().nonnegative().default(0)
		}),
		example: {
			stages: [
				{ name: 'Print', secondsPerPanel: 19 },
				{ name: 'Place 1', secondsPerPanel: 44 }
			]
		},
		run: ({ stages, partTypesByHand }) =>
			judgePace(
				stages.map(({ name, secondsPerPanel }) => ({ name, plannedS: secondsPerPanel, cyclesS: [] })),
				partTypesByHand
			).verdict
	}),
	calculation({
		name: 'picks',
		summary: 'How the picks of a placer go in its latest panels.',
		input: z.object({ panels: z.int().nonnegative(), lostPicks: z.int().nonnegative(), placements: z.int().nonnegative() }),
		example: { panels: 30, lostPicks: 14, placements: 576 },
		run: ({ panels, lostPicks, placements }) => judgePicks({ panels, lost: lostPicks }, placements)
	})
];
