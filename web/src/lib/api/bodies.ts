import { PACKAGE_FIELDS, type PackageField } from '@keen-relay/core/parts';
import { ACTIONS, APPROVALS, ROLES } from '@keen-relay/core/judgement';
import { STOP_REASONS, type StopReason } from '@keen-relay/core/schedule';
import { z } from 'zod';

/** What each route takes: the routes read their bodies through these, and the description of the API is made from them. */
const id = z.int().positive();
const badge = z.string().trim().min(1, 'scan a badge').max(64);
const pin = z.string().min(1, 'type the PIN').max(64);
export const axis = z.object({ vMmS: z.number().positive(), aMmS2: z.number().positive() });

export const placer = z.object({
	name: z.string(),
	slots: z.int().min(8).max(400),
	slotPitchMm: z.number().positive(),
	cameraSlot: z.number().positive(),
	onTheFly: z.boolean(),
	spindles: z.int().min(1).max(40),
	headPitchMm: z.number().positive(),
	x: axis,
	y: axis,
	pickS: z.number().positive(),
	placeS: z.number().positive(),
	cameraS: z.number().nonnegative(),
	transferS: z.number().nonnegative(),
	fiducialS: z.number().nonnegative(),
	accuracyUm: z.number().positive(),
	accuracySigmas: z.number().positive(),
	smallestMm: z.number().nonnegative(),
	largestMm: z.number().positive(),
	tallestMm: z.number().positive(),
	finestPitchMm: z.number().nonnegative(),
	trays: z.boolean()
});

export const ovenBody = z.object({
	zoneM: z.array(z.number().min(0.1).max(1)).min(4, 'four zones or more').max(14, 'fourteen zones at the most'),
	entryM: z.number().min(0).max(2),
	entryShare: z.number().min(0).max(0.5),
	cooling: z.array(z.object({ lengthM: z.number().positive(), airC: z.number() })),
	ambientC: z.number(),
	borderM: z.number().positive(),
	setMinC: z.number(),
	setMaxC: z.number(),
	stepMaxC: z.number().positive(),
	beltMinCmPerMin: z.number().positive(),
	beltMaxCmPerMin: z.number().positive()
});

export const recipeBody = z.object({ setC: z.array(z.number()).min(1).max(20), beltCmPerMin: z.number() });

/** Letters, digits and what file names have; a draft belongs to a place of the application. */
export const draftSubject = z.string().regex(/^[\w .:-]{1,120}$/, 'letters, digits, dots, colons and dashes, up to 120');

export const bodies = {
	line: z.object({
		name: z
			.string()
			.trim()
			.min(1)
			.max(40)
			.regex(/^[^/]+$/, 'no slash: messages name their source as line/station'),
		stations: z
			.array(
				z.object({
					role: z.enum(['print', 'pasteCheck', 'place', 'oven', 'optical', 'inCircuit']),
					name: z
						.string()
						.trim()
						.min(1)
						.max(20)
						.regex(/^[^/]+$/, 'no slash'),
					spec: z.object({
						placer: placer.optional(),
						oven: ovenBody.optional(),
						cycleS: z.number().positive().optional(),
						gapMm: z.number().nonnegative().optional()
					})
				})
			)
			.min(1)
			.max(10)
	}),
	person: z.object({
		name: z.string().trim().min(1).max(60),
		badge: z.string().regex(/^[A-Za-z0-9-]{2,20}$/, 'letters, digits and dashes, 2 to 20'),
		pin: z.string().min(4, 'at least four digits').max(64),
		role: z.enum(ROLES)
	}),
	rule: z.object({ roles: z.array(z.enum(ROLES)), approval: z.enum(APPROVALS) }),
	stationPc: z.object({ name: z.string().trim().min(1, 'give the station PC a name').max(40), lineId: id.nullable() }),
	badge: z.object({ badge }),
	token: z.object({ name: z.string().trim().min(1, 'say which machine it is for').max(60) }),
	clock: z.object({ now: z.iso.datetime({ offset: true }), rate: z.number().min(1).max(60) }),
	job: z.object({
		number: z.string().trim().min(1, 'give the job a number').max(30),
		boardRevisionId: id,
		panels: z.int('a whole number of panels').min(1).max(200000)
	}),
	run: z.object({ jobId: id, sideId: id, lineId: id }),
	stencil: z.object({ sideId: id, foilUm: z.number(), wall: z.enum(['laser', 'fineGrain', 'electropolished', 'nanoCoated']) }),
	program: z.object({ sideId: id, lineId: id }),
	recipe: z.object({ sideId: id, lineId: id, pasteId: id, ...recipeBody.shape }),
	panel: z.object({
		rows: z.int(),
		columns: z.int(),
		pitchXMm: z.number().min(0).max(600),
		pitchYMm: z.number().min(0).max(600),
		railMm: z.number(),
		fiducials: z
			.array(z.object({ x: z.number(), y: z.number() }))
			.min(2, 'at least two fiducials')
			.max(12),
		free: z
			.object({
				widthMm: z.number(),
				heightMm: z.number(),
				circuits: z.array(z.object({ x: z.number(), y: z.number(), rotationDeg: z.number() })).min(1)
			})
			.optional()
	}),
	package: z.object({
		name: z.string().min(1).max(80),
		field: z.enum(Object.keys(PACKAGE_FIELDS) as [PackageField, ...PackageField[]]),
		value: z.number().nullable(),
		source: z.string().trim().min(1, 'say where the value comes from').max(120)
	}),
	stopReason: z.object({ reason: z.enum(Object.keys(STOP_REASONS) as [StopReason, ...StopReason[]]) }),
	handOver: z.object({ lineId: id, date: z.iso.date(), shift: z.string(), note: z.string().max(4000) }),
	signature: z.object({ lineId: id, date: z.iso.date(), shift: z.string(), badge, pin }),
	readmit: z.object({ text: z.string().min(2, 'the message as one JSON object').max(2_000_000) }),
	draft: z.object({ content: z.unknown(), base: z.string().max(200) })
};

export const actionName = z.enum(ACTIONS as [(typeof ACTIONS)[number], ...typeof ACTIONS]);
