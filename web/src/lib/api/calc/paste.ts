import {
	abandonSteps,
	afterPause,
	BEAD_MM,
	beadAge,
	beadDiameterMm,
	beadG,
	beadOf,
	beadResidence,
	checkJar,
	dewPointC,
	expiryEnd,
	JAR_EVENTS,
	jarC,
	jarStatus,
	jobsInARow,
	judgePowder,
	narrowestUm,
	panelsToTopUp,
	PASTE_RULES,
	pasteDensity,
	piecesOf,
	pickForRun,
	pickPaste,
	POWDER_TYPES,
	pullPlan,
	readSensorLog,
	reflowClock,
	jarMoves,
	judgePullPlan,
	refuses,
	safeOpeningC,
	suggestPowder,
	warmUp,
	type JarEvent,
	type JarFacts,
	type PasteRules
} from '@keen-relay/core/paste';
import { z } from 'zod';
import { calculation } from './calculation.ts';

const instant = z.iso.datetime({ offset: true });
const ms = (at: string) => Date.parse(at);
const jar = z.object({
	id: z.string().min(1).max(40),
	lot: z.string().max(60),
	paste: z.string().max(60),
	received: instant,
	/** Last instant before it is past its date. */
	expiry: instant,
	grams: z.number().positive(),
	inherits: z
		.object({
			openedAt: instant.nullable(),
			stencilH: z.number().nonnegative(),
			sealedOutH: z.number().nonnegative(),
			coldReturns: z.int().nonnegative()
		})
		.optional()
});
const jarEvent = z.object({
	kind: z.enum(JAR_EVENTS),
	at: instant,
	stirred: z.boolean().optional(),
	grams: z.number().nonnegative().optional(),
	airC: z.number().optional(),
	of: z.int().optional()
});
const rules = z.object(
	Object.fromEntries(Object.keys(PASTE_RULES).map((key) => [key, z.union([z.number(), z.boolean(), z.string()]).optional()]))
);
const rulesOf = (given: z.infer<typeof rules>) => ({ ...PASTE_RULES, ...given }) as PasteRules;

const factsOf = (j: z.infer<typeof jar>): JarFacts => ({
	id: j.id,
	lot: j.lot,
	paste: j.paste,
	receivedMs: ms(j.received),
	expiryMs: ms(j.expiry),
	grams: j.grams,
	...(j.inherits ? { inherits: { ...j.inherits, openedMs: j.inherits.openedAt ? ms(j.inherits.openedAt) : null } } : {})
});
const eventsOf = (events: z.infer<typeof jarEvent>[]): JarEvent[] =>
	events.map(({ at, kind, stirred, grams, airC, of }, id) => ({
		id,
		kind,
		atMs: ms(at),
		...(stirred === undefined ? {} : { stirred }),
		...(grams === undefined ? {} : { grams }),
		...(airC === undefined ? {} : { airC }),
		...(of === undefined ? {} : { of })
	}));

const jarAndEvents = z.object({ jar, events: z.array(jarEvent) });
const statusesOf = (jars: z.infer<typeof jarAndEvents>[], nowMs: number, r: PasteRules) =>
	jars.map(({ jar: j, events }) => ({ jar: factsOf(j), status: jarStatus(factsOf(j), eventsOf(events), nowMs, r) }));

const JAR = { id: 'J17', lot: 'L4', paste: 'P-305', received: '2026-05-01T08:00:00Z', expiry: '2026-05-31T22:00:00Z', grams: 500 };
const EVENTS = [
	{ kind: 'store_cold' as const, at: '2026-05-01T08:10:00Z' },
	{ kind: 'take_out' as const, at: '2026-05-11T05:00:00Z' },
	{ kind: 'open' as const, at: '2026-05-11T09:15:00Z', stirred: true }
];

/** A jar with what a line asks of it. */
const onLine = z.object({
	jar,
	events: z.array(jarEvent).max(2000),
	now: instant,
	wantedPaste: z.string().nullable().default(null),
	beadPaste: z.string().nullable().default(null),
	beadLots: z.array(z.string()).default([]),
	airC: z.number().nullable().default(null),
	rhPct: z.number().nullable().default(null),
	rules: rules.default({})
});

function askedOf(given: z.infer<typeof onLine>) {
	const [facts, now, r] = [factsOf(given.jar), ms(given.now), rulesOf(given.rules)];
	return {
		facts,
		now,
		r,
		status: jarStatus(facts, eventsOf(given.events), now, r),
		asked: {
			wanted: given.wantedPaste ? { paste: given.wantedPaste } : null,
			bead: given.beadPaste ? { paste: given.beadPaste, lots: given.beadLots } : null,
			air: given.airC !== null && given.rhPct !== null ? { airC: given.airC, rhPct: given.rhPct } : null
		}
	};
}

export const pasteCalculations = [
	calculation({
		name: 'jar_state',
		summary: 'State of a jar at an instant from its events: clocks, the governing one, remaining h, violations, next needed action.',
		input: z.object({ jar, events: z.array(jarEvent).max(2000), now: instant, rules: rules.default({}) }),
		example: { jar: JAR, events: EVENTS, now: '2026-05-11T13:30:00Z' },
		run: (given) => {
			checkJar(factsOf(given.jar));
			return jarStatus(factsOf(given.jar), eventsOf(given.events), ms(given.now), rulesOf(given.rules));
		}
	}),
	calculation({
		name: 'jar_request',
		summary: 'Why a jar may not do what is asked, and what would make each reason right; empty where it may.',
		input: onLine.extend({ kind: z.enum(JAR_EVENTS), pasteC: z.number().nullable().default(null) }),
		example: { jar: JAR, events: EVENTS.slice(0, 2), now: '2026-05-11T07:10:00Z', kind: 'open' },
		run: ({ kind, pasteC, ...given }) => {
			const { facts, status, asked, now, r } = askedOf(given);
			return { refusals: refuses(facts, status, { ...asked, kind, pasteC }, now, r) };
		}
	}),
	calculation({
		name: 'jar_moves',
		summary: 'What is sensible to do with a jar in its state, the usual first, and what speaks against each now.',
		input: onLine,
		example: { jar: JAR, events: EVENTS.slice(0, 2), now: '2026-05-11T09:30:00Z' },
		run: (given) => {
			const { facts, status, asked, now, r } = askedOf(given);
			return { state: status.state, moves: jarMoves(facts, status, asked, now, r) };
		}
	}),
	calculation({
		name: 'jar_expiry',
		summary: 'Last instant of a printed date: a day ends at midnight in the plant’s zone, a month with its last day.',
		input: z.object({ printed: z.string(), timeZone: z.string() }),
		example: { printed: '2026-05', timeZone: 'Europe/Berlin' },
		run: ({ printed, timeZone }) => ({ expiry: new Date(expiryEnd(printed, timeZone)).toISOString() })
	}),
	calculation({
		name: 'paste_pick',
		summary:
			'Jars for the next job, first expired first out: what to take, the shortfall, what leaves the fridge now, what is excluded and why.',
		input: z.object({
			jars: z.array(jarAndEvents).max(1000),
			paste: z.string(),
			needG: z.number().nonnegative(),
			jobH: z.number().positive(),
			start: instant,
			now: instant,
			rules: rules.default({})
		}),
		example: {
			jars: [{ jar: JAR, events: EVENTS }],
			paste: 'P-305',
			needG: 600,
			jobH: 5,
			start: '2026-05-11T14:00:00Z',
			now: '2026-05-11T13:30:00Z'
		},
		run: (given) => {
			const [now, r] = [ms(given.now), rulesOf(given.rules)];
			return pickPaste(statusesOf(given.jars, now, r), given.paste, given.needG, given.jobH, ms(given.start), now, r);
		}
	}),
	calculation({
		name: 'paste_pick_for_run',
		summary: 'Jars for a run that is on: how far what lies on its stencil serves, which jar follows when, what leaves the fridge by when.',
		input: z.object({
			jars: z.array(jarAndEvents).max(1000),
			paste: z.string(),
			panelsToGo: z.number().positive(),
			panelsPerH: z.number().positive(),
			gPerPanel: z.number().positive(),
			beadG: z.number().nonnegative(),
			own: z.array(z.string()),
			now: instant,
			rules: rules.default({})
		}),
		example: {
			jars: [{ jar: JAR, events: EVENTS }],
			paste: 'P-305',
			panelsToGo: 600,
			panelsPerH: 60,
			gPerPanel: 0.25,
			beadG: 180,
			own: [JAR.id],
			now: '2026-05-11T13:30:00Z'
		},
		run: ({ jars, now, rules: given, own, ...run }) => {
			const [nowMs, r] = [ms(now), rulesOf(given)];
			return pickForRun(statusesOf(jars, nowMs, r), { ...run, own: new Set(own) }, nowMs, r);
		}
	}),
	calculation({
		name: 'jobs_ahead',
		summary:
			'Jobs one after the other on a line, at their times or in the order given, with a change-over between two, and the pieces that the fridge plan serves them in.',
		input: z.object({
			jobs: z
				.array(
					z.object({
						number: z.string(),
						panels: z.int().positive(),
						gPerPanel: z.number().nonnegative(),
						cycleS: z.number().positive(),
						start: instant.nullable().default(null)
					})
				)
				.max(200),
			from: instant,
			changeOverMin: z.number().nonnegative().default(30)
		}),
		example: { jobs: [{ number: 'J-2450', panels: 400, gPerPanel: 0.21, cycleS: 79 }], from: '2026-05-11T09:30:00Z' },
		run: ({ jobs, from, changeOverMin }) => {
			const ahead = jobsInARow(
				jobs.map(({ start, ...job }) => ({ ...job, startMs: start === null ? null : ms(start) })),
				ms(from),
				changeOverMin
			);
			return { jobs: ahead, pieces: ahead.flatMap(piecesOf) };
		}
	}),
	calculation({
		name: 'fridge_pull_plan',
		summary: 'Which jars leave the fridge for which jobs, and when, so that the least paste is thrown away.',
		input: z.object({
			jobs: z.array(z.object({ id: z.string(), start: instant, end: instant, grams: z.number().nonnegative() })).max(200),
			jars: z
				.array(z.object({ id: z.string(), grams: z.number().positive(), expiry: instant, ready: instant, openEnds: instant.nullable() }))
				.max(500),
			seed: z.int().default(1),
			rules: rules.default({}),
			/** Jars that are still in the fridge, and when this is asked: for the verdict. */
			cold: z.array(z.string()).default([]),
			now: instant.optional()
		}),
		example: {
			jobs: [{ id: 'J-1', start: '2026-05-11T14:00:00Z', end: '2026-05-11T19:00:00Z', grams: 400 }],
			jars: [{ id: 'J17', grams: 500, expiry: '2026-05-31T22:00:00Z', ready: '2026-05-11T09:00:00Z', openEnds: null }]
		},
		run: ({ jobs, jars, seed, rules: r, cold, now }) => {
			const plan = pullPlan(
				jobs.map((j) => ({ id: j.id, grams: j.grams, startMs: ms(j.start), endMs: ms(j.end) })),
				jars.map((j) => ({
					id: j.id,
					grams: j.grams,
					expiryMs: ms(j.expiry),
					readyMs: ms(j.ready),
					openEndsMs: j.openEnds ? ms(j.openEnds) : null
				})),
				rulesOf(r),
				seed
			);
			const nowMs = now ? ms(now) : Math.min(...jobs.map((j) => ms(j.start)));
			return {
				...plan,
				verdict: judgePullPlan(
					plan,
					jobs.length,
					(id) => cold.includes(id),
					nowMs,
					(at) => new Date(at).toISOString()
				)
			};
		}
	}),
	calculation({
		name: 'dew_point',
		summary: 'Dew point and the least paste temperature at which a jar may be opened, °C.',
		input: z.object({ airC: z.number(), rhPct: z.number() }),
		example: { airC: 25, rhPct: 55 },
		run: ({ airC, rhPct }) => ({ dewPointC: dewPointC(airC, rhPct), safeOpeningC: safeOpeningC(airC, rhPct) })
	}),
	calculation({
		name: 'warm_up',
		summary: 'Hours until a jar may be opened: the rule and the physics (model), and its temperature by the hour.',
		input: z.object({
			startC: z.number(),
			airC: z.number(),
			toC: z.number(),
			ruleH: z.number().default(4),
			tauH: z.number().positive().default(1)
		}),
		example: { startC: 5, airC: 23, toC: 20 },
		run: ({ startC, airC, toC, ruleH, tauH }) => ({
			...warmUp(startC, airC, toC, ruleH, tauH),
			byHour: [0, 1, 2, 3, 4, 5, 6].map((hours) => ({ hours, pasteC: jarC(startC, airC, hours, tauH) }))
		})
	}),
	calculation({
		name: 'powder_type',
		summary:
			'Coarsest powder that passes a width: five of the largest balls, or eight across a circle (both schools); and the verdict on one that is given.',
		input: z.object({ widthUm: z.number(), shape: z.enum(['slot', 'circle']).default('slot'), powder: z.enum(POWDER_TYPES).optional() }),
		example: { widthUm: 190, powder: 'T4' },
		run: ({ widthUm, shape, powder }) => ({
			five: suggestPowder(widthUm, shape, 'five'),
			eight: suggestPowder(widthUm, shape, 'eight'),
			narrowestUm: Object.fromEntries(POWDER_TYPES.map((t) => [t, narrowestUm(t, shape)])),
			verdict: powder ? judgePowder(powder, { slotUm: widthUm, circleUm: shape === 'circle' ? widthUm : null }) : null
		})
	}),
	calculation({
		name: 'paste_density',
		summary: 'Density of the paste and the share of its volume that is metal.',
		input: z.object({
			metalMassShare: z.number().default(0.885),
			metalGPerCm3: z.number().positive().default(7.4),
			fluxGPerCm3: z.number().positive().default(1)
		}),
		example: {},
		run: (p) => pasteDensity(p.metalMassShare, p.metalGPerCm3, p.fluxGPerCm3)
	}),
	calculation({
		name: 'bead',
		summary: 'Bead on the stencil: mass and diameter, panels to the next top-up, mean age and the share over its life (stirred tank).',
		input: z.object({
			diameterMm: z.number().positive().default(BEAD_MM.start),
			leastMm: z.number().positive().default(BEAD_MM.least),
			spanMm: z.number().positive(),
			gPerPanel: z.number().positive(),
			panelsPerH: z.number().positive(),
			lifeH: z.number().positive().default(8),
			pasteGPerCm3: z.number().positive().default(4.2627)
		}),
		example: { spanMm: 240, gPerPanel: 0.75, panelsPerH: 60 },
		run: (p) => {
			const [now, least] = [beadG(p.diameterMm, p.spanMm, p.pasteGPerCm3), beadG(p.leastMm, p.spanMm, p.pasteGPerCm3)];
			return {
				beadG: now,
				leastG: least,
				diameterMm: beadDiameterMm(now, p.spanMm, p.pasteGPerCm3),
				panelsToTopUp: panelsToTopUp(now, least, p.gPerPanel),
				...beadResidence(now, p.gPerPanel, p.panelsPerH, p.lifeH)
			};
		}
	}),
	calculation({
		name: 'bead_age',
		summary: 'Portions of a bead after loads and prints, the oldest gram’s clock and the share that is over age.',
		input: z.object({
			events: z
				.array(
					z.discriminatedUnion('kind', [
						z.object({
							kind: z.literal('load'),
							at: instant,
							jar: z.string(),
							lot: z.string(),
							grams: z.number().positive(),
							ageH: z.number().optional()
						}),
						z.object({ kind: z.literal('print'), at: instant, grams: z.number().nonnegative() }),
						z.object({ kind: z.literal('clear'), at: instant })
					])
				)
				.max(20_000),
			now: instant,
			lifeH: z.number().positive().default(8)
		}),
		example: {
			events: [
				{ kind: 'load', at: '2026-05-11T06:00:00Z', jar: 'J17', lot: 'L4', grams: 200 },
				{ kind: 'print', at: '2026-05-11T06:10:00Z', grams: 0.8 }
			],
			now: '2026-05-11T12:00:00Z'
		},
		run: ({ events, now, lifeH }) => {
			const portions = beadOf(events.map(({ at, ...e }) => ({ ...e, atMs: ms(at) })) as Parameters<typeof beadOf>[0], ms(now));
			return { portions, ...beadAge(portions, ms(now), lifeH) };
		}
	}),
	calculation({
		name: 'abandon_ladder',
		summary: 'What a pause since the last print asks for before the next one, and when a standing printer climbs to each step.',
		input: z.object({ gapMin: z.number().nonnegative(), lastPrint: instant.optional() }),
		example: { gapMin: 35 },
		run: ({ gapMin, lastPrint }) => ({ ...afterPause(gapMin), steps: lastPrint ? abandonSteps(ms(lastPrint)) : [] })
	}),
	calculation({
		name: 'print_to_reflow',
		summary: 'Clock of a printed panel: act, stop, and how it stands.',
		input: z.object({ printed: instant, now: instant, actH: z.number().positive().default(1), stopH: z.number().positive().default(2) }),
		example: { printed: '2026-05-11T06:00:00Z', now: '2026-05-11T07:10:00Z' },
		run: (p) => reflowClock(ms(p.printed), ms(p.now), p.actH, p.stopH)
	}),
	calculation({
		name: 'sensor_log',
		summary: 'Excursions and gaps of a temperature and humidity log.',
		input: z.object({
			readings: z.array(z.object({ at: instant, temperatureC: z.number(), rhPct: z.number().nullable().default(null) })).max(100_000),
			lowC: z.number().default(2),
			highC: z.number().default(10),
			lowRhPct: z.number().optional(),
			highRhPct: z.number().optional(),
			graceMin: z.number().nonnegative().default(30),
			neverBelowZero: z.boolean().default(true),
			gapMin: z.number().positive().default(20)
		}),
		example: {
			readings: [
				{ at: '2026-05-11T06:00:00Z', temperatureC: 5 },
				{ at: '2026-05-11T06:10:00Z', temperatureC: 12 },
				{ at: '2026-05-11T06:20:00Z', temperatureC: 13 },
				{ at: '2026-05-11T06:35:00Z', temperatureC: 12 },
				{ at: '2026-05-11T06:50:00Z', temperatureC: 6 }
			]
		},
		run: ({ readings, gapMin, lowRhPct, highRhPct, ...limits }) =>
			readSensorLog(
				readings.map(({ at, ...r }) => ({ ...r, atMs: ms(at) })),
				{ ...limits, ...(lowRhPct === undefined ? {} : { lowRhPct }), ...(highRhPct === undefined ? {} : { highRhPct }) },
				gapMin
			)
	})
];
