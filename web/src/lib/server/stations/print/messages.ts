import { z } from 'zod';
import { count, panel, printAttempt, runId, says, seconds, type Said } from '../message-parts.ts';

const marks = z
	.array(z.object({ x: z.number().min(-2000).max(2000), y: z.number().min(-2000).max(2000) }))
	.min(2)
	.max(8)
	.optional();

export const printed = says('print', 'a print', ['line', 'results'], {
	runId,
	panel,
	printAttempt,
	stroke: z.enum(['F', 'R']).meta({ title: 'Stroke' }),
	printsSinceWipe: count.meta({ title: 'Prints since the wipe' }),
	printsSinceTopup: count.optional().meta({ title: 'Prints since the top-up' }),
	/** Since the print before it; 0 for the first one. */
	minutesSincePrevious: z.number().nonnegative().max(100_000).optional().meta({ title: 'Since the print before', unit: 'min' }),
	/** The marks that the camera read, mm: stencil and board in one machine frame, in the same order. */
	stencilMarks: marks.meta({ title: 'Marks of the stencil', unit: 'mm' }),
	boardMarks: marks.meta({ title: 'Marks of the board', unit: 'mm' }),
	cycleS: seconds.meta({ title: 'Cycle', unit: 's' })
});

/** Paste put on the stencil from a jar whose label the printer or its operator scanned: a fact, whether it was allowed or not. */
export const pasteLoaded = says('paste_loaded', 'paste put on the stencil', ['paste', 'line'], {
	runId,
	jar: z.string().trim().min(1).max(40).meta({ title: 'Jar' }),
	grams: z.number().positive().max(2000).meta({ title: 'Paste', unit: 'g' })
});

export type PrintMessage = Said<typeof printed> | Said<typeof pasteLoaded>;
