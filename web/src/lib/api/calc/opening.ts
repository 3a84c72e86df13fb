import { z } from 'zod';

/** What of an opening the calculations take. */
export const opening = z.object({
	areaMm2: z.number().positive(),
	perimeterMm: z.number().positive(),
	widthMm: z.number().positive(),
	lengthMm: z.number().positive(),
	/** Its area at the board side, where the taper of the walls is known. */
	boardSideAreaMm2: z.number().positive().optional(),
	/** Its shape’s own factor on the transfer curve. */
	transferFactor: z.number().positive().optional()
});
