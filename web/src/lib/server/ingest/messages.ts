import { PAD_CLASSES } from '@keen-relay/core/parts';
import { z } from 'zod';

/** A list of numbers in a range, checked in one pass: panels have thousands of pads, and a check object a number costs more than the numbers. */
const numbers = (low: number, high: number) =>
	z.custom<number[]>(
		(value) => {
			if (!Array.isArray(value)) return false;
			for (let i = 0; i < value.length; i++) {
				const v: unknown = value[i];
				if (typeof v !== 'number' || !(v >= low && v <= high)) return false;
			}
			return true;
		},
		{
			error: ({ input }) => {
				if (!Array.isArray(input)) return 'a list of numbers is needed';
				const at = input.findIndex((v) => typeof v !== 'number' || !(v >= low && v <= high));
				return `value ${at} is ${JSON.stringify(input[at])}: a number from ${low} to ${high} is needed`;
			}
		}
	);
const int16 = numbers(-3276, 3276);
const offsets = numbers(-30_000, 30_000);
const marks = z
	.array(z.object({ x: z.number().min(-2000).max(2000), y: z.number().min(-2000).max(2000) }))
	.min(2)
	.max(8)
	.optional();

const common = {
	/** The machine: its line and station name, "Line 1/Print". */
	source: z.string().min(1).max(80),
	bootId: z.uuid(),
	number: z.int().nonnegative(),
	/** Plant time. */
	at: z.iso.datetime({ offset: true })
};
const panel = z.string().min(1).max(60);
/** The run that the machine builds, as it was given with the work: a panel printed while the next run starts still belongs to its own. */
const runId = z.int().positive();
const attempt = z.int().min(1).max(20).default(1);

/** What machines report. One JSON object a line; every message has its identity (source, boot id, number). */
export const message = z.discriminatedUnion('type', [
	z.object({
		...common,
		type: z.literal('state'),
		state: z.enum(['running', 'waiting', 'stopped', 'idle']),
		reason: z.string().max(120).optional()
	}),
	z.object({
		...common,
		type: z.literal('print'),
		runId,
		panel,
		printAttempt: attempt,
		stroke: z.enum(['F', 'R']),
		printsSinceWipe: z.int().nonnegative(),
		printsSinceTopup: z.int().nonnegative().optional(),
		/** Since the print before it; 0 for the first one. */
		minutesSincePrevious: z.number().nonnegative().max(100_000).optional(),
		/** The marks that the camera read, mm: stencil and board in one machine frame, in the same order. */
		stencilMarks: marks,
		boardMarks: marks,
		cycleS: z.number().positive()
	}),
	z.object({
		...common,
		/** Paste put on the stencil from a jar whose label the printer or its operator scanned: a fact, whether it was allowed or not. */
		type: z.literal('paste_loaded'),
		runId,
		jar: z.string().min(1).max(40),
		grams: z.number().positive().max(2000)
	}),
	z.object({
		...common,
		/** A temperature and humidity sensor; the source is "Sensors/" and its name. */
		type: z.literal('sensor_reading'),
		temperatureC: z.number().min(-10).max(50),
		rhPct: z.number().min(1).max(100).optional()
	}),
	z.object({
		...common,
		type: z.literal('paste_inspection'),
		panel,
		printAttempt: attempt,
		inspectionAttempt: attempt,
		/** Circuit by circuit, in the stable order of the openings. */
		volumePct: int16,
		heightUm: int16,
		areaPct: int16,
		offsetXUm: offsets,
		offsetYUm: offsets,
		/** Where the unit gives it: highest point of each deposit. */
		peakHeightUm: int16.optional(),
		/** Pads whose deposit touches the next one, by index. */
		bridgedPads: z.array(z.int().nonnegative().max(100_000)).max(5000).optional()
	}),
	z.object({
		...common,
		/** What is left of an inspection whose pad readings were not kept: an older day, or a machine that sends no more. */
		type: z.literal('paste_summary'),
		panel,
		printAttempt: attempt,
		inspectionAttempt: attempt,
		classes: z
			.array(
				z.object({
					padClass: z.enum(PAD_CLASSES),
					pads: z.int().positive(),
					fails: z.int().nonnegative(),
					warnings: z.int().nonnegative(),
					meanVolumePct: z.number().min(0).max(3276),
					sdVolumePct: z.number().min(0).max(3276)
				})
			)
			.min(1),
		worst: z
			.array(z.object({ pad: z.int().nonnegative(), code: z.string().min(1).max(40), volumePct: z.number().min(-3276).max(3276) }))
			.max(60)
			.default([])
	}),
	z.object({
		...common,
		type: z.literal('placement'),
		panel,
		cycleS: z.number().positive(),
		/** Picks lost by slot; slots that lost none may be left out. */
		lost: z.record(z.string().regex(/^\d+$/), z.int().nonnegative()).default({})
	}),
	z.object({
		...common,
		type: z.literal('feeder_loaded'),
		runId,
		slot: z.int().min(1).max(400),
		partNumber: z.string().min(1),
		reel: z.string().min(1),
		makerLot: z.string(),
		pieces: z.int().nonnegative()
	}),
	z.object({
		...common,
		type: z.literal('oven_pass'),
		panel,
		enteredAt: z.iso.datetime({ offset: true }),
		zoneC: z.array(z.number().min(-10).max(400)),
		beltCmPerMin: z.number().positive()
	}),
	z.object({
		...common,
		type: z.enum(['optical_inspection', 'in_circuit_test']),
		panel,
		circuit: z.int().nonnegative(),
		attempt,
		startedAt: z.iso.datetime({ offset: true }),
		result: z.enum(['pass', 'fail', 'abort']),
		calls: z
			.array(
				z.object({
					refDes: z.string().min(1),
					pin: z.string().nullable().default(null),
					code: z.string().min(1),
					measured: z.string().nullable().default(null)
				})
			)
			.default([])
	})
]);

export type Message = z.infer<typeof message>;
export type MessageOf<T extends Message['type']> = Extract<Message, { type: T }>;
