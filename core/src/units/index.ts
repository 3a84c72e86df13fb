/** Exact by definition: 1 inch = 25.4 mm, 1 mil = 0.0254 mm. */
export const MM_PER = { mm: 1, inch: 25.4, mil: 0.0254, um: 0.001 } as const;
export type LengthUnit = keyof typeof MM_PER;

/** Rounds half away from zero to a number of decimals, for display and for file output only.
 * @example roundTo(2.345, 2) // => 2.35
 */
export function roundTo(value: number, decimals: number): number {
	const scale = 10 ** decimals;
	return (Math.sign(value) * Math.round(Math.abs(value) * scale + 1e-9)) / scale;
}

/** A duration the way a person says it: "48 s", "14 min", "3 h 05". */
export function sayDuration(seconds: number): string {
	const s = Math.max(0, Math.round(seconds));
	if (s < 60) return `${s} s`;
	const minutes = Math.round(s / 60);
	if (minutes < 60) return `${minutes} min`;
	return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}
