import { judgeDeposit, judgePanelPaste, type PanelResult } from '@keen-relay/core/inspection';
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
}

const NAMES = ['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm'] as const;

/** Why the readings cannot be of this side; null where they can. */
export function wrongLength(m: MessageOf<'paste_inspection'>, pads: SidePads): string | null {
	const expected = pads.classes.length * pads.circuits;
	for (const name of NAMES) if (m[name].length !== expected) return `${name} has ${m[name].length} values, the panel has ${expected} pads`;
	return null;
}

/** Judges every pad of a panel and sums them up by class. */
export function judgeReadings(m: MessageOf<'paste_inspection'>, { classes, widthsMm }: SidePads, foilUm: number): PasteResult {
	const perCircuit = classes.length;
	const byClass = new Map<PadClass, ClassSum>();
	const worst: PasteResult['worst'] = [];
	let fails = 0;
	let warnings = 0;
	let total = 0;
	const toPct = 100 / foilUm;
	for (let pad = 0; pad < m.volumePct.length; pad++) {
		const volumePct = m.volumePct[pad]!;
		const padClass = classes[pad % perCircuit]!;
		const { codes, warn } = judgeDeposit(padClass, widthsMm[pad % perCircuit]!, {
			volumePct,
			heightPct: m.heightUm[pad]! * toPct,
			areaPct: m.areaPct[pad]!,
			offsetXUm: m.offsetXUm[pad]!,
			offsetYUm: m.offsetYUm[pad]!
		});
		let c = byClass.get(padClass);
		if (!c) byClass.set(padClass, (c = { padClass, pads: 0, fails: 0, sum: 0, sumSquares: 0 }));
		c.pads++;
		c.sum += volumePct;
		c.sumSquares += volumePct * volumePct;
		total += volumePct;
		if (codes[0]) {
			fails++;
			c.fails++;
			if (worst.length < WORST_KEPT) worst.push({ pad, code: codes[0], volumePct });
		} else if (warn) warnings++;
	}
	const pads = m.volumePct.length;
	return {
		pads,
		fails,
		warnings,
		worst,
		meanVolumePct: total / pads,
		classes: [...byClass.values()],
		result: judgePanelPaste(pads, fails, warnings)
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
		result: judgePanelPaste(pads, fails, warnings)
	};
}

/** Columns of the readings table, block after block: arrays as PostgreSQL reads them, 0.1 % and 0.1 µm in two bytes. */
export function blocksOf(m: MessageOf<'paste_inspection'>): { block: number; columns: string[] }[] {
	const blocks = Math.ceil(m.volumePct.length / BLOCK_PADS);
	return Array.from({ length: blocks }, (_, block) => ({
		block,
		columns: [
			literal(m.volumePct, block, 10),
			literal(m.heightUm, block, 10),
			literal(m.areaPct, block, 10),
			literal(m.offsetXUm, block, 1),
			literal(m.offsetYUm, block, 1)
		]
	}));
}

function literal(values: readonly number[], block: number, scale: number): string {
	const end = Math.min(values.length, (block + 1) * BLOCK_PADS);
	let text = '{';
	for (let i = block * BLOCK_PADS; i < end; i++) {
		if (text.length > 1) text += ',';
		text += Math.round(values[i]! * scale);
	}
	return text + '}';
}
