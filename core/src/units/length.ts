/** Exact by definition: 1 inch = 25.4 mm, 1 mil = 0.0254 mm. */
export const MM_PER = { mm: 1, inch: 25.4, mil: 0.0254, um: 0.001 } as const;
export type LengthUnit = keyof typeof MM_PER;
