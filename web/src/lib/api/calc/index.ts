import { artwork } from './artwork.ts';
import type { Calculation } from './calculation.ts';
import { line } from './line.ts';
import { reflow } from './reflow.ts';
import { results } from './results.ts';

export type { Calculation } from './calculation.ts';

/** Every calculation of the core that a page uses, in line order. */
export const CALCULATIONS: readonly Calculation[] = [...artwork, ...line, ...reflow, ...results];

export const calculationByName = new Map(CALCULATIONS.map((c) => [c.name, c]));
