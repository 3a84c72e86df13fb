import { InputError } from '../judgement/index.ts';
import type { HeadProgram } from './program.ts';

/** Share of a panel's circuits that are built where some are left out: pieces and time are paid for those alone.
 * @param skipped circuits that are marked to be left out, from 0
 * @throws {InputError} `out-of-range` for a circuit that the panel has not, `mismatch` for one named twice
 * @example builtShare([1], 4) // => 0.75
 */
export function builtShare(skipped: readonly number[], circuits: number): number {
	const wrong = skipped.find((circuit) => !(Number.isInteger(circuit) && circuit >= 0 && circuit < circuits));
	if (wrong !== undefined) throw new InputError('out-of-range', 'skipped', `circuits 0 to ${circuits - 1}`, wrong);
	if (new Set(skipped).size !== skipped.length) throw new InputError('mismatch', 'skipped', 'each circuit once', skipped.join(', '));
	return circuits === 0 ? 1 : 1 - skipped.length / circuits;
}

/** A program without the placements of circuits that are left out: what the machine does with a panel on which they are marked. */
export function withoutCircuits({ nozzles, cycles }: HeadProgram, skipped: readonly number[]): HeadProgram {
	const out = new Set(skipped);
	return {
		nozzles,
		cycles: cycles
			.map(({ held, order }) => {
				const kept = held.map((placement) => (placement && !out.has(placement.circuit) ? placement : null));
				return { held: kept, order: order.filter((spindle) => kept[spindle]) };
			})
			.filter(({ order }) => order.length > 0)
	};
}
