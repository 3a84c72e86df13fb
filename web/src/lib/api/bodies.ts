import { READY_ITEMS } from '@keen-relay/core/line';
import { MOISTURE_LEVELS, PACKAGE_FIELDS, PAD_CLASSES, REEL_EVENTS, REEL_KINDS, type PackageField } from '@keen-relay/core/parts';
import { ACTIONS, APPROVALS, ROLES } from '@keen-relay/core/people';
import { FLUX_CLASSES, JAR_EVENTS, POWDER_TYPES } from '@keen-relay/core/paste';
import { WIPE_KINDS } from '@keen-relay/core/printing';
import { MOST_TAPER_UM, OWN_LIMIT, WALLS } from '@keen-relay/core/stencil';
import { LOCALES, UNIT_SYSTEMS } from '@keen-relay/core/people';
import { SIGNATURE_THRESHOLDS, type SignatureThresholds } from '@keen-relay/core/inspection';
import { stationBody, stationName } from '$lib/stations/index.ts';
import { TRIM_LEVELS } from '@keen-relay/core/placement';
import { PURPOSES, type Purpose } from '$lib/stations/kind.ts';
import './in-words.ts';
import { z } from 'zod';

/** What each route takes: the routes read their bodies through these, and the description of the API is made from them. */
const id = z.int().positive();
const badge = z.string().trim().min(1, 'scan a badge').max(64);
const newName = z.string().trim().min(1, 'type a name').max(60);
const newBadge = z.string().regex(/^[A-Za-z0-9-]{2,20}$/, 'letters, digits and dashes, 2 to 20');
const pin = z.string().min(1, 'type the PIN').max(64);
/** Who signs in, or approves. */
export const badgeAndPin = z.object({ badge: z.string().trim().min(1, 'scan or type the badge').max(64), pin });
export const recipeBody = z.object({ setC: z.array(z.number()).min(1).max(20), beltCmPerMin: z.number() });

/** Letters, digits and what file names have; a draft belongs to a place of the application. */
export const draftSubject = z.string().regex(/^[\w .:-]{1,120}$/, 'letters, digits, dots, colons and dashes, up to 120');

/** Revision that an edit started from; null: there was none. Another one that stands meanwhile is a conflict (409). */
const columnTitle = z.string().trim().min(1).max(80);
const startedFrom = id.nullable().default(null);
const pair = z.tuple([z.number(), z.number()]);
/** By the wall clock, "06:00". */
const clockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'hours and minutes, like 06:30');
const note = z.string().trim().max(300).default('');
const code = z
	.string()
	.trim()
	.regex(/^[\w-]{2,40}$/, 'letters, digits and dashes, 2 to 40');
/** As it is printed on a label: what a scanner reads of a reel or a feeder. Shorter ones are not known as a scan from what people type. */
const label = z
	.string()
	.trim()
	.regex(/^[\w.-]{4,40}$/, 'letters, digits, dots and dashes, 4 to 40');
/** What a plant does to the openings of a class. */
export const openingRule = z.discriminatedUnion('kind', [
	z.object({ kind: z.literal('asDrawn') }),
	z.object({ kind: z.literal('reduce'), widthPct: z.number(), lengthPct: z.number() }),
	z.object({ kind: z.enum(['homePlate', 'invertedHomePlate']), pointShare: z.number() }),
	z.object({ kind: z.literal('roundedSquare'), radiusShare: z.number() }),
	z.object({ kind: z.literal('windows'), coverage: z.number(), marginMm: z.number(), overMm: z.number() })
]);
const THRESHOLD_NAMES = Object.keys(SIGNATURE_THRESHOLDS) as [keyof SignatureThresholds, ...(keyof SignatureThresholds)[]];
const trialRange = z.object({ low: z.number().positive(), high: z.number().positive(), unit: z.string().max(12) });
export const depositLimits = z.object({
	volumePct: z.object({ fail: pair, warn: pair }),
	heightPct: pair,
	areaPct: pair,
	offsetShare: z.number()
});

const boardName = (what: string) => z.string().trim().max(60, `${what} of 60 letters at most`).default('');
const chosen = <T extends string>(...values: T[]) => z.enum(values).nullable().default(null);
/** What is said beside the files of one side of a board. */
export const boardFields = z.object({
	/** The board revision that gets its other side; null: the board is new. */
	revisionId: id.nullable().default(null),
	name: boardName('a name'),
	customer: boardName('a name'),
	revision: boardName('a revision'),
	side: z.enum(['top', 'bottom']),
	/** Null where the outline says it. */
	widthMm: z.number().positive().max(2000).nullable().default(null),
	heightMm: z.number().positive().max(2000).nullable().default(null),
	thicknessMm: z.number().min(0.2).max(6),
	copperLayers: z.int().min(0).max(40),
	copperPct: z.number().min(0).max(100),
	/** Null: as the file says. */
	unit: chosen('mm', 'mil', 'inch'),
	decimal: chosen('.', ','),
	positionsSide: chosen('top', 'bottom'),
	layerUnit: chosen('mm', 'inch'),
	content: chosen('circuit', 'panel'),
	/** Which column is what, as JSON; null: as the file's titles say. */
	positionsColumns: z.string().max(60_000).nullable().default(null),
	bomColumns: z.string().max(60_000).nullable().default(null)
});

/** Which column of a table is what, as a person chose it. */
export const columnChoice = (roles: readonly string[]) =>
	z.object({
		delimiter: z.enum(['\t', ';', ',', '|', ' ']),
		titles: z.array(z.string().max(2000)).max(400).nullable(),
		roles: z.array(z.enum(roles).nullable()).max(400)
	});

/** What a board is kept with; its files alone are read (`boardFields`) before it has a name. */
export const newBoard = boardFields.superRefine((board, context) => {
	if (board.revisionId !== null) return;
	for (const field of ['name', 'customer', 'revision'] as const)
		if (!board[field]) context.addIssue({ code: 'custom', path: [field], message: 'type it' });
});

/** How circuits repeat on a panel, mm. */
export const panelLayout = z.object({
	rows: z.int(),
	columns: z.int(),
	pitchXMm: z.number().min(0).max(600),
	pitchYMm: z.number().min(0).max(600),
	railMm: z.number(),
	fiducials: z
		.array(z.object({ x: z.number(), y: z.number() }))
		.min(2, 'at least two fiducials')
		.max(12),
	/** Marks of each circuit, in its own frame. */
	circuitFiducials: z
		.array(z.object({ x: z.number(), y: z.number() }))
		.max(8)
		.default([]),
	/** Marks beside single parts, in the circuit's frame. */
	localFiducials: z
		.array(
			z.object({
				refDes: z.string().trim().min(1, 'name the part').max(20),
				marks: z
					.array(z.object({ x: z.number(), y: z.number() }))
					.min(1)
					.max(2)
			})
		)
		.max(40)
		.default([]),
	/** Where a circuit is marked that is to be left out, in its frame; where the panel says whether any is. */
	skip: z
		.object({
			circuit: z.object({ x: z.number(), y: z.number() }).nullable(),
			master: z.object({ x: z.number(), y: z.number() }).nullable()
		})
		.default({ circuit: null, master: null }),
	free: z
		.object({
			widthMm: z.number(),
			heightMm: z.number(),
			circuits: z.array(z.object({ x: z.number(), y: z.number(), rotationDeg: z.number() })).min(1)
		})
		.optional()
});

export const printRecipe = z.object({
	bladeMm: z.number().min(50).max(800),
	forceKgPerCm: z.number().min(0.01).max(2),
	forceBasis: z.enum(['blade', 'panel']).default('blade'),
	beadMm: z.number().min(5).max(40).default(16),
	speedMmPerS: z.number().min(1).max(300),
	accelerationMmPerS2: z.number().min(10).max(5000),
	angleDeg: z.number().min(20).max(80),
	separationMmPerS: z.number().min(0.05).max(50),
	separationMm: z.number().min(0).max(20),
	gapMm: z.number().min(0).max(5),
	wipes: z.array(z.object({ kind: z.enum(WIPE_KINDS), everyPrints: z.int().min(1).max(1000), seconds: z.number().min(0).max(600) })).max(4),
	longerReplaces: z.boolean(),
	handlingS: z.number().min(0).max(300),
	fiducialsS: z.number().min(0).max(60),
	strokes: z.int().min(1).max(4)
});

export const misprintFacts = z.object({
	washes: z.int().min(0).max(20),
	finish: z.enum(['osp', 'other']),
	sinceFirstReflowH: z.number().nonnegative().nullable(),
	partsPlacedThisSide: z.boolean(),
	uncuredGlue: z.boolean(),
	washSensitiveParts: z.boolean()
});

const lineName = z
	.string()
	.trim()
	.min(1)
	.max(40)
	.regex(/^[^/]+$/, 'no slash: messages name their source as line/station');

export const bodies = {
	/** What stands at an end of a line. */
	magazine: z.object({ end: z.enum(['loader', 'unloader']), panels: z.int().min(0).max(10_000) }),
	paste: z.object({
		id: id.optional(),
		startedFrom,
		name: z.string().trim().min(1, 'give the paste a name').max(60),
		partNumber: z.string().trim().min(1).max(40),
		maker: z.string().trim().max(60).default(''),
		alloy: z.string().trim().min(1).max(40),
		powder: z.enum(POWDER_TYPES),
		fluxClass: z.enum(FLUX_CLASSES),
		wash: z.string().trim().max(120).default(''),
		metalMassShare: z.number().min(0.5).max(0.98).default(0.885),
		metalGPerCm3: z.number().min(5).max(12).default(7.4),
		/** Where the maker's data sheet differs from common practice; hours, °C, minutes. */
		rules: z
			.object({
				warmUpH: z.number().min(0).max(48),
				warmToC: z.number().min(10).max(30),
				sealedOutH: z.number().min(1).max(2000),
				coldReturns: z.int().min(0).max(20),
				openLifeH: z.number().min(1).max(500),
				stencilLifeH: z.number().min(0.5).max(100),
				openMayReturn: z.boolean(),
				openLifePausesCold: z.boolean(),
				reflowActH: z.number().min(0.1).max(72),
				reflowStopH: z.number().min(0.1).max(72),
				roomLowC: z.number().min(5).max(45),
				roomHighC: z.number().min(5).max(45),
				roomLowRhPct: z.number().min(0).max(100),
				roomHighRhPct: z.number().min(0).max(100),
				stir: z.enum(['hand', 'mixer', 'none']),
				stirMin: z.number().min(0).max(30)
			})
			.partial()
			.default({})
	}),
	jar: z.object({
		id: code,
		pasteId: id,
		lot: z.string().trim().min(1, 'the lot stands on the label').max(60),
		expiry: z.string().regex(/^\d{4}-\d\d(-\d\d)?$/, 'the day or month that stands on the label, 2027-05-31 or 2027-05'),
		grams: z.number().positive().max(5000),
		received: z.iso.datetime({ offset: true }).optional(),
		fridgeId: id.nullable().default(null)
	}),
	jarEvent: z.object({
		kind: z.enum(JAR_EVENTS),
		at: z.iso.datetime({ offset: true }).optional(),
		stirred: z.boolean().optional(),
		by: z.enum(['hand', 'mixer']).optional(),
		grams: z.number().nonnegative().max(5000).optional(),
		lineId: id.optional(),
		pasteC: z.number().min(-10).max(50).optional(),
		of: id.optional(),
		/** It has happened: recorded, whatever the rules say. A request is refused where they speak against it. */
		fact: z.boolean().default(false),
		note
	}),
	sensor: z.object({
		name: z
			.string()
			.trim()
			.min(1)
			.max(40)
			.regex(/^[^/]+$/, 'no slash: messages name their source as Sensors/name'),
		kind: z.enum(['fridge', 'room', 'store', 'cabinet']),
		lineId: id.nullable().default(null),
		calibratedOn: z.iso.date().nullable().default(null),
		everyMin: z.number().min(0.1).max(240).default(5),
		lowC: z.number().min(-30).max(80),
		highC: z.number().min(-30).max(80),
		lowRhPct: z.number().min(0).max(100).nullable().default(null),
		highRhPct: z.number().min(0).max(100).nullable().default(null),
		graceMin: z.number().min(0).max(600).default(30)
	}),
	jointNeed: z.object({
		refDes: z.string().min(1).max(40),
		neededMm3: z.number().min(0.001).max(500).nullable(),
		why: z.string().trim().min(1, 'say why: coplanarity, a pin in paste').max(120),
		/** The need that this edit was begun over, mm³; null: there was none. */
		startedFrom: z.number().nullable().default(null)
	}),
	openingRules: z.object({ rules: z.record(z.enum(PAD_CLASSES), openingRule), note, startedFrom }),
	transferFit: z.object({ runId: id }),
	stencilTool: z.object({
		code,
		stencilId: id,
		place: z.string().trim().min(1).max(60),
		measuredUm: z.number().min(30).max(300).nullable().default(null)
	}),
	reel: z.object({
		code: label,
		partNumber: z.string().trim().min(1, 'scan or type the part number').max(80),
		kind: z.enum(REEL_KINDS),
		makerPart: z.string().trim().max(80).default(''),
		makerLot: z.string().trim().min(1, 'scan or type the maker’s lot').max(80),
		dateCode: z
			.string()
			.trim()
			.regex(/^(\d{4}|)$/, 'year and week in four digits, like 2634')
			.default(''),
		/** null: the plant's own. */
		owner: z.string().trim().min(1).max(60).nullable().default(null),
		place: z.string().trim().min(1, 'say where it is put').max(60),
		pieces: z.int().min(1).max(1_000_000),
		tapeMm: z.number().positive().max(120).nullable().default(null),
		pitchMm: z.number().positive().max(120).nullable().default(null),
		quadrant: z.int().min(1).max(4).nullable().default(null),
		moistureLevel: z.enum(MOISTURE_LEVELS).nullable().default(null),
		labelH: z.number().positive().max(10_000).nullable().default(null)
	}),
	reelEvent: z.object({
		kind: z.enum(REEL_EVENTS).exclude(['split']),
		at: z.iso.datetime({ offset: true }).optional(),
		pieces: z.int().min(0).max(1_000_000).nullable().default(null),
		rhPct: z.number().min(0).max(100).nullable().default(null),
		place: z.string().trim().max(60).default(''),
		note
	}),
	reelSplit: z.object({
		code: label,
		pieces: z.int().min(1).max(1_000_000),
		place: z.string().trim().min(1, 'say where it is put').max(60)
	}),
	feeder: z.object({ code: label, tapeMm: z.number().positive().max(120), pitchMm: z.number().positive().max(120) }),
	/** Where pin 1 of a part has to lie in its tape. */
	orientation: z.object({
		partNumber: z.string().trim().min(1).max(120),
		quadrant: z.int().min(1).max(4).nullable()
	}),
	/** What somebody saw go wrong at a feeder or nozzle. */
	fault: z.object({ note: z.string().trim().min(1, 'say what it did').max(200) }),
	feederChange: z.object({
		/** Why it is not used until somebody has seen to it; null: it is. */
		outOfService: z.string().trim().min(1, 'say why').max(120).nullable()
	}),
	differenceAnswer: z.object({
		state: z.enum(['accepted', 'sentBack', 'open']),
		reason: z.string().trim().min(3, 'say why').max(300)
	}),
	care: z.object({ note: z.string().trim().min(1, 'say what was done').max(120) }),
	feederScan: z.object({
		scan: z.string().trim().min(1).max(400),
		lineId: id,
		/** What the same person scanned just before and has not finished. */
		slot: z
			.object({ stationId: id, slot: z.int().min(1).max(400) })
			.nullable()
			.default(null),
		feeder: z.string().trim().min(1).max(40).nullable().default(null)
	}),
	feederOut: z.object({ stationId: id, slot: z.int().min(1).max(400) }),
	blade: z.object({
		stroke: z.enum(['F', 'R']),
		code,
		why: z.string().trim().min(1, 'say why: worn, a nick, a swap to find a cause').max(120),
		nicked: z.boolean().default(false)
	}),
	stencilToolEvent: z.object({
		kind: z.enum(['mount', 'unmount', 'clean', 'move', 'damage', 'repair', 'scrap']),
		lineId: id.optional(),
		note
	}),
	tension: z.object({
		readings: z
			.array(z.object({ x: z.number(), y: z.number(), nPerCm: z.number().min(0).max(200) }))
			.min(1)
			.max(30)
	}),
	printRecipe: z.object({
		sideId: id,
		startedFrom,
		lineId: id,
		recipe: printRecipe,
		support: z.array(z.object({ x: z.number(), y: z.number(), radiusMm: z.number().min(0.5).max(20) })).max(200)
	}),
	misprint: z.object({
		finish: z.enum(['osp', 'other']).default('other'),
		uncuredGlue: z.boolean().default(false),
		washSensitiveParts: z.boolean().default(false)
	}),
	firstLead: z.object({ code: z.string().trim().min(1, 'type the code').max(40), name: newName, badge: newBadge, pin }),
	lift: z.object({ note: z.string().trim().min(3, 'say why it may go on').max(300) }),
	override: z.object({
		codes: z.array(z.enum(READY_ITEMS)).min(1),
		reason: z.string().trim().min(3, 'say why the line may print without it').max(300),
		/** false: for half an hour. */
		wholeRun: z.boolean()
	}),
	signatureAction: z.object({ action: z.enum(['done', 'dismiss']), note }),
	signatureThresholds: z.object({ thresholds: z.record(z.enum(THRESHOLD_NAMES), z.number()), note, startedFrom }),
	unitFactors: z.object({ lineId: id }),
	trial: z.object({
		ranges: z.object({ force: trialRange, speed: trialRange, separation: trialRange }),
		panelsEach: z.int().min(2, 'front and rear each need a panel').max(20)
	}),
	washStep: z.object({ step: z.int().nonnegative() }),
	pasteLimits: z.object({ limits: z.record(z.enum(PAD_CLASSES), depositLimits), note, startedFrom }),
	pasteImport: z.object({
		unit: z.string().trim().min(1, 'name the inspection unit').max(60),
		runId: id,
		text: z.string().min(1, 'the file is empty').max(60_000_000),
		mapping: z.record(z.string(), z.string().max(80)).default({}),
		heightUnit: z.enum(['um', 'mm']).nullable().default(null),
		/** The decimal sign, where the file can be read both ways. */
		decimal: z.enum(['.', ',']).nullable().default(null),
		/** Foil that the unit’s 100 % count with; null: the foil as it was measured. */
		nominalFoilUm: z.number().min(30).max(300).nullable().default(null),
		check: z.boolean().default(false)
	}),
	line: z.object({
		name: lineName,
		purpose: z.enum(Object.keys(PURPOSES) as [Purpose, ...Purpose[]]).default('surfaceMount'),
		stations: z.array(stationBody).min(1).max(24)
	}),
	lineChange: z.object({
		name: lineName.optional(),
		purpose: z.enum(Object.keys(PURPOSES) as [Purpose, ...Purpose[]]).optional(),
		/** Stations in use, in the order boards travel. */
		order: z.array(id).min(1).max(24).optional()
	}),
	/** `at`: its place in the order, the first is 0; without it at the line's end. */
	newStation: z.intersection(stationBody, z.object({ at: z.int().min(0).max(24).optional() })),
	stationChange: z.object({ name: stationName.optional(), spec: z.record(z.string(), z.unknown()).optional(), startedFrom: id }),
	use: z.object({ inUse: z.boolean() }),
	/** Without a PIN the person gets a starting code and chooses one at first use. */
	person: z.object({
		name: newName,
		badge: newBadge,
		pin: z.string().min(4, 'at least four digits').max(64).optional(),
		role: z.enum(ROLES)
	}),
	personChange: z.object({ name: newName.optional(), role: z.enum(ROLES).optional(), left: z.boolean().optional() }),
	firstPin: z.object({
		badge,
		code: z.string().trim().min(1, 'type the code').max(40),
		newPin: z.string().min(4, 'at least four digits').max(64)
	}),
	/** null: it is no station of this plant any more. */
	sourceMatch: z.object({ source: z.string().min(1).max(80), stationId: id.nullable() }),
	setUpCopy: z.object({ text: z.string().min(2, 'choose a file').max(5_000_000, 'a set-up is smaller than 5 MB'), apply: z.boolean() }),
	plantStep: z.object({ step: z.enum(['plant', 'rules', 'byHand']) }),
	plantRule: z.object({ value: z.record(z.string(), z.unknown()), startedFrom }),
	plant: z.object({
		name: newName,
		timeZone: z.string().trim().min(1).max(60),
		locale: z.enum(LOCALES).default('en-GB'),
		units: z.enum(UNIT_SYSTEMS).default('metric'),
		shifts: z
			.array(
				z.object({
					name: z.string().trim().min(1, 'name the shift').max(20),
					from: clockTime,
					to: clockTime,
					days: z.array(z.int().min(1).max(7)).min(1, 'at least one weekday').max(7).optional(),
					breaks: z
						.array(z.object({ from: clockTime, to: clockTime }))
						.max(8)
						.optional()
				})
			)
			.min(1, 'at least one shift')
			.max(8),
		holidays: z.array(z.object({ date: z.iso.date(), name: z.string().trim().min(1, 'name the day').max(40) })).max(200),
		startedFrom: id
	}),
	/** null: as the plant has it. */
	tableView: z.object({
		sort: z.array(z.object({ id: z.string().max(40), desc: z.boolean() })).max(3),
		hidden: z.array(z.string().max(40)).max(60)
	}),
	alternate: z.object({
		partNumber: z.string().trim().min(1, 'name the part').max(60),
		alternate: z.string().trim().min(1, 'name the part that may stand for it').max(60),
		/** Null: on every customer’s boards. */
		customer: z.string().trim().min(1).max(80).nullable().default(null),
		/** Taken back where it is not. */
		approved: z.boolean().default(true),
		note: z.string().trim().min(1, 'say why').max(200)
	}),
	trim: z.object({
		sideId: id,
		level: z.enum(TRIM_LEVELS),
		name: z.string().trim().min(1).max(120),
		/** What is added, as it was read, µm. */
		dxUm: z.number().min(-2000).max(2000),
		dyUm: z.number().min(-2000).max(2000),
		/** The trim that stood last; null: none. */
		startedFrom: id.nullable()
	}),
	firstBoardCheck: z.object({
		/** Lines of the checklist, by their keys. */
		keys: z.array(z.string().trim().min(1).max(120)).min(1).max(400),
		right: z.boolean(),
		/** What is wrong; the panel that was looked at, else the first of the run. */
		note: z.string().trim().max(300).default(''),
		panel: z.string().trim().max(80).nullable().default(null)
	}),
	visitFile: z.object({
		text: z.string().min(1, 'choose a file').max(10_000_000, 'a file of results is smaller than 10 MB; send it in parts'),
		name: z.string().trim().min(1).max(120),
		/** What its columns and words mean; null: it is only looked at. */
		mapping: z
			.object({
				columns: z.object({
					panel: columnTitle,
					result: columnTitle,
					at: columnTitle,
					circuit: columnTitle.optional(),
					startedAt: columnTitle.optional(),
					attempt: columnTitle.optional(),
					refDes: columnTitle.optional(),
					pin: columnTitle.optional(),
					code: columnTitle.optional(),
					measured: columnTitle.optional()
				}),
				firstCircuit: z.int().min(0).max(1).default(1),
				pass: z.array(z.string().min(1).max(60)).max(20),
				fail: z.array(z.string().min(1).max(60)).max(20),
				dateOrder: z.enum(['day-first', 'month-first']).optional()
			})
			.nullable(),
		/** Nothing is kept: it says what would be. */
		check: z.boolean()
	}),
	/** A table as it is shown: numbers as numbers, so that a spreadsheet can go on with them. */
	tableFile: z.object({
		name: z.string().trim().min(1).max(60),
		columns: z.array(z.string().max(80)).min(1).max(60),
		rows: z.array(z.array(z.union([z.string().max(2000), z.number(), z.null()])).max(60)).max(20_000, 'at most 20,000 rows; filter them')
	}),
	preferences: z.object({ locale: z.enum(LOCALES).nullable(), units: z.enum(UNIT_SYSTEMS).nullable() }),
	ownPin: z.object({ pin: z.string().min(1).max(64), newPin: z.string().min(4, 'at least four digits').max(64) }),
	rule: z.object({
		roles: z.array(z.enum(ROLES)),
		approval: z.enum(APPROVALS),
		/** The rule as it stood when this change was begun. */
		startedFrom: z.object({ roles: z.array(z.enum(ROLES)), approval: z.enum(APPROVALS) }).optional()
	}),
	stationPc: z.object({ name: z.string().trim().min(1, 'give the station PC a name').max(40), lineId: id.nullable() }),
	badge: z.object({ badge }),
	token: z.object({ name: z.string().trim().min(1, 'say which machine it is for').max(60) }),
	clock: z.object({ now: z.iso.datetime({ offset: true }), rate: z.number().min(1).max(60) }),
	job: z.object({
		number: z.string().trim().min(1, 'give the job a number').max(30),
		boardRevisionId: id,
		panels: z.int('a whole number of panels').min(1).max(200000)
	}),
	jobStart: z.object({ lineId: id, startsAt: z.iso.datetime({ offset: true }).nullable() }),
	run: z.object({ jobId: id, sideId: id, lineId: id }),
	stencil: z.object({
		sideId: id,
		startedFrom,
		foilUm: z.number(),
		wall: z.enum(WALLS),
		taperUm: z.number().min(0).max(MOST_TAPER_UM, `at most ${MOST_TAPER_UM} µm`).nullable().default(null),
		/** Least area ratios that single openings carry, by their index. */
		ownLimits: z.record(z.string().regex(/^\d{1,6}$/), z.number().min(OWN_LIMIT.least).max(OWN_LIMIT.most)).default({})
	}),
	program: z.object({
		sideId: id,
		lineId: id,
		startedFrom,
		/** A program as CSV or JSON, a row a placement; null: the parts are dealt here. */
		text: z.string().min(1, 'choose a file').max(8_000_000, 'a program is smaller than 8 MB').nullable().default(null)
	}),
	recipe: z.object({ sideId: id, lineId: id, pasteId: id, ...recipeBody.shape, startedFrom }),
	panel: panelLayout.extend({ startedFrom: id }),
	package: z.object({
		name: z.string().min(1).max(80),
		field: z.enum(Object.keys(PACKAGE_FIELDS) as [PackageField, ...PackageField[]]),
		value: z.number().nullable(),
		source: z.string().trim().min(1, 'say where the value comes from').max(120),
		/** The entered value that this edit was begun over; null: nobody had entered one. */
		startedFrom: z.number().nullable().default(null)
	}),
	stopReason: z.object({ reason: z.string().trim().min(1).max(30) }),
	handOver: z.object({
		lineId: id,
		date: z.iso.date(),
		shift: z.string(),
		note: z.string().max(4000),
		/** The note that this one was typed over; null: there was none. */
		startedFrom: z.string().max(4000).nullable().default(null)
	}),
	signature: z.object({ lineId: id, date: z.iso.date(), shift: z.string(), badge, pin }),
	report: z.object({
		/** The station in whose stead it is typed; null for a sensor, which is named by `source`. */
		stationId: id.nullable(),
		source: z.string().trim().min(1).max(80).optional(),
		type: z.string().min(1).max(40),
		/** The same form sent twice counts once. */
		formId: z.uuid(),
		/** When it happened; now where it is left out. */
		at: z.iso.datetime({ offset: true }).optional(),
		fields: z.record(z.string().max(60), z.unknown())
	}),
	readmit: z.object({ text: z.string().min(2, 'the message as one JSON object').max(2_000_000) }),
	draft: z.object({ content: z.unknown(), base: z.string().max(200) })
};

export const actionName = z.enum(ACTIONS as [(typeof ACTIONS)[number], ...typeof ACTIONS]);
