import type { Level } from '../judgement/index.ts';
import type { PadClass } from '../parts/index.ts';
import type { PadSize } from './pad-size.ts';
import { judgeDeposit, judgePanelPaste, MISSING_PCT, thermalMeans, type LimitSet, type PanelResult } from './deposit.ts';

/** Readings of one panel, circuit by circuit, in the stable order of the openings. */
export interface PanelReadings {
	volumePct: readonly number[];
	heightUm: readonly number[];
	areaPct: readonly number[];
	offsetXUm: readonly number[];
	offsetYUm: readonly number[];
	peakHeightUm?: readonly number[] | undefined;
	/** Pads whose paste joins a neighbour, by index on the panel. */
	bridgedPads?: readonly number[] | undefined;
}

/** What is left of an inspection whose readings were not kept: sums by class. */
export interface PanelSums {
	classes: readonly { padClass: PadClass; pads: number; fails: number; warnings: number; meanVolumePct: number; sdVolumePct: number }[];
	worst: { pad: number; code: string; volumePct: number }[];
}

/** Failing pads that a summary names; all of them are in the readings. */
const WORST_KEPT = 60;

/** What the limits of a side's pads need. */
export interface SidePads {
	circuits: number;
	classes: readonly PadClass[];
	/** Of every opening of the panel, circuit by circuit. */
	sizes: readonly PadSize[];
	refDes: readonly (string | null)[];
}

export interface ClassSum {
	padClass: PadClass;
	pads: number;
	fails: number;
	sum: number;
	sumSquares: number;
}

/** What a panel came to. */
export interface PasteResult {
	pads: number;
	fails: number;
	warnings: number;
	meanVolumePct: number;
	classes: ClassSum[];
	worst: { pad: number; code: string; volumePct: number }[];
	result: PanelResult;
	bridges: number;
	/** Mean over the panel, where the readings are known. */
	offsetUm: { x: number; y: number } | null;
}

const NAMES = ['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm'] as const;

/** Why the readings cannot be of this side; null where they can. */
export function wrongLength(m: PanelReadings, pads: SidePads): string | null {
	const expected = pads.classes.length * pads.circuits;
	for (const name of [...NAMES, 'peakHeightUm'] as const)
		if (m[name] && m[name].length !== expected) return `${name} has ${m[name].length} values, the panel has ${expected} pads`;
	const beyond = m.bridgedPads?.find((pad) => pad >= expected);
	return beyond === undefined ? null : `bridgedPads names pad ${beyond}, the panel has ${expected}`;
}

/** The limits of a class as plain numbers; a volume below 10 % is missing whatever the limits say. */
function boundsOf(l: LimitSet[PadClass]) {
	return {
		volumeLow: Math.max(MISSING_PCT, l.volumePct.warn[0]),
		volumeHigh: l.volumePct.warn[1],
		heightLow: l.heightPct[0],
		heightHigh: l.heightPct[1],
		areaLow: l.areaPct[0],
		areaHigh: l.areaPct[1],
		offsetUmPerMm: 1000 * l.offsetShare
	};
}

/** Every code of every pad, and its level: what a drawing of the panel shows.
 * A pad without a reading has none, unless it is bridged.
 * @param readings percentages and µm; NaN where a pad has no reading
 * @param foilUm as it was measured; @param limits that judged the panel
 */
export function judgePads(
	readings: PanelReadings,
	side: Pick<SidePads, 'classes' | 'sizes' | 'refDes'>,
	foilUm: number,
	limits: LimitSet
): { codes: string[]; level: Level }[] {
	const { classes, sizes, refDes } = side;
	const bridged = new Set(readings.bridgedPads ?? []);
	const short = new Set(thermalMeans(classes, refDes, readings.volumePct).flatMap((t) => (t.within ? [] : t.pads)));
	return readings.volumePct.map((volumePct, i) => {
		const own = i % classes.length;
		if (!Number.isFinite(volumePct)) return bridged.has(i) ? { codes: ['bridge'], level: 'act' } : { codes: [], level: 'noData' };
		const { codes, warn } = judgeDeposit(
			classes[own]!,
			sizes[i]!,
			{
				volumePct,
				heightPct: (readings.heightUm[i]! / foilUm) * 100,
				areaPct: readings.areaPct[i]!,
				offsetXUm: readings.offsetXUm[i]!,
				offsetYUm: readings.offsetYUm[i]!,
				bridge: bridged.has(i)
			},
			limits[classes[own]!]
		);
		const all = [...codes, ...(short.has(i) ? ['thermal mean'] : [])];
		return { codes: all, level: all.length ? 'act' : warn ? 'watch' : 'good' };
	});
}

/** Judges every pad of a panel and sums them up by class.
 * @param m readings as the unit sent them; @param foilUm as it was measured; @param limits that hold now
 */
export function judgeReadings(m: PanelReadings, side: SidePads, foilUm: number, limits: LimitSet): PasteResult {
	const { classes, sizes, refDes } = side;
	const perCircuit = classes.length;
	const kinds = [...new Set(classes)];
	const sums = kinds.map((padClass): ClassSum => ({ padClass, pads: 0, fails: 0, sum: 0, sumSquares: 0 }));
	const kindOf = Uint8Array.from(classes, (c) => kinds.indexOf(c));
	const bounds = kinds.map((c) => boundsOf(limits[c]));
	const worst: PasteResult['worst'] = [];
	const bridged = new Set(m.bridgedPads ?? []);
	const warned = new Map<string, number>();
	let fails = 0;
	let warnings = 0;
	let total = 0;
	let mostOnOnePart = 0;
	let sumX = 0;
	let sumY = 0;
	const toPct = 100 / foilUm;
	const { volumePct, heightUm, areaPct, offsetXUm, offsetYUm } = m;
	for (let pad = 0, own = 0; pad < volumePct.length; pad++, own = own + 1 === perCircuit ? 0 : own + 1) {
		const volume = volumePct[pad]!;
		const height = heightUm[pad]! * toPct;
		const area = areaPct[pad]!;
		const x = offsetXUm[pad]!;
		const y = offsetYUm[pad]!;
		const kind = kindOf[own]!;
		const c = sums[kind]!;
		c.pads++;
		c.sum += volume;
		c.sumSquares += volume * volume;
		total += volume;
		sumX += x;
		sumY += y;
		const o = bounds[kind]!;
		const size = sizes[pad]!;
		const [reachX, reachY] = [o.offsetUmPerMm * size.xMm, o.offsetUmPerMm * size.yMm];
		// What lies inside the warning limits needs no further look: nearly every pad.
		if (
			volume >= o.volumeLow &&
			volume <= o.volumeHigh &&
			height >= o.heightLow &&
			height <= o.heightHigh &&
			area >= o.areaLow &&
			area <= o.areaHigh &&
			x <= reachX &&
			x >= -reachX &&
			y <= reachY &&
			y >= -reachY &&
			bridged.size === 0
		)
			continue;
		const padClass = kinds[kind]!;
		const { codes, warn } = judgeDeposit(
			padClass,
			size,
			{ volumePct: volume, heightPct: height, areaPct: area, offsetXUm: x, offsetYUm: y, bridge: bridged.has(pad) },
			limits[padClass]
		);
		if (codes[0]) {
			fails++;
			c.fails++;
			if (worst.length < WORST_KEPT) worst.push({ pad, code: codes[0], volumePct: volume });
		} else if (warn) {
			warnings++;
			const part = refDes[own];
			if (!part) continue;
			const key = `${Math.floor(pad / perCircuit)} ${part}`;
			const count = (warned.get(key) ?? 0) + 1;
			warned.set(key, count);
			mostOnOnePart = Math.max(mostOnOnePart, count);
		}
	}
	for (const { pads: windows, meanPct, within } of thermalMeans(classes, refDes, volumePct)) {
		if (within) continue;
		fails++;
		sums[kinds.indexOf('thermal')]!.fails++;
		if (worst.length < WORST_KEPT) worst.push({ pad: windows[0]!, code: 'thermal mean', volumePct: Math.round(10 * meanPct) / 10 });
	}
	const pads = m.volumePct.length;
	return {
		pads,
		fails,
		warnings,
		worst,
		meanVolumePct: total / pads,
		classes: sums,
		result: judgePanelPaste(pads, fails, warnings, mostOnOnePart),
		bridges: bridged.size,
		offsetUm: { x: sumX / pads, y: sumY / pads }
	};
}

/** The same summary from what a machine has left of its readings. */
export function fromSummary(m: PanelSums): PasteResult {
	const sumOf = (name: 'pads' | 'fails' | 'warnings') => m.classes.reduce((sum, c) => sum + c[name], 0);
	const [pads, fails, warnings] = [sumOf('pads'), sumOf('fails'), sumOf('warnings')];
	return {
		pads,
		fails,
		warnings,
		worst: m.worst,
		meanVolumePct: m.classes.reduce((sum, c) => sum + c.pads * c.meanVolumePct, 0) / pads,
		classes: m.classes.map((c) => ({
			padClass: c.padClass,
			pads: c.pads,
			fails: c.fails,
			sum: c.pads * c.meanVolumePct,
			sumSquares: c.pads * c.meanVolumePct ** 2 + (c.pads - 1) * c.sdVolumePct ** 2
		})),
		result: judgePanelPaste(pads, fails, warnings),
		bridges: 0,
		offsetUm: null
	};
}
