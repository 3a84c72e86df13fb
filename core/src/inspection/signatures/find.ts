import { medianInPlace } from '../../numerics/index.ts';
import { DEFAULT_TRANSFER, type TransferModel } from '../../stencil/index.ts';
import { CAUSES, SIGNATURE_THRESHOLDS, type CauseCode, type SignatureThresholds } from './causes.ts';
import { confidenceOf } from './confidence.ts';
import { blockedPads, highPlaces, nickedStrips } from './local.ts';
import { fitOffsets, medianWithError, spreadWithinStrokes } from './offsets.ts';
import { fitFactors, fitTilt, type Factor } from './regress.ts';
import { prepare, type Prepared, type SignatureRun } from './run.ts';

export interface Signature {
	code: CauseCode;
	/** The statistic that raised it, in `unit`, with its 95 % interval. */
	size: number;
	low: number;
	high: number;
	unit: 'lp' | 'µm' | 'ratio' | 'share' | 'a panel';
	threshold: number;
	/** What it rests on beside its size; null where the rule has none. */
	t: number | null;
	/** Chance that the named cause is the right one, 0 to 1. */
	confidence: number;
	/** Which pads, strip, stroke or panels. */
	where: { pads?: number[]; panels?: number[]; stroke?: 'F' | 'R'; stripMm?: [number, number]; at?: { xMm: number; yMm: number } };
	/** In words. */
	evidence: string;
	/** For AMBIGUOUS: what it could be. */
	candidates?: CauseCode[];
	/** Explained by a cause that stands before it. */
	symptomOf?: CauseCode;
}

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
	const found: Signature[] = [];
	const notJudged: SignatureReport['notJudged'] = [];
	const report = (prepared: Prepared | null): SignatureReport => ({
		signatures: ranked(found),
		notJudged,
		panels: run.panels.length,
		pads: run.pads.length,
		series: { all: prepared?.pa ?? [], small: prepared?.ps ?? [] },
		blindShare: prepared ? blindShare(prepared) : 1
	});
	if (run.pads.length < thresholds.leastPads || run.panels.length < thresholds.leastPanels) {
		notJudged.push({
			codes: [],
			why: `${run.panels.length} panels and ${run.pads.length} pads; ${thresholds.leastPanels} and ${thresholds.leastPads} are needed.`,
			test: 'Print on'
		});
		return report(null);
	}
	const p = prepare(run, model, golden);
	measurement(p, thresholds, found);
	offsets(p, thresholds, found, notJudged);
	factors(p, thresholds, found, notJudged);
	places(p, thresholds, found);
	levels(p, thresholds, found);
	peaksAndBridges(p, thresholds, found);
	return report(p);
}

const Z95 = 1.96;

function add(
	found: Signature[],
	code: CauseCode,
	size: number,
	error: number,
	unit: Signature['unit'],
	threshold: number,
	t: number | null,
	where: Signature['where'],
	evidence: string,
	more: Partial<Signature> = {}
): void {
	found.push({
		code,
		size,
		low: size - Z95 * error,
		high: size + Z95 * error,
		unit,
		threshold,
		t,
		confidence: confidenceOf(code, Math.abs(size) / threshold, t),
		where,
		evidence,
		...more
	});
}

/** A log-percent as people say it: how much more, or less, %. */
const percent = (lp: number) => 100 * Math.expm1(lp / 100);
const signed = (lp: number) => `${lp > 0 ? '+' : '−'}${Math.abs(percent(lp)).toFixed(1)} %`;
const less = (lp: number, digits = 1) => `${Math.abs(percent(-Math.abs(lp))).toFixed(digits)} %`;
const um = (v: number) => `${v.toFixed(0)} µm`;

function measurement({ run }: Prepared, th: SignatureThresholds, found: Signature[]): void {
	const scratch = new Float64Array(run.volumePct.length);
	let k = 0;
	for (let i = 0; i < scratch.length; i++) {
		const v = run.volumePct[i]! / ((run.areaPct[i]! * run.heightUm[i]!) / run.foilUm);
		if (v > 0 && v < Infinity) scratch[k++] = Math.abs(Math.log(v));
	}
	const size = medianInPlace(scratch, k);
	if (size > th.measurementLn)
		add(
			found,
			'MEASUREMENT',
			size,
			0,
			'ratio',
			th.measurementLn,
			null,
			{},
			`Volume and area × height differ by ${(100 * size).toFixed(0)} % in the middle of all readings.`
		);
}

function offsets(p: Prepared, th: SignatureThresholds, found: Signature[], notJudged: SignatureReport['notJudged']): void {
	const f = fitOffsets(p);
	const strokes = p.run.panels.map((m) => m.stroke);
	const [tx, ty] = [medianWithError(f.tx), medianWithError(f.ty)];
	const shift = Math.hypot(tx.value, ty.value);
	if (shift > th.shiftUm)
		add(
			found,
			'ALIGN_SHIFT',
			shift,
			Math.hypot(tx.error, ty.error),
			'µm',
			th.shiftUm,
			null,
			{},
			`The whole print lies ${um(tx.value)} in x and ${um(ty.value)} in y off, panel after panel.`
		);
	const turn = medianWithError(f.theta.map((v) => v * p.rMaxMm));
	if (Math.abs(turn.value) > th.rotationUm)
		add(
			found,
			'ALIGN_ROTATION',
			turn.value,
			turn.error,
			'µm',
			th.rotationUm,
			null,
			{},
			`The print is turned by ${um(turn.value)} at the farthest pad.`
		);
	const grow = medianWithError(f.stretch.map((v) => v * p.rMaxMm));
	if (Math.abs(grow.value) > th.stretchUm)
		add(
			found,
			'ALIGN_STRETCH',
			grow.value,
			grow.error,
			'µm',
			th.stretchUm,
			null,
			{},
			`The print is ${grow.value > 0 ? 'larger' : 'smaller'} than the board by ${um(Math.abs(grow.value))} at the farthest pad.`
		);
	const scatter = Math.max(spreadWithinStrokes(f.tx, strokes), spreadWithinStrokes(f.ty, strokes));
	if (scatter > th.scatterUm)
		add(
			found,
			'ALIGN_SCATTER',
			scatter,
			scatter / Math.sqrt(2 * f.tx.length),
			'µm',
			th.scatterUm,
			null,
			{},
			`Prints land with a spread of ${um(scatter)}, strokes apart.`
		);
	const along = p.run.strokeAxis === 'x' ? f.tx : f.ty;
	const [front, rear] = ['F', 'R'].map((s) => along.filter((_, i) => strokes[i] === s));
	if (front!.length < th.leastPerStroke || rear!.length < th.leastPerStroke) {
		notJudged.push({
			codes: ['STROKE_OFFSET', 'STROKE_PAIR', 'BLADE_NICK'],
			why: `${front!.length} front and ${rear!.length} rear strokes; ${th.leastPerStroke} of each are needed.`,
			test: 'Print with both blades'
		});
		return;
	}
	const [a, b] = [medianWithError(front!), medianWithError(rear!)];
	const gap = a.value - b.value;
	const t = gap / Math.hypot(a.error, b.error);
	if (Math.abs(gap) > th.strokeOffsetUm && Math.abs(t) >= th.leastT)
		add(
			found,
			'STROKE_OFFSET',
			gap,
			Math.hypot(a.error, b.error),
			'µm',
			th.strokeOffsetUm,
			t,
			{},
			`Front strokes land ${um(Math.abs(gap))} ${gap > 0 ? 'further' : 'less far'} along than rear strokes.`
		);
}

const CAUSE_OF: Record<Factor, CauseCode> = {
	stroke: 'STROKE_PAIR',
	wipe: 'CLOG_WIPE',
	time: 'PASTE_AGING',
	topup: 'TOPUP_STARVE',
	pause: 'ABANDON'
};
const SEPARATES: Record<string, string> = {
	'stroke wipe': 'Wipe every 3 prints for 9 panels',
	'time topup': 'Top up now and compare the next 4 panels',
	'wipe topup': 'Top up between two wipes',
	'wipe time': 'Wipe now and compare the next 4 panels',
	'time pause': 'Knead now and compare the next 4 panels'
};

function factors(p: Prepared, th: SignatureThresholds, found: Signature[], notJudged: SignatureReport['notJudged']): void {
	const { panels } = p.run;
	const all = fitFactors(p.pa, panels);
	const small = fitFactors(p.ps, panels);
	const wipes = panels.filter((m, i) => i > 0 && m.printsSinceWipe <= panels[i - 1]!.printsSinceWipe).length;
	const doubtful = new Map<Factor, Factor>();
	for (const [a, b] of small.ambiguous) {
		doubtful.set(a, b);
		notJudged.push({
			codes: [CAUSE_OF[a], CAUSE_OF[b]],
			why: `This run moved ${CAUSES[CAUSE_OF[a]].name.toLowerCase()} and ${CAUSES[CAUSE_OF[b]].name.toLowerCase()} together.`,
			test: SEPARATES[`${a} ${b}`] ?? CAUSES.AMBIGUOUS.test
		});
	}
	if (small.notTestable.length)
		notJudged.push({
			codes: small.notTestable.map((f) => CAUSE_OF[f]),
			why: 'These did not change in this run, or too rarely.',
			test: 'Print on; vary them once'
		});
	/** Largest sum of a slope over the run, negative where paste gets less. */
	const judge = (
		factor: Factor,
		fit: typeof all,
		size: number,
		threshold: number,
		bad: boolean,
		evidence: string,
		where: Signature['where'] = {}
	) => {
		const e = fit.effects[factor];
		if (!e || !bad || Math.abs(e.t) < th.leastT) return;
		const error = Math.abs(size / e.t);
		const other = doubtful.get(factor);
		if (other)
			add(found, 'AMBIGUOUS', size, error, 'lp', threshold, e.t, where, `${evidence} It could as well be the other cause.`, {
				candidates: [CAUSE_OF[factor], CAUSE_OF[other]]
			});
		else add(found, CAUSE_OF[factor], size, error, 'lp', threshold, e.t, where, evidence);
	};
	const stroke = all.effects.stroke?.value ?? 0;
	judge(
		'stroke',
		all,
		stroke,
		th.strokeLp,
		Math.abs(stroke) >= th.strokeLp,
		`${stroke > 0 ? 'Rear' : 'Front'} strokes print ${less(stroke)} less than the others.`,
		{ stroke: stroke > 0 ? 'R' : 'F' }
	);
	const clog = (small.effects.wipe?.value ?? 0) * small.reach.wipe;
	if (wipes < th.leastWipeCycles)
		notJudged.push({
			codes: ['CLOG_WIPE'],
			why: `${wipes} wipes in this run; ${th.leastWipeCycles} are needed.`,
			test: 'Print on over the next wipe'
		});
	else
		judge('wipe', small, clog, th.clogLp, clog <= -th.clogLp, `Small openings lose ${less(clog)} until the wipe.`, {
			pads: [...p.smallest]
		});
	const time = all.effects.time?.value ?? 0;
	judge('time', all, time, th.ageingLp, time <= -th.ageingLp, `Volumes fall by ${less(time)} over the run; wipes do not bring them back.`);
	const topup = (all.effects.topup?.value ?? 0) * all.reach.topup;
	judge('topup', all, topup, th.topupLp, topup <= -th.topupLp, `Volumes fall by ${less(topup)} until paste is added.`);
	const pause = small.effects.pause?.value ?? 0;
	judge('pause', small, pause, th.abandonLp, pause <= -th.abandonLp, `The first print after a pause carries ${less(pause)} less.`);
	for (const m of all.outliers)
		add(
			found,
			'PANEL_OUTLIER',
			p.pa[m]!,
			0,
			'lp',
			10,
			null,
			{ panels: [m] },
			`${panels[m]!.serial} carries ${signed(p.pa[m]!)} against its neighbours.`
		);
}

function places(p: Prepared, th: SignatureThresholds, found: Signature[]): void {
	const blocked = blockedPads(p, th.blockedLp);
	// Openings by the dozen are no blockage: the level of the print is.
	if (blocked.length > 0 && blocked.length <= Math.max(3, 0.05 * p.run.pads.length)) {
		const names = blocked.slice(0, 4).map((b) => p.run.pads[b.pad]!.name);
		add(
			found,
			'APERTURE_BLOCKED',
			blocked[0]!.size,
			0,
			'lp',
			th.blockedLp,
			null,
			{ pads: blocked.map((b) => b.pad) },
			`${names.join(', ')}${blocked.length > 4 ? ` and ${blocked.length - 4} more` : ''} carry ${less(blocked[0]!.size, 0)} less than their class.`
		);
	}
	const high = highPlaces(p, th.supportLp, th.leastT);
	for (const h of high.slice(0, 3))
		add(
			found,
			'SUPPORT_LOCAL',
			h.size,
			Math.abs(h.size / h.z),
			'lp',
			th.supportLp,
			h.z,
			{ pads: h.pads, at: h.at },
			`${h.pads.length} pads around ${h.at.xMm.toFixed(0)}, ${h.at.yMm.toFixed(0)} mm stand ${percent(h.size).toFixed(0)} % higher than their classes.`
		);
	const strips = nickedStrips(p, th.nickLp, th.leastT);
	for (const s of strips.slice(0, 3))
		add(
			found,
			'BLADE_NICK',
			s.size,
			Math.abs(s.size / s.z),
			'lp',
			th.nickLp,
			s.z,
			{ pads: s.pads, stripMm: s.strip!, at: s.at, stroke: s.size > 0 ? 'R' : 'F' },
			`A strip from ${s.strip![0].toFixed(0)} to ${s.strip![1].toFixed(0)} mm across differs by ${signed(s.size)} between front and rear strokes.`
		);
	const leave = new Set<number>([...blocked.map((b) => b.pad), ...high.flatMap((h) => h.pads), ...strips.flatMap((s) => s.pads)]);
	const tilt = fitTilt(p, leave) ?? fitTilt(p);
	if (!tilt) return;
	for (const [code, c, words] of [
		['TILT_ACROSS', tilt.across, 'across the blade'],
		['TILT_ALONG', tilt.along, 'along the stroke']
	] as const) {
		const size = 2 * c.value;
		if (Math.abs(size) >= th.tiltLp && Math.abs(c.t) >= th.leastT)
			add(
				found,
				code,
				size,
				2 * c.error,
				'lp',
				th.tiltLp,
				c.t,
				{},
				`Paste changes by ${signed(size)} from end to end ${words}, ${size > 0 ? 'more' : 'less'} at the larger coordinate.`
			);
	}
}

function medianWhere(values: Float64Array, keep: (pad: number) => boolean): { value: number; n: number } {
	const scratch = new Float64Array(values.length);
	let k = 0;
	for (let p = 0; p < values.length; p++) if (keep(p) && Number.isFinite(values[p]!)) scratch[k++] = values[p]!;
	return { value: medianInPlace(scratch, k), n: k };
}

function levels(p: Prepared, th: SignatureThresholds, found: Signature[]): void {
	const every = () => true;
	const hr = medianWhere(p.hr, every).value;
	const ar = medianWhere(p.ar, every).value;
	const vr = Math.exp(medianWhere(p.md, every).value / 100);
	const large = medianWhere(p.hr, (i) => p.run.pads[i]!.minSideMm >= 1);
	const others = medianWhere(p.hr, (i) => p.run.pads[i]!.minSideMm < 1);
	const before = found.length;
	if (hr >= th.gapHeightRatio && ar < th.gapAreaRatio)
		add(
			found,
			'GAP_HIGH',
			hr,
			0,
			'ratio',
			th.gapHeightRatio,
			null,
			{},
			`Deposits stand at ${(100 * hr).toFixed(0)} % of the expected height over their usual area.`
		);
	if (large.n >= 4 && others.n >= 10 && large.value / others.value <= th.scoopRatio && others.value >= th.scoopOthers)
		add(
			found,
			'SCOOP',
			large.value / others.value,
			0,
			'ratio',
			th.scoopRatio,
			null,
			{ pads: p.run.pads.flatMap((pad, i) => (pad.minSideMm >= 1 ? [i] : [])) },
			`Large deposits stand at ${((100 * large.value) / others.value).toFixed(0)} % of the height of the others.`,
			{
				confidence: confidenceOf('SCOOP', (1 - large.value / others.value) / (1 - th.scoopRatio), null)
			}
		);
	if (ar >= th.slumpArea && hr <= th.slumpHeight && vr >= 0.9 && vr <= 1.1)
		add(
			found,
			'SLUMP',
			ar,
			0,
			'ratio',
			th.slumpArea,
			null,
			{},
			`Deposits cover ${(100 * ar).toFixed(0)} % of their usual area at ${(100 * hr).toFixed(0)} % of their height; the volume is right.`
		);
	if (vr <= th.levelLow && found.length === before)
		add(
			found,
			'LEVEL_LOW',
			vr,
			0,
			'ratio',
			th.levelLow,
			null,
			{},
			`Volumes are ${(100 * vr).toFixed(0)} % of what these openings deliver.`,
			{
				confidence: confidenceOf('LEVEL_LOW', (1 - vr) / (1 - th.levelLow), null)
			}
		);
}

function peaksAndBridges(p: Prepared, th: SignatureThresholds, found: Signature[]): void {
	const { run } = p;
	if (run.peakHeightUm) {
		let [peaks, n] = [0, 0];
		for (let i = 0; i < run.peakHeightUm.length; i++) {
			const ratio = run.peakHeightUm[i]! / run.heightUm[i]!;
			if (!(ratio > 0) || ratio === Infinity) continue;
			n++;
			if (ratio > th.peakRatio) peaks++;
		}
		if (n > 0 && peaks / n > th.peakShare)
			add(
				found,
				'PEAKS',
				peaks / n,
				Math.sqrt(peaks) / n,
				'share',
				th.peakShare,
				null,
				{},
				`${((100 * peaks) / n).toFixed(0)} % of the deposits have a peak over ${th.peakRatio} times their height.`
			);
	}
	if (!run.bridges) return;
	const total = run.bridges.reduce((a, b) => a + b, 0);
	const mean = total / run.panels.length;
	const panels = run.bridges.flatMap((b, m) => (b > 0 ? [m] : []));
	if (mean < th.bridgesPerPanel || panels.length < th.bridgePanels) return;
	const aligned = found.find((f) => f.code === 'ALIGN_SHIFT' || f.code === 'ALIGN_ROTATION' || f.code === 'ALIGN_STRETCH');
	const counts = Float64Array.from(run.panels, (m) => m.printsSinceWipe);
	const middle = medianInPlace(counts);
	const late = run.bridges.reduce((sum, b, m) => sum + (run.panels[m]!.printsSinceWipe > middle ? b : 0), 0);
	const lateShare = run.panels.filter((m) => m.printsSinceWipe > middle).length / run.panels.length;
	const z = (late - total * lateShare) / Math.sqrt(total * lateShare * (1 - lateShare) || 1);
	const evidence = `${mean.toFixed(1)} bridges a panel on ${panels.length} panels`;
	const error = Math.sqrt(total) / run.panels.length;
	if (aligned)
		add(found, 'BRIDGE_ALIGN', mean, error, 'a panel', th.bridgesPerPanel, null, { panels }, `${evidence}, while the print is off.`, {
			symptomOf: aligned.code
		});
	else if (late / total >= 0.75 && z >= 3)
		add(
			found,
			'BRIDGE_WIPE',
			mean,
			error,
			'a panel',
			th.bridgesPerPanel,
			z,
			{ panels },
			`${evidence}, ${((100 * late) / total).toFixed(0)} % of them late before a wipe.`
		);
	else add(found, 'BRIDGE_PRESSURE', mean, error, 'a panel', th.bridgesPerPanel, null, { panels }, `${evidence}, whatever the wipe.`);
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
