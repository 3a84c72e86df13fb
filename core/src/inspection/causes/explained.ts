import { FACTORS } from './regress.ts';
import { prepare, type Prepared, type SignatureRun } from './run.ts';
import { DEFAULT_TRANSFER, type TransferModel } from '../../stencil/index.ts';

export interface ExplainedStep {
	pattern: string;
	/** Share of the variance of the residuals that it adds. */
	share: number;
	bic: number;
}

/** A pattern over panels times a pattern over pads. */
interface Pattern {
	name: string;
	panels: Float64Array;
	pads: Float64Array;
}

/** How much of the residuals a sparse set of cause patterns explains: forward selection by BIC over a dictionary of panel × pad patterns.
 * The panel is the sampling unit: the penalty is that of as many observations as panels times the pads' effective number (classes).
 * @returns the steps in the order in which they were taken, and what no pattern explains
 */
export function explainResiduals(
	run: SignatureRun,
	model: TransferModel = DEFAULT_TRANSFER
): { steps: ExplainedStep[]; unexplained: number } {
	const p = prepare(run, model);
	const [n, m] = [run.pads.length, run.panels.length];
	// Residuals: pads' own medians are taken out, except for the patterns over pads alone.
	const y = new Float64Array(n * m);
	const classMean = classMeans(p);
	let total = 0;
	for (let i = 0; i < m; i++)
		for (let j = 0; j < n; j++) {
			const v = p.r[i * n + j]! - classMean[j]!;
			y[i * n + j] = Number.isFinite(v) ? Math.max(-60, Math.min(60, v)) : 0;
			total += y[i * n + j]! ** 2;
		}
	const dictionary = patterns(p);
	const chosen: Pattern[] = [];
	const steps: ExplainedStep[] = [];
	let left = total;
	const observations = m * Math.max(2, new Set(run.pads.map((pad) => pad.padClass)).size);
	let bic = observations * Math.log(left / observations);
	for (let k = 0; k < 6; k++) {
		let best: { pattern: Pattern; gain: number } | null = null;
		for (const pattern of dictionary) {
			if (chosen.includes(pattern)) continue;
			// After what was chosen is taken out of y, the gain of a pattern is its projection.
			let [dot, size] = [0, 0];
			for (let i = 0; i < m; i++) {
				const a = pattern.panels[i]!;
				if (a === 0) continue;
				for (let j = 0; j < n; j++) dot += a * pattern.pads[j]! * y[i * n + j]!;
			}
			const pa = pattern.panels.reduce((s, v) => s + v * v, 0);
			const pb = pattern.pads.reduce((s, v) => s + v * v, 0);
			size = pa * pb;
			const gain = size > 0 ? (dot * dot) / size : 0;
			if (!best || gain > best.gain) best = { pattern, gain };
		}
		if (!best || best.gain <= 0) break;
		const next = observations * Math.log(Math.max(left - best.gain, 1e-9) / observations) + (k + 1) * Math.log(observations);
		if (next >= bic) break;
		project(y, best.pattern, n, m);
		chosen.push(best.pattern);
		steps.push({ pattern: best.pattern.name, share: best.gain / total, bic: next });
		left -= best.gain;
		bic = next;
	}
	return { steps, unexplained: total > 0 ? left / total : 0 };
}

function project(y: Float64Array, { panels, pads }: Pattern, n: number, m: number): void {
	let dot = 0;
	let size = 0;
	for (let i = 0; i < m; i++)
		for (let j = 0; j < n; j++) {
			const v = panels[i]! * pads[j]!;
			dot += v * y[i * n + j]!;
			size += v * v;
		}
	const c = dot / size;
	for (let i = 0; i < m; i++) for (let j = 0; j < n; j++) y[i * n + j]! -= c * panels[i]! * pads[j]!;
}

function classMeans(p: Prepared): Float64Array {
	const sums = new Map<string, { n: number; v: number }>();
	p.run.pads.forEach(({ padClass }, j) => {
		if (!Number.isFinite(p.md[j])) return;
		const s = sums.get(padClass) ?? { n: 0, v: 0 };
		sums.set(padClass, { n: s.n + 1, v: s.v + p.md[j]! });
	});
	return Float64Array.from(p.run.pads, ({ padClass }) => {
		const s = sums.get(padClass);
		return s ? s.v / s.n : 0;
	});
}

function patterns(p: Prepared): Pattern[] {
	const { pads, panels } = p.run;
	const ones = (k: number) => new Float64Array(k).fill(1);
	const small = new Float64Array(pads.length);
	for (const j of p.smallest) small[j] = 1;
	const centred = (values: Float64Array) => {
		const mid = values.reduce((s, v) => s + v, 0) / values.length;
		return values.map((v) => v - mid);
	};
	const first = panels[0]!.tMin;
	const columns: Record<(typeof FACTORS)[number], Float64Array> = {
		stroke: Float64Array.from(panels, (m) => (m.stroke === 'F' ? 0.5 : -0.5)),
		wipe: Float64Array.from(panels, (m) => m.printsSinceWipe),
		time: Float64Array.from(panels, (m) => m.tMin - first),
		topup: Float64Array.from(panels, (m) => m.printsSinceTopup),
		pause: Float64Array.from(panels, (m) => (m.minutesSincePrevious > 20 ? 1 : 0))
	};
	const names = {
		stroke: 'front against rear',
		wipe: 'prints since the wipe',
		time: 'time in the run',
		topup: 'prints since the top-up',
		pause: 'after a pause'
	};
	return [
		...FACTORS.flatMap((f) => [
			{ name: `${names[f]}, all pads`, panels: centred(columns[f]), pads: ones(pads.length) },
			{ name: `${names[f]}, small pads`, panels: centred(columns[f]), pads: small }
		]),
		{ name: 'across the blade', panels: ones(panels.length), pads: centred(p.across) },
		{ name: 'along the stroke', panels: ones(panels.length), pads: centred(p.along) },
		{ name: 'the whole level', panels: ones(panels.length), pads: ones(pads.length) }
	];
}
