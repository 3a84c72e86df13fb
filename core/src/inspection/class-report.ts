import { classCapability, ewmaChart, individualsChart, type Capability } from '../control/index.ts';
import { leastSquares, mean, median, standardDeviation } from '../numerics/index.ts';
import { PAD_CLASSES, type PadClass } from '../parts/index.ts';
import { wipeInterval, type WipeAdvice, type WipeClass } from '../printing/index.ts';
import type { LimitSet } from './deposit.ts';
import type { SignatureRun } from './causes/index.ts';

export interface ClassReport {
	padClass: PadClass;
	pads: number;
	limits: { low: number; high: number };
	capability: Capability | null;
	chart: ReturnType<typeof individualsChart>;
	/** null where nothing varies. */
	ewma: ReturnType<typeof ewmaChart> | null;
	advice: WipeAdvice;
	/** What a wipe itself costs the print that follows it; null where too few prints show it. */
	firstAfterWipe: FirstAfterWipe | null;
	/** How the class falls between wipes, for what a wipe costs and saves. */
	wipe: WipeClass;
	/** Panel by panel: the class mean without its stroke, and also without its wipe phase, %. */
	series: { serial: string; stroke: string; sinceWipe: number; value: number; cleared: number }[];
}

/** Panels that the limits of a run's charts come from; fewer until there are so many (common practice: 20 to 25). */
export const CHART_BASELINE = 25;

/** The panels of a baseline and the latest ones, in order and each once.
 * @param all of the run, in order; @param from where the baseline begins: at the run's first panel, or where somebody took it anew
 */
export function withBaseline<T>(all: readonly T[], from: number, latest: number): { panels: T[]; baseline: T[] } {
	const isBase = (i: number) => i >= from && i < from + CHART_BASELINE;
	return { panels: all.filter((_, i) => isBase(i) || i >= all.length - latest), baseline: all.filter((_, i) => isBase(i)) };
}

/** Fewest panels that a class is charted from. */
export const CHART_PANELS = 4;

const DEFAULT_SIGMA = 5;
/** From the mean moving range to a spread: d₂ of two. */
const D2 = 1.128;

/** Charts, capability and wipe interval of each class of pads in a run; the panel is the sampling unit.
 * Stroke and wipe phase are taken out before the chart: else the sawtooth widens the limits and hides faults.
 * @param run at least four panels
 * @param inBaseline which panels the charts' limits come from: those do not move with the panels that follow; all where it is left out
 */
export function classReports(run: SignatureRun, limits: LimitSet, inBaseline: (serial: string) => boolean = () => true): ClassReport[] {
	const n = run.pads.length;
	return PAD_CLASSES.flatMap((padClass) => {
		const pads = run.pads.flatMap((p, i) => (p.padClass === padClass ? [i] : []));
		if (pads.length === 0) return [];
		const read = (m: number, p: number) => run.volumePct[m * n + p]!;
		const byPad = pads.map((p) => run.panels.map((_, m) => read(m, p)).filter((v) => v === v));
		// A panel without a reading of this class says nothing about it.
		const seen = run.panels.flatMap((panel, m) => {
			const values = pads.map((p) => read(m, p)).filter((v) => v === v);
			return values.length ? [{ ...panel, meanPct: mean(values), isBase: inBaseline(panel.serial) }] : [];
		});
		if (seen.length < CHART_PANELS) return [];
		const [low, high] = limits[padClass].volumePct.fail;
		const capability = classCapability(byPad, low, high);
		const isBase = (i: number) => seen[i]!.isBase;
		const { noStroke, cleared } = withoutStrokeAndWipe(
			seen.map((panel) => panel.meanPct),
			seen,
			isBase
		);
		const base = cleared.filter((_, i) => isBase(i));
		const chart = individualsChart(cleared, base.length < 2 ? cleared : base);
		const sigma = chart.meanMovingRange / D2;
		const padSigma = capability?.sigma ?? DEFAULT_SIGMA;
		const advice = wipeInterval(
			seen.map((p, m) => ({ sinceWipe: p.printsSinceWipe, meanPct: noStroke[m]! })),
			padSigma,
			low
		);
		const firstAfterWipe = afterWipe(seen.map((p, m) => ({ sinceWipe: p.printsSinceWipe, meanPct: noStroke[m]! })));
		return [
			{
				padClass,
				pads: pads.length,
				limits: { low, high },
				capability,
				chart,
				ewma: sigma > 0 ? ewmaChart(cleared, chart.centre, sigma) : null,
				advice,
				firstAfterWipe,
				wipe: { pads: pads.length, mean: advice.a, sigma: padSigma, slope: Math.min(0, advice.b), lowestPct: low },
				series: seen.map((p, m) => ({
					serial: p.serial,
					stroke: p.stroke,
					sinceWipe: p.printsSinceWipe,
					value: noStroke[m]!,
					cleared: cleared[m]!
				}))
			}
		];
	});
}

export interface FirstAfterWipe {
	/** The first print's mean against what the others' drift leads to, %; below 0: the wipe took paste from it. */
	pct: number;
	/** Two standard errors of that, %. */
	within: number;
	/** First prints that it comes from. */
	prints: number;
}

/** What the print right after a wipe lost or gained: its mean against the straight line of the later prints, read back to it.
 * Each wipe disturbs the first print after it; an interval that looks at the drift alone does not see that.
 * @returns null below three first prints, or where the later ones give no line
 */
export function afterWipe(readings: readonly { sinceWipe: number; meanPct: number }[]): FirstAfterWipe | null {
	const first = readings.filter((r) => r.sinceWipe === 0).map((r) => r.meanPct);
	const later = readings.filter((r) => r.sinceWipe > 0);
	if (first.length < 3 || later.length < 6 || new Set(later.map((r) => r.sinceWipe)).size < 3) return null;
	const { coefficients, standardErrors, sigma } = leastSquares(
		later.map((r) => [1, r.sinceWipe]),
		later.map((r) => r.meanPct)
	);
	const pct = mean(first) - coefficients[0]!;
	return { pct, within: 2 * Math.hypot(standardErrors[0]!, sigma / Math.sqrt(first.length)), prints: first.length };
}

/** A series of panels without its stroke, and also without its wipe phase: what a control chart of prints is drawn from.
 * @param isBase which of them say what stroke and phase do; all where it is left out
 */
export function withoutStrokeAndWipe(
	values: readonly number[],
	panels: readonly { stroke: string; printsSinceWipe: number }[],
	isBase: (i: number) => boolean = () => true
): { noStroke: number[]; cleared: number[] } {
	const noStroke = withoutGroups(values, (i) => panels[i]!.stroke, isBase);
	return { noStroke, cleared: withoutGroups(noStroke, (i) => String(panels[i]!.printsSinceWipe), isBase) };
}

/** A series with the medians of its groups taken out and the whole level kept; groups of fewer than three stay as they are.
 * @param isBase which of them the medians come from; all where it is left out
 */
export function withoutGroups(
	values: readonly number[],
	groupOf: (i: number) => string,
	isBase: (i: number) => boolean = () => true
): number[] {
	if (values.length === 0) return [];
	const groups = new Map<string, number[]>();
	const from: number[] = [];
	values.forEach((v, i) => {
		if (!isBase(i)) return;
		from.push(v);
		const own = groups.get(groupOf(i));
		if (own) own.push(v);
		else groups.set(groupOf(i), [v]);
	});
	if (from.length === 0) return [...values];
	const level = median([...from]);
	const medians = new Map([...groups].map(([group, own]) => [group, own.length < 3 ? level : median([...own])]));
	return values.map((v, i) => v - (medians.get(groupOf(i)) ?? level) + level);
}

export interface ClassSpread {
	padClass: PadClass;
	panels: number;
	readings: number;
	meanPct: number;
	/** Of single deposits, pads and panels together, %. */
	sigmaPct: number;
}

/** Fewest panels that limits are taken from: pads on one panel are no independent samples (common practice: 20 to 25). */
export const LIMIT_PANELS = 20;

/** How the single deposits of each class spread over a run's panels: what statistical limits are made of. */
export function classSpreads(run: SignatureRun): ClassSpread[] {
	const n = run.pads.length;
	return PAD_CLASSES.flatMap((padClass) => {
		const own = run.pads.flatMap((p, i) => (p.padClass === padClass ? [i] : []));
		const values: number[] = [];
		let panels = 0;
		for (let m = 0; m < run.panels.length; m++) {
			const before = values.length;
			for (const p of own) {
				const v = run.volumePct[m * n + p]!;
				if (v === v) values.push(v);
			}
			if (values.length > before) panels++;
		}
		return values.length < 2
			? []
			: [{ padClass, panels, readings: values.length, meanPct: mean(values), sigmaPct: standardDeviation(values) }];
	});
}
