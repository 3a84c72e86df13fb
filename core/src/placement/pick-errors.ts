import { InputError } from '../judgement/index.ts';

/** Picks and failed picks of one feeder by one nozzle. */
export interface PickCount {
	feeder: string;
	nozzle: string;
	picks: number;
	errors: number;
}

export interface PickCause {
	kind: 'feeder' | 'nozzle';
	name: string;
	/** Its rate against that of the others, causes found before taken out. */
	ratio: number;
	errors: number;
	/** Twice the log of how much better it explains the errors. */
	gain: number;
}

/** A cause must explain more than chance does among so many candidates. */
const MARGIN = 8;
/** So many causes are told apart. */
const MOST_CAUSES = 6;

/** What makes picks fail: feeders and nozzles whose rate stands out, one after the other, each with those before it taken out. Never by the count of errors: the busiest would look worst.
 * @returns the strongest first; empty where nothing stands out
 * @throws {InputError} `out-of-range` for counts that cannot be
 */
export function pickCauses(counts: readonly PickCount[]): PickCause[] {
	counts.forEach(({ picks, errors }, i) => {
		if (!(Number.isInteger(picks) && picks >= 0))
			throw new InputError('out-of-range', `counts.${i}.picks`, 'a whole number, 0 or more', picks);
		if (!(Number.isInteger(errors) && errors >= 0 && errors <= picks))
			throw new InputError('out-of-range', `counts.${i}.errors`, `0 to ${picks}`, errors);
	});
	const candidates = (['feeder', 'nozzle'] as const).flatMap((kind) =>
		[...new Set(counts.map((c) => c[kind]))].map((name) => ({ kind, name }))
	);
	const least = MARGIN + 2 * Math.log(Math.max(1, candidates.length));
	/** Picks, as many times as what was found makes them fail more often. */
	const weights = counts.map(({ picks }) => picks);
	const found: PickCause[] = [];
	while (found.length < MOST_CAUSES) {
		const best = candidates
			.filter(({ kind, name }) => !found.some((f) => f.kind === kind && f.name === name))
			.map((candidate) => ({ ...candidate, ...standsOut(counts, weights, candidate) }))
			.reduce<PickCause | null>((a, b) => (b.ratio > 1 && (!a || b.gain > a.gain) ? b : a), null);
		if (!best || best.gain <= least) return found;
		found.push(best);
		counts.forEach((c, i) => {
			if (c[best.kind] === best.name) weights[i] = weights[i]! * best.ratio;
		});
	}
	return found;
}

/** Poisson likelihood of a rate of its own for some rows, against one rate for all. */
function standsOut(counts: readonly PickCount[], weights: readonly number[], { kind, name }: Pick<PickCause, 'kind' | 'name'>) {
	let [errorsIn, weightIn, errorsOut, weightOut] = [0, 0, 0, 0];
	counts.forEach((c, i) => {
		if (c[kind] === name) [errorsIn, weightIn] = [errorsIn + c.errors, weightIn + weights[i]!];
		else [errorsOut, weightOut] = [errorsOut + c.errors, weightOut + weights[i]!];
	});
	const rate = (errorsIn + errorsOut) / (weightIn + weightOut);
	const part = (errors: number, weight: number) => (errors === 0 ? 0 : errors * Math.log(errors / (rate * weight)));
	return {
		// With nothing to be compared with there is no ratio; with no error elsewhere half a one is counted there.
		ratio: weightIn > 0 && weightOut > 0 ? errorsIn / weightIn / (Math.max(errorsOut, 0.5) / weightOut) : 0,
		errors: errorsIn,
		gain: 2 * (part(errorsIn, weightIn) + part(errorsOut, weightOut))
	};
}
