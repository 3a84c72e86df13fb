import { mean } from '../numerics/index.ts';

/** A correction of the print offset from the last panels, damped so that noise is not chased.
 * −λ·mean, with front and rear averaged apart first, and nothing inside the deadband.
 * @param offsetsUm one mean offset a panel with its stroke, µm
 * @returns the correction to enter, µm; 0 inside the deadband
 */
export function offsetCorrection(
	offsetsUm: readonly { offsetUm: number; stroke: string }[],
	lambda = 0.3,
	deadbandUm = 10
): { correctionUm: number; meanUm: number; noiseSdFactor: number } {
	const strokes = [...new Set(offsetsUm.map((o) => o.stroke))];
	const centre = strokes.length ? mean(strokes.map((s) => mean(offsetsUm.filter((o) => o.stroke === s).map((o) => o.offsetUm)))) : 0;
	return {
		correctionUm: Math.abs(centre) <= deadbandUm ? 0 : -lambda * centre,
		meanUm: centre,
		// On pure noise the corrected process has this many times the spread of the uncorrected one.
		noiseSdFactor: Math.sqrt(2 / (2 - lambda))
	};
}
