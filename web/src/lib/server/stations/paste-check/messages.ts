import { PAD_CLASSES } from '@keen-relay/core/parts';
import { z } from 'zod';
import { inspectionAttempt, numbers, panel, printAttempt, says, type Said } from '../message-parts.ts';

const int16 = numbers(-3276, 3276);
const offsets = numbers(-30_000, 30_000);
const pads = z.int().positive().max(200_000);

export const pasteInspection = says('paste_inspection', 'every deposit of a panel', ['line', 'results'], {
	panel,
	printAttempt,
	inspectionAttempt,
	/** Circuit by circuit, in the stable order of the openings. */
	volumePct: int16.meta({ title: 'Volume', unit: '%' }),
	heightUm: int16.meta({ title: 'Height', unit: 'µm' }),
	areaPct: int16.meta({ title: 'Area', unit: '%' }),
	offsetXUm: offsets.meta({ title: 'Offset X', unit: 'µm' }),
	offsetYUm: offsets.meta({ title: 'Offset Y', unit: 'µm' }),
	/** Where the unit gives it: highest point of each deposit. */
	peakHeightUm: int16.optional().meta({ title: 'Highest point', unit: 'µm' }),
	/** Pads whose deposit touches the next one, by index. */
	bridgedPads: z.array(z.int().nonnegative().max(100_000)).max(5000).optional().meta({ title: 'Bridged pads' })
});

/** What is left of an inspection whose pad readings were not kept: an older day, or a machine that sends no more. */
export const pasteSums = says('paste_summary', 'sums of a panel by class', ['line', 'results'], {
	panel,
	printAttempt,
	inspectionAttempt,
	classes: z
		.array(
			z.object({
				padClass: z.enum(PAD_CLASSES).meta({ title: 'Class' }),
				pads: pads.meta({ title: 'Pads' }),
				fails: z.int().nonnegative().max(200_000).meta({ title: 'Failed' }),
				warnings: z.int().nonnegative().max(200_000).meta({ title: 'Warned' }),
				meanVolumePct: z.number().min(0).max(3276).meta({ title: 'Mean volume', unit: '%' }),
				sdVolumePct: z.number().min(0).max(3276).meta({ title: 'Spread', unit: '%' })
			})
		)
		.min(1)
		.max(20)
		.meta({ title: 'Classes' }),
	worst: z
		.array(
			z.object({
				pad: z.int().nonnegative().max(200_000).meta({ title: 'Pad' }),
				code: z.string().min(1).max(40).meta({ title: 'Code' }),
				volumePct: z.number().min(-3276).max(3276).meta({ title: 'Volume', unit: '%' })
			})
		)
		.max(60)
		.default([])
		.meta({ title: 'Worst pads' })
});

export type PasteCheckMessage = Said<typeof pasteInspection> | Said<typeof pasteSums>;
