import { InputError, type Verdict } from '../judgement/index.ts';
import { leastSquares, mean, seededRandom, studentQuantile } from '../numerics/index.ts';

/** What a trial of the printer varies. */
export const TRIAL_FACTORS = ['force', 'speed', 'separation'] as const;
export type TrialFactor = (typeof TRIAL_FACTORS)[number];

export interface TrialRange {
	low: number;
	high: number;
	unit: string;
}

export interface TrialSetting {
	/** −1, 0 or +1 of each factor. */
	coded: Record<TrialFactor, number>;
	value: Record<TrialFactor, number>;
	centre: boolean;
}

/** The settings of a 2³ trial with centre points, in a drawn order so that drift is not taken for an effect.
 * The centre is printed first, in the middle and last.
 * @param ranges low and high of each factor, in its own unit
 * @throws {InputError} naming the factor
 */
export function planTrial(ranges: Record<TrialFactor, TrialRange>, seed: number): TrialSetting[] {
	for (const factor of TRIAL_FACTORS) {
		const { low, high } = ranges[factor];
		if (!(low > 0)) throw new InputError('out-of-range', `${factor}.low`, 'more than 0', low);
		if (!(high > low)) throw new InputError('mismatch', `${factor}.high`, 'more than the low setting', high);
	}
	const setting = (force: number, speed: number, separation: number): TrialSetting => {
		const coded = { force, speed, separation };
		const value = { ...coded };
		for (const f of TRIAL_FACTORS) value[f] = (ranges[f].low + ranges[f].high) / 2 + (coded[f] * (ranges[f].high - ranges[f].low)) / 2;
		return { coded, value, centre: force === 0 && speed === 0 && separation === 0 };
	};
	const corners: TrialSetting[] = [];
	for (const force of [-1, 1])
		for (const speed of [-1, 1]) for (const separation of [-1, 1]) corners.push(setting(force, speed, separation));
	const random = seededRandom(seed);
	for (let i = corners.length - 1; i > 0; i--) {
		const j = random.integer(i + 1);
		[corners[i], corners[j]] = [corners[j]!, corners[i]!];
	}
	const centre = setting(0, 0, 0);
	return [centre, ...corners.slice(0, 4), centre, ...corners.slice(4), centre];
}

/** Which setting each panel was printed with: those after a setting was set and before the next one; null before the first and after the end.
 * @param steps in the order in which they were set
 */
export function settingOfPrints(
	steps: readonly { setting: number; fromMs: number }[],
	endedMs: number | null,
	printedMs: readonly number[]
): (number | null)[] {
	return printedMs.map((ms) => (endedMs !== null && ms > endedMs ? null : (steps.findLast((step) => step.fromMs <= ms)?.setting ?? null)));
}

/** One panel of a trial: what it was printed with, by which stroke, and what came out. */
export interface TrialPanel {
	coded: Record<TrialFactor, number>;
	stroke: string;
	/** Mean volume of the small openings, %. */
	response: number;
}

export interface TrialEffect {
	name: string;
	/** Change from low to high, % of volume. */
	effect: number;
	low: number;
	high: number;
	real: boolean;
}

export interface TrialReading {
	stroke: string;
	panels: number;
	effects: TrialEffect[];
	/** Mean of the corners less that of the centre: the response bends where it is real. */
	curvature: TrialEffect | null;
	/** Spread of panels at one setting, %. */
	sigma: number;
	/** The corner that comes nearest to the target, by the real effects. */
	best: { coded: Record<TrialFactor, number>; expected: number } | null;
}

const TERMS: [name: string, factors: TrialFactor[]][] = [
	['force', ['force']],
	['speed', ['speed']],
	['separation', ['separation']],
	['force × speed', ['force', 'speed']],
	['force × separation', ['force', 'separation']],
	['speed × separation', ['speed', 'separation']]
];

/** Effects of a 2³ trial with centre points, for each stroke apart: the blades are two tools.
 * @param target the response that is wanted, %
 * @throws {InputError} `empty` where a stroke lacks a corner
 */
export function readTrial(panels: readonly TrialPanel[], target = 100): { strokes: TrialReading[]; verdict: Verdict } {
	const strokes = [...new Set(panels.map((p) => p.stroke))].sort().map((stroke) =>
		readStroke(
			stroke,
			panels.filter((p) => p.stroke === stroke),
			target
		)
	);
	const real = strokes.flatMap((s) => s.effects.filter((e) => e.real).map((e) => ({ ...e, stroke: s.stroke })));
	const bends = strokes.filter((s) => s.curvature?.real);
	const strongest = [...real].sort((a, b) => Math.abs(b.effect) - Math.abs(a.effect))[0];
	const because = real.map((e) => ({
		quantity: `${e.name}, ${e.stroke} stroke`,
		value: `${e.effect > 0 ? '+' : ''}${e.effect.toFixed(1)} (${e.low.toFixed(1)} to ${e.high.toFixed(1)})`,
		unit: '% volume, low to high',
		limit: 'its interval leaves 0 out',
		source: 'least squares over the trial’s panels'
	}));
	if (strokes.length === 0)
		return { strokes, verdict: { level: 'noData', statement: 'No panel of the trial is measured.', because, doNext: [] } };
	if (!strongest)
		return {
			strokes,
			verdict: {
				level: 'good',
				statement: 'Within these ranges nothing that was varied changes the volume more than chance.',
				because,
				doNext: ['Keep the recipe; choose the setting that is fastest']
			}
		};
	return {
		strokes,
		verdict: {
			level: 'watch',
			statement: `${strongest.name} moves the volume most: ${strongest.effect > 0 ? '+' : ''}${strongest.effect.toFixed(1)} % from low to high.`,
			because,
			doNext: [
				...(bends.length
					? ['The response bends: the best setting lies inside the range, try the middle']
					: ['Print 6 panels at the proposed corner to confirm']),
				'Change the recipe only after the confirming prints'
			]
		}
	};
}

function readStroke(stroke: string, panels: readonly TrialPanel[], target: number): TrialReading {
	const corners = panels.filter((p) => TRIAL_FACTORS.every((f) => p.coded[f] !== 0));
	const middle = panels.filter((p) => TRIAL_FACTORS.every((f) => p.coded[f] === 0));
	const kinds = new Set(corners.map((p) => TRIAL_FACTORS.map((f) => p.coded[f]).join()));
	if (kinds.size < 8) throw new InputError('empty', `stroke ${stroke}`, 'panels at all 8 corners', kinds.size);
	const fit = leastSquares(
		corners.map((p) => [1, ...TERMS.map(([, factors]) => factors.reduce((v, f) => v * p.coded[f], 1))]),
		corners.map((p) => p.response)
	);
	// The spread of equal settings: from the corners' residuals and the centre's own repeats.
	const centreMean = middle.length ? mean(middle.map((p) => p.response)) : NaN;
	const squares = fit.residuals.reduce((sum, r) => sum + r * r, 0) + middle.reduce((sum, p) => sum + (p.response - centreMean) ** 2, 0);
	const freedom = fit.freedom + Math.max(0, middle.length - 1);
	const sigma = Math.sqrt(squares / Math.max(1, freedom));
	const t = studentQuantile(0.975, Math.max(1, freedom));
	const effect = (name: string, value: number, error: number): TrialEffect => ({
		name,
		effect: value,
		low: value - t * error,
		high: value + t * error,
		real: Math.abs(value) > t * error
	});
	const effects = TERMS.map(([name], i) => effect(name, 2 * fit.coefficients[i + 1]!, (2 * sigma) / Math.sqrt(corners.length)));
	const bend = middle.length
		? effect('curvature', fit.coefficients[0]! - centreMean, sigma * Math.sqrt(1 / corners.length + 1 / middle.length))
		: null;
	const expected = (coded: Record<TrialFactor, number>) =>
		TERMS.reduce(
			(sum, [, factors], i) => sum + (effects[i]!.real ? fit.coefficients[i + 1]! * factors.reduce((v, f) => v * coded[f], 1) : 0),
			fit.coefficients[0]!
		);
	const tried = corners.map((p) => ({ coded: p.coded, expected: expected(p.coded) }));
	const best = effects.some((e) => e.real)
		? tried.reduce((a, b) => (Math.abs(b.expected - target) < Math.abs(a.expected - target) ? b : a))
		: null;
	return { stroke, panels: panels.length, effects, curvature: bend, sigma, best };
}
