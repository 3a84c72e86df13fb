import { judgeDeposit, judgePanelPaste, type Deposit, type LimitSet, type PanelResult } from '@keen-relay/core/inspection';
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

const FINE = { codes: [] as const, warn: false };

const NAMES = ['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm'] as const;

/** Why the readings cannot be of this side; null where they can. */
export function wrongLength(m: MessageOf<'paste_inspection'>, pads: SidePads): string | null {
	const expected = pads.classes.length * pads.circuits;
	for (const name of [...NAMES, 'peakHeightUm'] as const)
		if (m[name] && m[name].length !== expected) return `${name} has ${m[name].length} values, the panel has ${expected} pads`;
	const beyond = m.bridgedPads?.find((pad) => pad >= expected);
	return beyond === undefined ? null : `bridgedPads names pad ${beyond}, the panel has ${expected}`;
}

/** Judges every pad of a panel and sums them up by class. */
export function judgeReadings(m: MessageOf<'paste_inspection'>, side: SidePads, foilUm: number, limits: LimitSet): PasteResult {
	const { classes, widthsMm, refDes } = side;
	const perCircuit = classes.length;
	const byClass = new Map<PadClass, ClassSum>();
	const worst: PasteResult['worst'] = [];
	const bridged = new Set(m.bridgedPads ?? []);
	const warned = new Map<string, number>();
	let [fails, warnings, total, mostOnOnePart, sumX, sumY] = [0, 0, 0, 0, 0, 0];
	const toPct = 100 / foilUm;
	// What lies inside the warning limits needs no further look: nearly every pad.
	const inside = new Map(
		Object.entries(limits).map(([c, l]) => [
			c as PadClass,
			[...l.volumePct.warn, ...l.heightPct, ...l.areaPct, 1000 * l.offsetShare] as const
		])
	);
	const deposit: Deposit = { volumePct: 0, heightPct: 0, areaPct: 0, offsetXUm: 0, offsetYUm: 0, bridge: false };
	for (let pad = 0; pad < m.volumePct.length; pad++) {
		const volumePct = m.volumePct[pad]!;
		const padClass = classes[pad % perCircuit]!;
		deposit.volumePct = volumePct;
		deposit.heightPct = m.heightUm[pad]! * toPct;
		deposit.areaPct = m.areaPct[pad]!;
		deposit.offsetXUm = m.offsetXUm[pad]!;
		deposit.offsetYUm = m.offsetYUm[pad]!;
		deposit.bridge = bridged.size > 0 && bridged.has(pad);
		const [vl, vh, hl, hh, al, ah, share] = inside.get(padClass)!;
		const reach = share * widthsMm[pad % perCircuit]!;
		const fine =
			!deposit.bridge &&
			volumePct >= vl &&
			volumePct <= vh &&
			volumePct >= 10 &&
			deposit.heightPct >= hl &&
			deposit.heightPct <= hh &&
			deposit.areaPct >= al &&
			deposit.areaPct <= ah &&
			Math.abs(deposit.offsetXUm) <= reach &&
			Math.abs(deposit.offsetYUm) <= reach;
		const { codes, warn } = fine ? FINE : judgeDeposit(padClass, widthsMm[pad % perCircuit]!, deposit, limits[padClass]);
		let c = byClass.get(padClass);
		if (!c) byClass.set(padClass, (c = { padClass, pads: 0, fails: 0, sum: 0, sumSquares: 0 }));
		c.pads++;
		c.sum += volumePct;
		c.sumSquares += volumePct * volumePct;
		total += volumePct;
		sumX += deposit.offsetXUm;
		sumY += deposit.offsetYUm;
		if (codes[0]) {
			fails++;
			c.fails++;
			if (worst.length < WORST_KEPT) worst.push({ pad, code: codes[0], volumePct });
		} else if (warn) {
			warnings++;
			const part = refDes[pad % perCircuit];
			if (!part) continue;
			const key = `${Math.floor(pad / perCircuit)} ${part}`;
			const count = (warned.get(key) ?? 0) + 1;
			warned.set(key, count);
			mostOnOnePart = Math.max(mostOnOnePart, count);
		}
	}
	const pads = m.volumePct.length;
	return {
		pads,
		fails,
		warnings,
		worst,
		meanVolumePct: total / pads,
		classes: [...byClass.values()],
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
