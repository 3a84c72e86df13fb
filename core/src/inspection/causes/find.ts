import { DEFAULT_TRANSFER, type TransferModel } from '../../stencil/index.ts';
import type { Cause, Finding } from './cause.ts';
import type { Signature } from './signature.ts';
import { CAUSES } from './causes.ts';
import type { CauseCode } from './codes.ts';
import { confidenceOf, overThreshold } from './confidence.ts';
import { CAUSE_OF } from './factor.ts';
import { Facts } from './facts.ts';
import { prepare, type Prepared, type SignatureRun } from './run.ts';
import { strokesAlong } from './stroke-offset.ts';
import { SIGNATURE_THRESHOLDS, type SignatureThresholds } from './thresholds.ts';

export interface SignatureReport {
	/** Most certain first, roots before their symptoms. */
	signatures: Signature[];
	/** What could not be judged, and why: never "all right". */
	notJudged: { codes: CauseCode[]; why: string; test: string }[];
	panels: number;
	pads: number;
	/** Median residual of each panel, lp: all pads, and the smallest openings. */
	series: { all: number[]; small: number[] };
	/** Where the pads cannot see a local fault: shares of the pad box without 4 pads within reach. */
	blindShare: number;
}

/** Reads the pattern in a run's paste results and ranks its causes.
 * Level is judged against the transfer model or an approved baseline, change against the run's own medians.
 * @param run panels × pads; @param golden efficiency of each pad from an approved baseline
 * @returns an empty list where nothing passes both its size and its |t|; too little data is said, never "OK"
 * @see thresholds are common practice or our model; tests and bench print how often each cause is found
 */
export function findSignatures(
	run: SignatureRun,
	model: TransferModel = DEFAULT_TRANSFER,
	thresholds: SignatureThresholds = SIGNATURE_THRESHOLDS,
	golden?: ArrayLike<number>
): SignatureReport {
	const size = { panels: run.panels.length, pads: run.pads.length };
	if (size.pads < thresholds.leastPads || size.panels < thresholds.leastPanels) {
		const why = `${size.panels} panels and ${size.pads} pads; ${thresholds.leastPanels} and ${thresholds.leastPads} are needed.`;
		return { signatures: [], notJudged: [{ codes: [], why, test: 'Print on' }], ...size, series: { all: [], small: [] }, blindShare: 1 };
	}
	const prepared = prepare(run, model, golden);
	const facts = new Facts(prepared, thresholds);
	const found: Signature[] = [];
	for (const cause of Object.values(CAUSES))
		for (const finding of cause.find(facts, found)) found.push(signatureOf(cause, finding, cause.threshold(thresholds)));
	return {
		signatures: ranked(found),
		notJudged: gapsOf(facts),
		...size,
		series: { all: prepared.pa, small: prepared.ps },
		blindShare: blindShare(prepared)
	};
}

const Z95 = 1.96;

function signatureOf(cause: Cause, { error, t: sure, where = {}, ...finding }: Finding, threshold: number): Signature {
	const t = sure ?? null;
	// What could be one of two is named as such, by the size of the one that raised it.
	const named = finding.candidates ? CAUSES.AMBIGUOUS : cause;
	const confidence = finding.candidates ? named.certainty : confidenceOf(cause, overThreshold(cause, finding.size, threshold), t);
	const interval = { low: finding.size - Z95 * error, high: finding.size + Z95 * error };
	return { code: named.code, ...interval, unit: cause.unit, threshold, t, confidence, where, ...finding };
}

const SEPARATES: Record<string, string> = {
	'stroke wipe': 'Wipe every 3 prints for 9 panels',
	'time topup': 'Top up now and compare the next 4 panels',
	'wipe topup': 'Top up between two wipes',
	'wipe time': 'Wipe now and compare the next 4 panels',
	'time pause': 'Knead now and compare the next 4 panels'
};

/** What this run cannot tell, why, and what would. */
function gapsOf(facts: Facts): SignatureReport['notJudged'] {
	const { th, small, wipes } = facts;
	const gaps: SignatureReport['notJudged'] = [];
	const { front, rear } = strokesAlong(facts);
	if (front.n < th.leastPerStroke || rear.n < th.leastPerStroke)
		gaps.push({
			codes: ['STROKE_OFFSET', 'STROKE_PAIR', 'BLADE_NICK'],
			why: `${front.n} front and ${rear.n} rear strokes; ${th.leastPerStroke} of each are needed.`,
			test: 'Print with both blades'
		});
	for (const [a, b] of small.ambiguous)
		gaps.push({
			codes: [CAUSE_OF[a], CAUSE_OF[b]],
			why: `This run moved ${CAUSES[CAUSE_OF[a]].name.toLowerCase()} and ${CAUSES[CAUSE_OF[b]].name.toLowerCase()} together.`,
			test: SEPARATES[`${a} ${b}`] ?? CAUSES.AMBIGUOUS.test
		});
	if (small.notTestable.length)
		gaps.push({
			codes: small.notTestable.map((f) => CAUSE_OF[f]),
			why: 'These did not change in this run, or too rarely.',
			test: 'Print on; vary them once'
		});
	if (wipes < th.leastWipeCycles)
		gaps.push({
			codes: ['CLOG_WIPE'],
			why: `${wipes === 1 ? '1 wipe' : `${wipes} wipes`} in this run; ${th.leastWipeCycles} are needed.`,
			test: 'Print on over the next wipe'
		});
	return gaps;
}

/** Readings first, roots before symptoms, then the more certain. */
function ranked(found: readonly Signature[]): Signature[] {
	const rank = (s: Signature) => (s.code === 'MEASUREMENT' ? 0 : s.symptomOf ? 2 : s.code === 'PANEL_OUTLIER' ? 3 : 1);
	return [...found].sort(
		(a, b) => rank(a) - rank(b) || b.confidence - a.confidence || Math.abs(b.size) / b.threshold - Math.abs(a.size) / a.threshold
	);
}

/** Share of the pad box whose places have fewer than 4 pads within reach: a local fault there stays unseen. */
function blindShare({ run, centre, rMaxMm }: Prepared): number {
	const reach = 7.5;
	let [blind, all] = [0, 0];
	const xs = run.pads.map((p) => p.xMm);
	const ys = run.pads.map((p) => p.yMm);
	const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
	const step = Math.max(4, rMaxMm / 15);
	for (let y = minY; y <= maxY; y += step)
		for (let x = minX; x <= maxX; x += step) {
			let k = 0;
			for (let i = 0; i < xs.length && k < 4; i++) if (Math.abs(xs[i]! - x) <= reach && Math.hypot(xs[i]! - x, ys[i]! - y) <= reach) k++;
			all++;
			if (k < 4) blind++;
		}
	return centre && all ? blind / all : 1;
}
