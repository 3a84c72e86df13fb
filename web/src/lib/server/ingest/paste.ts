import { judgeDeposit, MISSING_PCT, thermalMeans, judgePanelPaste, type LimitSet, type PanelResult } from '@keen-relay/core/inspection';
import type { PadClass } from '@keen-relay/core/parts';
import type { MessageOf } from './messages.ts';

/** Pads of a block: one row of the readings table. */
export const BLOCK_PADS = 64;
/** Failing pads that a summary names; all of them are in the readings. */
const WORST_KEPT = 60;

/** What the limits of a side's pads need. */
export interface SidePads {
	circuits: number;
	classes: PadClass[];
	widthsMm: number[];
	refDes: (string | null)[];
}

export interface ClassSum {
	padClass: PadClass;
	pads: number;
	fails: number;
	sum: number;
	sumSquares: number;
}

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
export function wrongLength(m: MessageOf<'paste_inspection'>, pads: SidePads): string | null {
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

/** Judges every pad of a panel and sums them up by class. */
export function judgeReadings(m: MessageOf<'paste_inspection'>, side: SidePads, foilUm: number, limits: LimitSet): PasteResult {
	const { classes, widthsMm, refDes } = side;
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
		const reach = o.offsetUmPerMm * widthsMm[own]!;
		// What lies inside the warning limits needs no further look: nearly every pad.
		if (
			volume >= o.volumeLow &&
			volume <= o.volumeHigh &&
			height >= o.heightLow &&
			height <= o.heightHigh &&
			area >= o.areaLow &&
			area <= o.areaHigh &&
			x <= reach &&
			x >= -reach &&
			y <= reach &&
			y >= -reach &&
			bridged.size === 0
		)
			continue;
		const padClass = kinds[kind]!;
		const { codes, warn } = judgeDeposit(
			padClass,
			widthsMm[own]!,
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
export function fromSummary(m: MessageOf<'paste_summary'>): PasteResult {
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
