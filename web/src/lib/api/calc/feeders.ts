import {
	dockFeeder,
	lossOf,
	magazineEnds,
	piecesInPath,
	reelsOfPanel,
	slotEnds,
	reelPieces,
	spliceReel,
	spliceRoute,
	stopClockMs,
	tapeThicknessMm,
	tieReel
} from '@keen-relay/core/feeders';
import { bakeHours, floorLife, MOISTURE_LEVELS, readValue, VALUE_KINDS } from '@keen-relay/core/parts';
import { z } from 'zod';
import { calculation } from './calculation.ts';

const quadrant = z
	.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)])
	.nullable()
	.default(null);
const name = z.string().trim().min(1).max(60);
const setUp = z.object({
	slots: z.int().min(1).max(500),
	needs: z
		.array(
			z.object({
				slot: z.int(),
				part: name,
				alternates: z.array(z.object({ part: name, approved: z.boolean() })).default([]),
				tapeMm: z.number().positive(),
				pitchMm: z.number().positive(),
				quadrant,
				value: z.object({ nominal: z.number().positive(), tolerancePct: z.number().nonnegative() }).nullable().default(null)
			})
		)
		.max(500),
	feeders: z
		.array(
			z.object({
				id: name,
				tapeMm: z.number().positive(),
				pitchMm: z.number().positive(),
				reel: name.nullable().default(null),
				outOfService: name.nullable().default(null)
			})
		)
		.max(2000),
	reels: z
		.array(
			z.object({
				id: name,
				part: name,
				tapeMm: z.number().positive(),
				pieces: z.int().nonnegative(),
				blocked: z.string().trim().min(1).max(200).nullable().default(null),
				quadrant,
				measured: z.number().nullable().default(null),
				floorLifeLeftH: z.number().nullable().default(null)
			})
		)
		.max(5000),
	runH: z.number().nonnegative().max(1000).default(0)
});

export const feeders = [
	calculation({
		name: 'feeder_scan',
		summary:
			'A scan at the feeders: a reel tied to a feeder, a feeder docked in a slot, a reel spliced. All codes that apply, the first in words.',
		input: z.object({
			scan: z.discriminatedUnion('what', [
				z.object({ what: z.literal('tie'), feeder: name, reel: name }),
				z.object({ what: z.literal('dock'), slot: z.int(), feeder: name }),
				z.object({ what: z.literal('splice'), slot: z.int(), feeder: name, reel: name })
			]),
			setUp
		}),
		example: {
			scan: { what: 'dock', slot: 12, feeder: 'F-1' },
			setUp: {
				slots: 60,
				needs: [
					{ slot: 12, part: 'R-10K', tapeMm: 8, pitchMm: 4 },
					{ slot: 14, part: 'D-SCH', tapeMm: 8, pitchMm: 4, quadrant: 1 }
				],
				feeders: [{ id: 'F-1', tapeMm: 8, pitchMm: 4, reel: 'L-3' }],
				reels: [{ id: 'L-3', part: 'D-SCH', tapeMm: 8, pieces: 2950, quadrant: 1 }],
				runH: 4
			}
		},
		run: ({ scan, setUp }) =>
			scan.what === 'tie'
				? tieReel(setUp, scan.feeder, scan.reel)
				: scan.what === 'dock'
					? dockFeeder(setUp, scan.slot, scan.feeder)
					: spliceReel(setUp, scan.slot, scan.feeder, scan.reel)
	}),
	calculation({
		name: 'reel_pieces',
		summary: 'Pieces on a reel by how far it is wound, ± 5 %; and the thickness of its tape from a full reel whose count is known.',
		input: z.object({
			outerMm: z.number(),
			hubMm: z.number(),
			tapeMm: z.number(),
			pitchMm: z.number(),
			full: z.object({ outerMm: z.number(), pieces: z.number() }).optional()
		}),
		example: { outerMm: 140, hubMm: 60, tapeMm: 0.95, pitchMm: 4, full: { outerMm: 178, pieces: 5000 } },
		run: ({ outerMm, hubMm, tapeMm, pitchMm, full }) => {
			const thicknessMm = full ? tapeThicknessMm(full.outerMm, hubMm, full.pieces, pitchMm) : tapeMm;
			return { pieces: reelPieces(outerMm, hubMm, thicknessMm, pitchMm), tapeMm: thicknessMm };
		}
	}),
	calculation({
		name: 'splice_route',
		summary: 'The round of one technician over the splices that are due, with the shortest stop of the line; up to twelve in every order.',
		input: z.object({
			splices: z
				.array(
					z.object({
						name,
						xM: z.number(),
						yM: z.number().default(0),
						releaseS: z.number().nonnegative().default(0),
						deadlineS: z.number(),
						serviceS: z.number().nonnegative()
					})
				)
				.max(60),
			from: z.object({ xM: z.number(), yM: z.number() }).default({ xM: 0, yM: 0 }),
			walkMPerS: z.number().default(1)
		}),
		example: {
			splices: [
				{ name: 'Place 1, slot 14', xM: 2, deadlineS: 300, serviceS: 60 },
				{ name: 'Place 2, slot 3', xM: 9, deadlineS: 240, serviceS: 75 }
			]
		},
		run: ({ splices, from, walkMPerS }) => spliceRoute(splices, from, walkMPerS)
	}),
	calculation({
		name: 'slot_ends',
		summary: 'When each slot of a line runs out, with the range that its lost picks leave open; what outlasts the run is left out.',
		input: z.object({
			slots: z
				.array(
					z.object({
						machine: name,
						slot: z.int(),
						partNumber: name,
						pieces: z.number().nonnegative(),
						perPanel: z.number().positive(),
						picks: z.number().nonnegative().default(0),
						lost: z.number().nonnegative().default(0),
						xM: z.number().default(0)
					})
				)
				.max(2000),
			nowMs: z.number(),
			taktS: z.number().positive(),
			panelsToGo: z.number().nonnegative(),
			breaks: z
				.array(z.object({ fromMs: z.number(), toMs: z.number() }))
				.max(100)
				.default([])
		}),
		example: {
			slots: [{ machine: 'Place 1', slot: 14, partNumber: 'R-10K', pieces: 1500, perPanel: 16 }],
			nowMs: 0,
			taktS: 40,
			panelsToGo: 400
		},
		run: ({ slots, ...clock }) => ({
			ends: slotEnds(slots, clock).map((end) => ({ ...end, loss: lossOf(end.picks, end.lost) }))
		})
	}),
	calculation({
		name: 'magazine_ends',
		summary: 'When a loader is empty or an unloader full by the clock, breaks of the line left out.',
		input: z.object({
			magazines: z.array(z.object({ end: z.enum(['loader', 'unloader']), panels: z.number(), moved: z.number() })).max(10),
			nowMs: z.number(),
			taktS: z.number().positive(),
			toLoad: z.number().nonnegative(),
			toUnload: z.number().nonnegative(),
			breaks: z
				.array(z.object({ fromMs: z.number(), toMs: z.number() }))
				.max(100)
				.default([])
		}),
		example: { magazines: [{ end: 'loader', panels: 50, moved: 10 }], nowMs: 0, taktS: 40, toLoad: 100, toUnload: 110 },
		run: ({ magazines, ...clock }) => ({ ends: magazineEnds(magazines, clock) })
	}),
	calculation({
		name: 'reels_of_panel',
		summary:
			'Which reels fed a panel in a slot: after a splice the one before goes on until its tape has run through; and the pieces in that tape.',
		input: z.object({
			loads: z.array(z.object({ reel: name, spliced: z.boolean(), panelsSince: z.number().nonnegative() })).max(200),
			perPanel: z.int().positive(),
			pathMm: z.number(),
			pitchMm: z.number()
		}),
		example: {
			loads: [
				{ reel: 'R-1', spliced: false, panelsSince: 20 },
				{ reel: 'R-2', spliced: true, panelsSince: 2 }
			],
			perPanel: 16,
			pathMm: 300,
			pitchMm: 4
		},
		run: ({ loads, perPanel, pathMm, pitchMm }) => {
			const inPath = piecesInPath(pathMm, pitchMm);
			return { inPath, reels: reelsOfPanel(loads, perPanel, inPath) };
		}
	}),
	calculation({
		name: 'floor_life',
		summary: 'The clock of a moisture-sensitive part: what it used in air, what is left, and whether only a bake brings it back.',
		input: z.object({
			level: z.enum(MOISTURE_LEVELS),
			stays: z
				.array(
					z.discriminatedUnion('where', [
						z.object({ where: z.literal('air'), hours: z.number() }),
						z.object({ where: z.literal('cabinet'), hours: z.number(), rhPct: z.number() }),
						z.object({ where: z.literal('bag'), hours: z.number(), cardPct: z.number().nullable().default(null) }),
						z.object({ where: z.literal('bake'), hours: z.number() })
					])
				)
				.max(2000),
			labelH: z.number().nullable().default(null)
		}),
		example: {
			level: '3',
			stays: [
				{ where: 'air', hours: 11 },
				{ where: 'cabinet', hours: 55, rhPct: 8 },
				{ where: 'air', hours: 100 }
			]
		},
		run: ({ level, stays, labelH }) => floorLife(level, stays, labelH)
	}),
	calculation({
		name: 'bake_hours',
		summary:
			'How long a moisture-sensitive part is baked at 125 °C, by level, body thickness and hours past its floor life (values from memory).',
		input: z.object({ level: z.enum(MOISTURE_LEVELS), bodyMm: z.number(), overH: z.number() }),
		example: { level: '3', bodyMm: 1.4, overH: 20 },
		run: ({ level, bodyMm, overH }) => ({ hoursAt125C: bakeHours(level, bodyMm, overH) })
	}),
	calculation({
		name: 'part_value',
		summary: 'The value of a part as bills write it, 4k7, R47, 2,2µF, 104, in ohm, farad or henry; or why it is compared as text.',
		input: z.object({ texts: z.array(z.string().max(80)).max(5000), kind: z.enum(VALUE_KINDS) }),
		example: { texts: ['4k7', 'R47', '100 Ω'], kind: 'R' },
		run: ({ texts, kind }) => ({ values: texts.map((text) => readValue(text, kind)) })
	}),
	calculation({
		name: 'stop_clock',
		summary: 'When a reel that feeds so many panels stops its machine, breaks of the line left out.',
		input: z.object({
			from: z.iso.datetime({ offset: true }),
			panels: z.number(),
			taktS: z.number(),
			breaks: z
				.array(z.object({ from: z.iso.datetime({ offset: true }), to: z.iso.datetime({ offset: true }) }))
				.max(200)
				.default([])
		}),
		example: {
			from: '2026-05-11T10:30:00Z',
			panels: 91,
			taktS: 40,
			breaks: [{ from: '2026-05-11T11:30:00Z', to: '2026-05-11T12:00:00Z' }]
		},
		run: ({ from, panels, taktS, breaks }) => ({
			at: new Date(
				stopClockMs(
					Date.parse(from),
					panels,
					taktS,
					breaks.map((pause) => ({ fromMs: Date.parse(pause.from), toMs: Date.parse(pause.to) }))
				)
			).toISOString()
		})
	})
];
