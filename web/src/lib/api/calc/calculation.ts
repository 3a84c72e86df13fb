import type { z } from 'zod';

/** A calculation of the core as the API offers it: plain JSON in and out, names in the trade's words with their units. */
export interface Calculation {
	name: string;
	summary: string;
	input: z.ZodType;
	/** A whole input that works: the description shows it, a test runs it. */
	example: unknown;
	run: (input: never) => unknown;
}

/** Ties the type of the input to what runs on it. */
export function calculation<Z extends z.ZodType>(of: {
	name: string;
	summary: string;
	input: Z;
	example: z.input<Z>;
	run: (input: z.infer<Z>) => unknown;
}): Calculation {
	return of;
}
