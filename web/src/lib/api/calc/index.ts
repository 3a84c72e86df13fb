import { artwork } from './artwork.ts';
import type { Calculation } from './calculation.ts';
import { feeders } from './feeders.ts';
import { line } from './line.ts';
import { pasteCalculations } from './paste.ts';
import { placement } from './placement.ts';
import { printing } from './printing.ts';
import { pasteResults } from './paste-results.ts';
import { reflow } from './reflow.ts';
import { stencilCalculations } from './stencil.ts';
import { results } from './results.ts';

export type { Calculation } from './calculation.ts';

/** Every calculation of the core that a page uses, in line order. */
export const CALCULATIONS: readonly Calculation[] = [
	...pasteCalculations,
	...artwork,
	...stencilCalculations,
	...printing,
	...pasteResults,
	...line,
	...feeders,
	...placement,
	...reflow,
	...results
];

export const calculationByName = new Map(CALCULATIONS.map((c) => [c.name, c]));
