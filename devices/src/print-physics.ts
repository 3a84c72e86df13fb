import type { Random } from '@keen-relay/core/numerics';
import type { PrinterSetting } from './work.ts';

/** What can go wrong at the printer, on request. Strength 1 is where a person begins to see it, 1.5 is plain. */
export const PRINT_FAULTS = [
	'measurement',
	'alignShift',
	'alignRotation',
	'alignStretch',
	'alignScatter',
	'strokeOffset',
	'strokePair',
	'clogWipe',
	'pasteAging',
	'topupStarve',
	'abandon',
	'panelOutlier',
	'tiltAcross',
	'tiltAlong',
	'supportLocal',
	'bladeNick',
	'apertureBlocked',
	'gapHigh',
	'scoop',
	'slump',
	'levelLow',
	'peaks',
	'bridgeWipe',
	'bridgePressure'
] as const;
export type PrintFaultKind = (typeof PRINT_FAULTS)[number];

export interface PrintFault {
	kind: PrintFaultKind;
	strength: number;
}

export interface PhysicsPad {
	xMm: number;
	yMm: number;
	areaMm2: number;
	perimeterMm: number;
	minSideMm: number;
}

/** How a print is made. */
export interface Stroke {
	stroke: 'F' | 'R';
	printsSinceWipe: number;
	/** How much of the bead has been used since the top-up, 0 to 1 and a little over. */
	beadUsed: number;
	minutesSincePrevious: number;
	/** How far the paste is through its life, 0 to 1. */
	ageShare: number;
	/** Counter of prints; the blocked opening fills up with it. */
	print: number;
	/** How the printer is set; as it comes where this is left out. */
	setting?: PrinterSetting;
}

/** As this printer comes: the blade just wipes the foil clean, and the paste lets go well. */
const AS_IT_COMES: PrinterSetting = { forceKgPerCm: 0.2, speedMmPerS: 40, separationMmPerS: 2 };

/** What a setting does to a print, ln, against the printer as it comes. Faster strokes need more force; too little of it leaves a film, too much digs the
 * large openings out and presses paste under the foil; speed leaves small openings less time to fill; leaving the foil too fast or too slowly pulls paste back.
 */
function effectOf({ forceKgPerCm, speedMmPerS, separationMmPerS }: PrinterSetting) {
	const wiped = (AS_IT_COMES.forceKgPerCm * speedMmPerS) / AS_IT_COMES.speedMmPerS;
	// A quarter of the need is the blade's own give.
	const over = forceKgPerCm - (0.75 * AS_IT_COMES.forceKgPerCm + 0.25 * wiped);
	return {
		film: 0.9 * Math.max(0, -over),
		dug: 1.1 * Math.max(0, over),
		slow: 0.006 * (speedMmPerS - AS_IT_COMES.speedMmPerS),
		pulled: 0.35 * Math.log(separationMmPerS / AS_IT_COMES.separationMmPerS) ** 2,
		peaks: Math.max(0, 0.03 * (separationMmPerS - 6))
	};
}

/** What lies on the pads after a print, as shares of the nominal; offsets in µm. */
export interface Deposits {
	volume: Float64Array;
	area: Float64Array;
	height: Float64Array;
	offsetX: Float64Array;
	offsetY: Float64Array;
	/** Highest point over mean height. */
	peak: Float64Array | null;
	bridges: number;
}

const SAG_MM = 9;
const NICK_MM = 5;

/** A stencil, two blades, a bead of paste and a board on its support. Paste is filled in and pulled out: filling follows pressure, bead and speed,
 * release follows wall and area, both with noise of their own; the constants are this simulation's, not the ones the results are judged with.
 */
export class PrintPhysics {
	/** How each opening differs for good. */
	readonly #bias: Float64Array;
	/** Share that an opening lets go: a log-logistic loss with the wall's share. */
	readonly #release: Float64Array;
	/** Release to the power that splits a volume into area and height. */
	readonly #ground: Float64Array;
	readonly #across: Float64Array;
	readonly #along: Float64Array;
	readonly #acrossMm: Float64Array;
	readonly #rMaxMm: number;
	readonly #centre: { x: number; y: number };
	/** Slow wander of the whole process: prints after one another are alike. */
	#wander = 0;
	#smear = 0;
	/** Prints since the last pause, for what recovers after it. */
	#sincePause = Infinity;
	readonly #direction: number;
	readonly #sag: { x: number; y: number };
	readonly #nickMm: number;
	readonly #blocked: Set<number>;
	readonly #outlierEvery: number;

	constructor(
		readonly pads: readonly PhysicsPad[],
		readonly foilUm: number,
		private readonly random: Random,
		readonly strokeAxis: 'x' | 'y' = 'y'
	) {
		const n = pads.length;
		let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
		for (const p of pads) {
			minX = Math.min(minX, p.xMm);
			maxX = Math.max(maxX, p.xMm);
			minY = Math.min(minY, p.yMm);
			maxY = Math.max(maxY, p.yMm);
		}
		this.#centre = { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
		const [hx, hy] = [Math.max(1, (maxX - minX) / 2), Math.max(1, (maxY - minY) / 2)];
		this.#rMaxMm = Math.hypot(hx, hy);
		this.#bias = new Float64Array(n);
		this.#release = new Float64Array(n);
		this.#ground = new Float64Array(n);
		this.#across = new Float64Array(n);
		this.#along = new Float64Array(n);
		this.#acrossMm = new Float64Array(n);
		for (let i = 0; i < n; i++) {
			const p = pads[i]!;
			const wall = (p.perimeterMm * foilUm) / 1000 / p.areaMm2;
			this.#release[i] = 1 / (1 + (0.47 * wall) ** 5);
			this.#ground[i] = this.#release[i]! ** 0.4;
			this.#bias[i] = 0.03 * random.normal();
			const [u, w] = [(p.xMm - this.#centre.x) / hx, (p.yMm - this.#centre.y) / hy];
			this.#along[i] = strokeAxis === 'x' ? u : w;
			this.#across[i] = strokeAxis === 'x' ? w : u;
			this.#acrossMm[i] = strokeAxis === 'x' ? p.yMm : p.xMm;
		}
		this.#direction = 2 * Math.PI * random.uniform();
		const home = pads[this.#crowded()] ?? { xMm: 0, yMm: 0 };
		this.#sag = { x: home.xMm, y: home.yMm };
		this.#nickMm = strokeAxis === 'x' ? home.yMm : home.xMm;
		this.#blocked = new Set(Array.from({ length: 1 + random.integer(3) }, () => random.integer(Math.max(1, n))));
		this.#outlierEvery = 17 + random.integer(6);
	}

	/** A pad with neighbours: a sag under bare board would do no harm. */
	#crowded(): number {
		let [best, most] = [0, -1];
		for (let k = 0; k < 24 && this.pads.length; k++) {
			const i = this.random.integer(this.pads.length);
			const a = this.pads[i]!;
			let near = 0;
			for (const b of this.pads) if (Math.abs(a.xMm - b.xMm) < SAG_MM && Math.abs(a.yMm - b.yMm) < SAG_MM) near++;
			// Not the densest place of all: one that has enough.
			const score = near >= 10 ? 10 + this.random.uniform() : near;
			if (score > most) [best, most] = [i, score];
		}
		return best;
	}

	print(stroke: Stroke, faults: readonly PrintFault[] = []): Deposits {
		const f = strengths(faults);
		const set = effectOf(stroke.setting ?? AS_IT_COMES);
		const { random } = this;
		const n = this.pads.length;
		const out: Deposits = {
			volume: new Float64Array(n),
			area: new Float64Array(n),
			height: new Float64Array(n),
			offsetX: new Float64Array(n),
			offsetY: new Float64Array(n),
			peak: f.peaks > 0 || set.peaks > 0 ? new Float64Array(n) : null,
			bridges: 0
		};
		this.#wander = 0.35 * this.#wander + 0.012 * random.normal();
		const rear = stroke.stroke === 'R';
		// Everything that acts on the whole print, ln.
		let whole = this.#wander + (rear ? -0.0075 : 0.0075);
		if (f.strokePair > 0 && rear) whole -= 0.055 * f.strokePair;
		whole -= 0.016 * stroke.ageShare + 0.095 * f.pasteAging * stroke.ageShare ** 1.15;
		// A bead that shrinks rolls less and fills less: slowly at first.
		if (f.topupStarve > 0) whole -= 0.066 * f.topupStarve * Math.min(1.3, stroke.beadUsed) ** 1.1;
		if (f.levelLow > 0) whole -= 0.135 * f.levelLow;
		if (f.panelOutlier > 0 && stroke.print % this.#outlierEvery === this.#outlierEvery - 1) whole -= 0.22 * f.panelOutlier;
		if (stroke.minutesSincePrevious > 20) this.#sincePause = 0;
		else this.#sincePause++;
		const stood = f.abandon > 0 && this.#sincePause < 3 ? 0.13 * f.abandon * Math.exp(-1.6 * this.#sincePause) : 0;
		// Residue builds up in openings that let go badly and is taken out by the wipe.
		const clog = 0.003 * stroke.printsSinceWipe + 0.0135 * f.clogWipe * Math.min(stroke.printsSinceWipe, 14) ** 0.95;
		whole += set.film;
		const place = this.#place(stroke, f);
		const filledUp = Math.min(1, stroke.print / 8);
		const tilted = f.tiltAcross > 0 || f.tiltAlong > 0;
		const { turn, grow } = place;
		for (let i = 0; i < n; i++) {
			const release = this.#release[i]!;
			const loss = 1 - release;
			const weak = 0.55 + 2.2 * loss;
			let v = whole + this.#bias[i]! - clog * weak - stood * weak - (set.slow + set.pulled) * loss;
			if (this.pads[i]!.minSideMm > 0.9) v -= set.dug;
			if (tilted)
				v +=
					0.065 * f.tiltAcross * (this.#across[i]! + 0.12 * this.#across[i]! ** 3) +
					0.065 * f.tiltAlong * (this.#along[i]! + 0.12 * this.#along[i]! ** 3);
			if (f.bladeNick > 0 && rear) v += 0.14 * f.bladeNick * Math.exp(-(((this.#acrossMm[i]! - this.#nickMm) / NICK_MM) ** 4));
			if (f.apertureBlocked > 0 && this.#blocked.has(i)) v -= 0.5 * f.apertureBlocked * filledUp;
			// Scatter grows where little lets go; one reading in sixteen scatters far more.
			const sigma = (0.028 + 0.09 * loss) * (random.uniform() < 0.06 ? 2.5 : 1);
			v += sigma * random.normal();
			let volume = release * Math.exp(v);
			// Now and then an opening does not let go at all.
			if (random.uniform() < 1.2e-5 * (1 + 12 * loss) * (1 + 40 * f.pasteAging)) {
				const left = 0.35 * random.uniform();
				volume *= left;
				v += Math.log(Math.max(left, 1e-6));
			}
			// A brick that lost paste lost it from its edges and its top.
			let area = this.#ground[i]! * Math.exp(0.38 * v) * (1 + 0.012 * random.normal());
			let height = volume / area;
			if (f.supportLocal > 0) {
				const d = Math.hypot(this.pads[i]!.xMm - this.#sag.x, this.pads[i]!.yMm - this.#sag.y) / SAG_MM;
				const lift = Math.exp(0.19 * f.supportLocal * Math.exp(-(d ** 4)));
				height *= lift;
				volume *= lift;
			}
			if (f.gapHigh > 0) {
				height *= 1 + 0.16 * f.gapHigh;
				volume *= 1 + 0.16 * f.gapHigh;
			}
			if (f.scoop > 0 && this.pads[i]!.minSideMm > 0.9) {
				const dug = 1 - 0.17 * f.scoop * Math.min(1.15, (this.pads[i]!.minSideMm - 0.4) / 0.6);
				height *= dug;
				volume *= dug;
			}
			if (f.slump > 0) {
				const wide = 1 + 0.135 * f.slump;
				area *= wide;
				height /= wide;
			}
			out.volume[i] = volume;
			out.area[i] = area;
			out.height[i] = height;
			const u = this.pads[i]!.xMm - this.#centre.x;
			const w = this.pads[i]!.yMm - this.#centre.y;
			out.offsetX[i] = place.x - turn * w + grow * u;
			out.offsetY[i] = place.y + turn * u + grow * w;
			if (out.peak)
				out.peak[i] = random.uniform() < 0.06 * f.peaks + set.peaks ? 1.55 + 0.4 * random.uniform() : 1.08 + 0.1 * random.uniform();
		}
		out.bridges = this.#bridges(stroke, f, place);
		return out;
	}

	/** Where the whole print lands: the machine's repeatability, and what faults add. */
	#place(stroke: Stroke, f: Strengths): { x: number; y: number; turn: number; grow: number } {
		const { random } = this;
		const shift = 27 * f.alignShift;
		const scatter = 5 + 14 * f.alignScatter;
		let x = 4 + shift * Math.cos(this.#direction) + scatter * random.normal();
		let y = -3 + shift * Math.sin(this.#direction) + scatter * random.normal();
		const drag = (stroke.stroke === 'F' ? 1 : -1) * (1.5 + 11.5 * f.strokeOffset);
		if (this.strokeAxis === 'x') x += drag;
		else y += drag;
		const at = 1 / this.#rMaxMm;
		return { x, y, turn: (28 * f.alignRotation + 3 * random.normal()) * at, grow: (28 * f.alignStretch + 3 * random.normal()) * at };
	}

	#bridges(stroke: Stroke, f: Strengths, place: { x: number; y: number }): number {
		// Paste gathers under the foil and is taken off by the wipe; a print far off its place bridges by itself.
		this.#smear = 0.1 * f.bridgeWipe * stroke.printsSinceWipe ** 2;
		const off = Math.hypot(place.x, place.y);
		const rate = 0.004 + 1.1 * f.bridgePressure + this.#smear + (off > 40 ? 0.02 * (off - 40) : 0);
		let [k, product] = [0, this.random.uniform()];
		const end = Math.exp(-rate);
		while (product > end && k < 60) {
			k++;
			product *= this.random.uniform();
		}
		return k;
	}
}

export interface Measured {
	volumePct: number[];
	heightUm: number[];
	areaPct: number[];
	offsetXUm: number[];
	offsetYUm: number[];
	peakHeightUm: number[] | null;
	bridges: number;
}

/** What an inspection unit reads off the deposits: its own noise, and a volume scale that can go wrong. */
export function measureDeposits(d: Deposits, foilUm: number, random: Random, faults: readonly PrintFault[] = []): Measured {
	const wrong = 1 + 0.12 * strengths(faults).measurement;
	const n = d.volume.length;
	const out: Measured = {
		volumePct: new Array<number>(n),
		heightUm: new Array<number>(n),
		areaPct: new Array<number>(n),
		offsetXUm: new Array<number>(n),
		offsetYUm: new Array<number>(n),
		peakHeightUm: d.peak ? new Array<number>(n) : null,
		bridges: d.bridges
	};
	for (let i = 0; i < n; i++) {
		const volume = d.volume[i]! * wrong * (1 + 0.01 * random.normal());
		const height = d.height[i]! * foilUm * (1 + 0.006 * random.normal());
		out.volumePct[i] = Math.round(1000 * volume) / 10;
		out.areaPct[i] = Math.round(1000 * d.area[i]!) / 10;
		out.heightUm[i] = Math.round(10 * height) / 10;
		out.offsetXUm[i] = Math.round(d.offsetX[i]! + 4 * random.normal());
		out.offsetYUm[i] = Math.round(d.offsetY[i]! + 4 * random.normal());
		if (out.peakHeightUm) out.peakHeightUm[i] = Math.round(10 * height * d.peak![i]!) / 10;
	}
	return out;
}

type Strengths = Record<PrintFaultKind, number>;

function strengths(faults: readonly PrintFault[]): Strengths {
	const out = { ...NONE };
	for (const { kind, strength } of faults) out[kind] = Math.max(out[kind], strength);
	return out;
}

const NONE = Object.fromEntries(PRINT_FAULTS.map((kind) => [kind, 0])) as Strengths;
