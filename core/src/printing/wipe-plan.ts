import { InputError, type Verdict } from '../judgement/index.ts';
import { leastSquares, normalCdf, studentQuantile } from '../numerics/index.ts';

export interface WipeAdvice {
	/** Mean at the first print after a wipe, %. */
	a: number;
	/** Change a print, %. */
	b: number;
	standardError: number;
	/** One-sided 95 % worst slope, % a print. */
	bLow: number;
	/** Prints between wipes that the drift allows; 0: wiping cannot save this opening; null: no significant fall. */
	allows: number | null;
	/** Longest interval seen: largest counter + 1. */
	observed: number;
	/** What may be tried next: never beyond twice the longest interval seen. */
	offer: number;
	verdict: Verdict;
}

/** Prints between wipes from the measured drift of the worst class: y = a + b·n, n = prints since the wipe, 0 first.
 * b_low = b − t(0.95, df)·SE; N = floor((a − z·σ_pad − LSL)/(−b_low)) + 1.
 * @param readings class mean of a panel with its counter; at least four
 * @param padSigma spread of single pads, %; @param lowestPct lower limit
 * @param longest the plant's cap
 * @see least squares; checks/print.test.ts
 */
export function wipeInterval(
	readings: readonly { sinceWipe: number; meanPct: number }[],
	padSigma: number,
	lowestPct: number,
	longest = 30,
	z = 3
): WipeAdvice {
	if (readings.length < 4) throw new InputError('empty', 'readings', 'at least four panels', readings.length);
	readings.forEach((r, i) => {
		if (!Number.isInteger(r.sinceWipe) || r.sinceWipe < 0)
			throw new InputError('out-of-range', `readings[${i}].sinceWipe`, 'a counter of 0 or more', r.sinceWipe);
		if (!Number.isFinite(r.meanPct)) throw new InputError('not-finite', `readings[${i}].meanPct`, 'a number', r.meanPct);
	});
	const fit = leastSquares(
		readings.map((r) => [1, r.sinceWipe]),
		readings.map((r) => r.meanPct)
	);
	const [a, b] = fit.coefficients as [number, number];
	const standardError = fit.standardErrors[1]!;
	const t = studentQuantile(0.95, fit.freedom);
	const bLow = b - t * standardError;
	const falls = b + t * standardError < 0;
	const room = a - z * padSigma - lowestPct;
	const allows = falls ? Math.max(0, Math.floor(room / -bLow) + 1) : null;
	const observed = Math.max(...readings.map((r) => r.sinceWipe)) + 1;
	const offer = Math.max(0, Math.min(allows ?? longest, longest, 2 * observed));
	const because = [
		{
			quantity: 'Drift between wipes',
			value: b,
			unit: '% a print',
			limit: null,
			source: 'least squares over the panels',
			formula: `y = ${a.toFixed(2)} ${b < 0 ? '−' : '+'} ${Math.abs(b).toFixed(4)}·n; worst slope ${bLow.toFixed(4)} (95 %, one-sided)`
		},
		{
			quantity: 'Prints between wipes that the drift allows',
			value: allows,
			unit: '',
			limit: `${z} pad spreads above ${lowestPct} %`,
			source: 'common practice',
			formula: `floor((${a.toFixed(1)} − ${z}·${padSigma.toFixed(2)} − ${lowestPct}) / ${(-bLow).toFixed(4)}) + 1`
		}
	];
	const verdict: Verdict =
		allows === 0 || room <= 0
			? {
					level: 'act',
					statement: 'Wiping cannot save this opening: it is too low right after a wipe.',
					because,
					doNext: ['Clean the stencil and look through it', 'Check the foil against this opening']
				}
			: allows === null
				? { level: 'good', statement: `No fall between wipes: up to ${offer} prints.`, because, doNext: [`Wipe every ${offer} prints`] }
				: {
						level: allows < observed ? 'act' : 'good',
						statement:
							offer < allows
								? `The drift allows ${allows} prints; intervals of ${observed} were seen: try ${offer}, then measure again.`
								: `The drift allows ${allows} prints between wipes.`,
						because,
						doNext: [
							`Wipe every ${offer} prints`,
							...(offer % 2 === 0 ? ['Make one interval in ten odd: with even intervals stroke and wipe cannot be told apart'] : [])
						]
					};
	return { a, b, standardError, bLow, allows: room <= 0 ? 0 : allows, observed, offer: room <= 0 ? 0 : offer, verdict };
}

export interface WipeClass {
	pads: number;
	/** Mean at the first print after a wipe, %. */
	mean: number;
	sigma: number;
	/** Change a print, %. */
	slope: number;
	lowestPct: number;
}

/** Cost of a panel at each interval: t_w·c_s/N + c_d·(1/N)·Σ_{n<N} Σ_class pads·Φ((LSL−(μ+b·n))/σ).
 * @param wipeS seconds a wipe; @param costPerS of line time; @param costPerDefect
 */
export function wipeCosts(
	wipeS: number,
	costPerS: number,
	costPerDefect: number,
	classes: readonly WipeClass[],
	longest = 60
): { best: number; costs: number[] } {
	const costs: number[] = [];
	let defects = 0;
	for (let n = 1; n <= longest; n++) {
		for (const c of classes) defects += c.pads * normalCdf((c.lowestPct - (c.mean + c.slope * (n - 1))) / c.sigma);
		costs.push((wipeS * costPerS + costPerDefect * defects) / n);
	}
	return { best: costs.indexOf(Math.min(...costs)) + 1, costs };
}

/** Wipes when the next panel is too likely to fall below the limit: an average of the wipe-corrected mean, weighted to the latest panels.
 * @returns after which panels it would have wiped, and what the fixed interval did: seconds saved, panels below the limit
 */
export function replayAdaptiveWipe(
	panels: readonly { meanPct: number; sinceWipe: number }[],
	drift: { b: number; sigma: number; lowestPct: number },
	options: { lambda?: number; risk?: number; wipeS: number; fixedEvery: number; longest?: number }
): { wipesAfter: number[]; savedS: number; belowFixed: number; belowAdaptive: number } {
	const { lambda = 0.3, risk = 0.01, wipeS, fixedEvery, longest = 30 } = options;
	const first = panels[0];
	if (!first) return { wipesAfter: [], savedS: 0, belowFixed: 0, belowAdaptive: 0 };
	let level = first.meanPct - drift.b * first.sinceWipe;
	let n = 0;
	const wipesAfter: number[] = [];
	let [belowFixed, belowAdaptive] = [0, 0];
	panels.forEach((p, i) => {
		const corrected = p.meanPct - drift.b * p.sinceWipe;
		level = lambda * corrected + (1 - lambda) * level;
		if (p.meanPct < drift.lowestPct) belowFixed++;
		if (corrected + drift.b * n < drift.lowestPct) belowAdaptive++;
		const next = level + drift.b * (n + 1);
		if (normalCdf((drift.lowestPct - next) / drift.sigma) > risk || n + 1 >= longest) {
			wipesAfter.push(i);
			n = 0;
		} else n++;
	});
	return { wipesAfter, savedS: (Math.floor(panels.length / fixedEvery) - wipesAfter.length) * wipeS, belowFixed, belowAdaptive };
}
