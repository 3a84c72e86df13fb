import { DEFAULT_TRANSFER } from '@keen-relay/core/stencil';
import { z } from 'zod';

/** The transfer curve; the model's values to start from where none is given. */
export const model = z
	.object({ teMax: z.number().positive(), k: z.number().positive(), a0: z.number().positive() })
	.default(DEFAULT_TRANSFER);

/** What of an opening the calculations take. */
export const opening = z.object({
	areaMm2: z.number().positive(),
	perimeterMm: z.number().positive(),
	widthMm: z.number().positive(),
	lengthMm: z.number().positive(),
	/** Its area at the board side, where the taper of the walls is known. */
	boardSideAreaMm2: z.number().positive().optional(),
	/** Least area ratio of this very opening, where it is another than the wall’s. */
	areaRatioLimit: z.number().min(0.3).max(1.5).optional(),
	/** Its shape’s own factor on the transfer curve. */
	transferFactor: z.number().positive().optional()
});
