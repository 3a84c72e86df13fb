import { z } from 'zod';
import type { Topic } from '../db/index.ts';

/** What a station of a kind may say. */
export interface MessageKind<S extends z.ZodObject = z.ZodObject> {
	type: string;
	/** As a form is titled. */
	words: string;
	schema: S;
	/** What open pages hear of it. */
	topics: readonly Topic[];
}

/** Largest whole number that a column takes. */
const MOST_INT = 2_147_483_647;
/** What a real column takes is far more; no machine reports more than a day. */
export const seconds = z.number().positive().max(86_400);
export const count = z.int().nonnegative().max(1_000_000_000);
/** The run that the machine builds, as it was given with the work: a panel printed while the next run starts still belongs to its own. */
export const runId = z.int().positive().max(MOST_INT).meta({ title: 'Run' });
export const panel = z.string().trim().min(1).max(60).meta({ title: 'Panel' });
export const attempt = z.int().min(1).max(20).default(1).meta({ title: 'Attempt' });
/** A panel that was washed is printed once more. */
export const printAttempt = attempt.meta({ title: 'Print of this panel, 1 the first' });
export const inspectionAttempt = attempt.meta({ title: 'Inspection of it, 1 the first' });
export const moment = z.iso.datetime({ offset: true });

/** A list of numbers in a range, checked in one pass: panels have thousands of pads, and a check object a number costs more than the numbers. */
export const numbers = (low: number, high: number) =>
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

/** What every message carries: who says it, its identity, and when it happened. */
const head = {
	/** The machine: its line and station name, "Line 1/Print". */
	source: z.string().min(1).max(80),
	bootId: z.uuid(),
	number: z.int().nonnegative(),
	/** Plant time. */
	at: moment
};
export const HEAD_FIELDS = [...Object.keys(head), 'type'];

/** Declares a message. One with a panel moves it; with a run as well, it opens the panel's pass. */
export function says<const T extends string, S extends z.ZodRawShape>(
	type: T,
	words: string,
	topics: readonly Topic[],
	shape: S
): MessageKind<z.ZodObject<typeof head & { type: z.ZodLiteral<T> } & S>> & { type: T } {
	return { type, words, topics, schema: z.object({ ...head, type: z.literal(type), ...shape }) as never };
}

export type Said<K extends MessageKind> = z.output<K['schema']>;

/** Fields that every message has, whatever its kind. */
export interface AnyMessage {
	source: string;
	bootId: string;
	number: number;
	at: string;
	type: string;
	panel?: string;
	runId?: number;
}
