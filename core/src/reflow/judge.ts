import type { Reason, Verdict } from '../judgement/index.ts';
import type { Spot } from './board-heat.ts';
import { profileMetrics, type ProfileMetrics } from './metrics.ts';
import { checkRecipe, type Oven, type OvenRecipe } from './oven.ts';
import { predictCurve, type Curve } from './predict.ts';
import { windowUse, type Limit, type MetricName, type PasteWindow } from './window.ts';

/** Chord of the ramps, s. */
export const RAMP_WINDOW_S = 10;

export interface SpotProfile {
	spot: Spot;
	curve: Curve;
	metrics: ProfileMetrics;
	/** Window use by metric, %; null where the metric does not exist (never reached). */
	use: Record<MetricName, number | null>;
	worst: { metric: MetricName; use: number };
}

export interface ProfileCheck {
	spots: SpotProfile[];
	/** Largest absolute window use over spots and metrics, %; Infinity where a metric is missing. */
	usePct: number;
	verdict: Verdict;
}

export const METRIC_WORDS: Record<MetricName, { name: string; unit: string }> = {
	rise: { name: 'rise', unit: '°C/s' },
	soak: { name: 'soak time', unit: 's' },
	aboveReference: { name: 'time above reference', unit: 's' },
	peak: { name: 'peak', unit: '°C' },
	fall: { name: 'fall', unit: '°C/s' }
};

/** Predicts every spot and judges the recipe against a paste's window.
 * Up to 60 % use is comfortable, up to 80 good enough to release, up to 100 only watched, above that it is not run (common practice, editable).
 * @throws {InputError} where the recipe does not fit the oven
 */
export function checkProfile(oven: Oven, recipe: OvenRecipe, spots: readonly Spot[], window: PasteWindow): ProfileCheck {
	checkRecipe(oven, recipe);
	const profiles = spots.map((spot) => profileOf(oven, recipe, spot, window));
	const usePct = Math.max(...profiles.map((profile) => profile.worst.use));
	return { spots: profiles, usePct, verdict: judge(profiles, usePct, window) };
}

function profileOf(oven: Oven, recipe: OvenRecipe, spot: Spot, window: PasteWindow): SpotProfile {
	const curve = predictCurve(oven, recipe, spot.tau);
	const metrics = profileMetrics(curve.timeS, curve.tempC, { ...window, windowS: RAMP_WINDOW_S });
	const values = valuesOf(metrics);
	const use = {} as SpotProfile['use'];
	let worst: SpotProfile['worst'] = { metric: 'peak', use: 0 };
	for (const metric of Object.keys(window.limits) as MetricName[]) {
		const value = values[metric];
		use[metric] = value === null ? null : windowUse(value, window.limits[metric]);
		const size = use[metric] === null ? Infinity : Math.abs(use[metric]);
		if (size > worst.use) worst = { metric, use: size };
	}
	return { spot, curve, metrics, use, worst };
}

export function valuesOf(m: ProfileMetrics): Record<MetricName, number | null> {
	return { rise: m.maxRiseCPerS, soak: m.soakS, aboveReference: m.aboveReferenceS, peak: m.peakC, fall: m.maxFallCPerS };
}

function sayLimit(limit: Limit): string {
	return 'max' in limit ? `at most ${limit.max}, aim ${limit.target}` : `${limit.low} to ${limit.high}`;
}

function judge(profiles: readonly SpotProfile[], usePct: number, window: PasteWindow): Verdict {
	const worst = profiles.reduce((a, b) => (b.worst.use > a.worst.use ? b : a));
	const { metric } = worst.worst;
	const because: Reason[] = profiles.flatMap((profile) =>
		(Object.keys(window.limits) as MetricName[]).map((name) => ({
			quantity: `${METRIC_WORDS[name].name}, ${profile.spot.name} spot`,
			value: valuesOf(profile.metrics)[name],
			unit: METRIC_WORDS[name].unit,
			limit: sayLimit(window.limits[name]),
			source: window.source,
			formula: `uses ${profile.use[name] === null ? '–' : profile.use[name].toFixed(0)} % of its window; ramps over ${RAMP_WINDOW_S} s`
		}))
	);
	because.sort((a, b) => useOf(b) - useOf(a));
	const where = `${METRIC_WORDS[metric].name} at the ${worst.spot.name} spot (${worst.spot.at})`;
	if (!Number.isFinite(usePct))
		return {
			level: 'act',
			statement: `Do not run: the ${worst.spot.name} spot never completes its ${METRIC_WORDS[metric].name}.`,
			because,
			doNext: ['Raise the zones or slow the belt']
		};
	if (usePct > 100) {
		const broken = profiles.flatMap((p) => Object.values(p.use).filter((u) => u === null || Math.abs(u) > 100)).length;
		return {
			level: 'act',
			statement: `Do not run: ${where} is outside${broken > 1 ? `, and ${broken - 1} more` : ''}.`,
			because,
			doNext: []
		};
	}
	if (usePct > 80)
		return {
			level: 'watch',
			statement: `Just inside: ${where} uses ${usePct.toFixed(0)} % of its window.`,
			because,
			doNext: ['Run the profile board before product']
		};
	return { level: 'good', statement: `${where[0]!.toUpperCase()}${where.slice(1)} is nearest its limit.`, because, doNext: [] };
}

function useOf(reason: Reason): number {
	const match = /uses (-?\d+)/.exec(reason.formula ?? '');
	return match ? Math.abs(Number(match[1])) : Infinity;
}

export interface Move {
	/** "Zone 6 up 5 K": a difference, which pages say in degrees of their reader. */
	action: string;
	recipe: OvenRecipe;
	usePct: number;
}

/** The single changes that bring a profile furthest inside, best first.
 * Every zone ±5 °C and the belt ±2 cm/min is tried with the full model; changes that the oven does not allow are left out.
 */
export function bestMoves(oven: Oven, recipe: OvenRecipe, spots: readonly Spot[], window: PasteWindow): Move[] {
	const now = score(oven, recipe, spots, window);
	const moves: (Move & { score: number })[] = [];
	const attempt = (action: string, changed: OvenRecipe) => {
		try {
			checkRecipe(oven, changed);
		} catch {
			return;
		}
		const found = score(oven, changed, spots, window);
		if (found.score < now.score - 1e-6) moves.push({ action, recipe: changed, usePct: found.usePct, score: found.score });
	};
	recipe.setC.forEach((_, i) => {
		for (const d of [5, -5])
			attempt(`Zone ${i + 1} ${d > 0 ? 'up' : 'down'} 5 K`, { ...recipe, setC: recipe.setC.map((c, k) => (k === i ? c + d : c)) });
	});
	for (const d of [2, -2])
		attempt(`Belt ${recipe.beltCmPerMin} to ${recipe.beltCmPerMin + d} cm/min`, { ...recipe, beltCmPerMin: recipe.beltCmPerMin + d });
	return moves.sort((a, b) => a.score - b.score).map(({ action, recipe: r, usePct }) => ({ action, recipe: r, usePct }));
}

/** A zone that is cooler than the one before it counts as this much window use for each °C. */
const SAWTOOTH_PCT_PER_C = 5;

/** The largest use decides; a small share of all the others keeps a move that helps elsewhere, and unreached metrics count by their peak. */
function score(oven: Oven, recipe: OvenRecipe, spots: readonly Spot[], window: PasteWindow) {
	let usePct = 0;
	let rest = 0;
	for (const spot of spots) {
		const profile = profileOf(oven, recipe, spot, window);
		for (const u of Object.values(profile.use)) {
			const size = u === null ? 400 : Math.abs(u);
			usePct = Math.max(usePct, u === null ? Infinity : size);
			rest += size ** 4;
		}
		if (profile.metrics.aboveReferenceS === 0) rest += (200 + window.referenceC - profile.metrics.peakC) ** 4;
	}
	// A saw-tooth of zones is no better for being a little further inside, and nobody trusts it.
	for (let i = 1; i < recipe.setC.length; i++) rest += (SAWTOOTH_PCT_PER_C * Math.max(0, recipe.setC[i - 1]! - recipe.setC[i]!)) ** 4;
	return { usePct, score: rest ** 0.25 };
}

/** Improves a recipe step by step: the best single change is taken until none helps.
 * @returns the tuned recipe with its use; the steps tried stay within the oven's limits
 */
export function* tuneRecipe(
	oven: Oven,
	start: OvenRecipe,
	spots: readonly Spot[],
	window: PasteWindow,
	mostSteps = 60
): Generator<{ progress: number; best: OvenRecipe }, { recipe: OvenRecipe; usePct: number }> {
	let recipe = start;
	for (let step = 0; step < mostSteps; step++) {
		const move = bestMoves(oven, recipe, spots, window)[0];
		if (!move) break;
		recipe = move.recipe;
		yield { progress: step / mostSteps, best: recipe };
	}
	return { recipe, usePct: score(oven, recipe, spots, window).usePct };
}

/** A recipe to start from: even steps to 185 °C, then up to the peak air; not tuned to any board. */
export function startingRecipe(oven: Oven, window: PasteWindow): OvenRecipe {
	const n = oven.zoneM.length;
	const last = window.limits.peak;
	const top = ('low' in last ? last.high : last.max) + 10;
	const ramp = Math.max(1, n - 3);
	const setC = Array.from({ length: n }, (_, i) =>
		i < ramp ? Math.round((110 + ((window.soakToC - 15 - 110) * i) / Math.max(1, ramp - 1)) / 5) * 5 : 0
	);
	[top - 45, top - 15, top].slice(-Math.min(3, n - ramp)).forEach((c, k) => (setC[ramp + k] = Math.round(c / 5) * 5));
	// Few zones make large steps: the earlier ones come up until the oven can do them.
	for (let i = n - 1; i > 0; i--) setC[i - 1] = Math.max(setC[i - 1]!, setC[i]! - oven.stepMaxC);
	const heated = oven.zoneM.reduce((sum, m) => sum + m, 0);
	const belt = Math.round((heated * 100) / 4.6);
	return { setC, beltCmPerMin: Math.min(oven.beltMaxCmPerMin, Math.max(oven.beltMinCmPerMin, belt)) };
}
