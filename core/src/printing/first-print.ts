import type { Reason, Verdict } from '../judgement/index.ts';

export interface FirstPrint {
	/** Alignment code of that print; null where the printer reported none. */
	alignment: string | null;
	panel: string;
	pads: number;
	fails: number;
	warnings: number;
	meanVolumePct: number;
	/** Largest mean offset over the panel, µm. */
	offsetUm: number;
}

/** How many of the first panels have to be in order before a run is released (common practice). */
export const FIRST_PRINTS = 2;

/** Whether the first prints let a run be released: each aligned, no pad out of limits, the level near the forecast, no offset beyond tolerance. */
export function judgeFirstPrints(prints: readonly FirstPrint[], toleranceUm: number, needed = FIRST_PRINTS): Verdict {
	const because: Reason[] = prints.map((p) => ({
		quantity: `${p.panel}`,
		value: `${p.fails} of ${p.pads} pads out, ${p.meanVolumePct.toFixed(0)} %, ${p.offsetUm.toFixed(0)} µm`,
		unit: '',
		limit: `no pad out, 75 to 125 %, at most ${toleranceUm} µm`,
		source: 'common practice'
	}));
	if (prints.length === 0)
		return {
			level: 'noData',
			statement: 'No print has been inspected yet.',
			because,
			doNext: ['Print the first panel and inspect every pad']
		};
	const last = prints.slice(-needed);
	for (const p of last) {
		if (p.alignment !== null && p.alignment !== 'ok')
			return {
				level: 'stopped',
				statement: `${p.panel} was not aligned: ${p.alignment.replace('_', ' ')}.`,
				because,
				doNext: ['Align again, print again']
			};
		if (p.fails > 0)
			return {
				level: 'act',
				statement: `${p.panel} has ${p.fails} pads out of limits.`,
				because,
				doNext: ['Wash it and print again', 'Look at the pads that failed']
			};
		if (p.meanVolumePct < 75 || p.meanVolumePct > 125)
			return {
				level: 'act',
				statement: `${p.panel} carries ${p.meanVolumePct.toFixed(0)} % of the nominal paste.`,
				because,
				doNext: ['Compare foil and program', 'Print again']
			};
		if (p.offsetUm > toleranceUm)
			return {
				level: 'act',
				statement: `${p.panel} is off by ${p.offsetUm.toFixed(0)} µm.`,
				because,
				doNext: ['Enter the negative offset once, print again']
			};
	}
	if (last.length < needed)
		return {
			level: 'watch',
			statement: `${last.length} of ${needed} first prints are in order.`,
			because,
			doNext: ['Print and inspect the next panel']
		};
	return { level: 'good', statement: `The first ${needed} prints are in order: the run may be released.`, because, doNext: [] };
}

/** Panels that were finished and are printed again: a label was put on twice, or the wrong pile was fed. Nothing of it is right until somebody has looked.
 * @param serials in the order of their new prints
 * @returns null where there is none
 */
export function judgePrintedAgain(serials: readonly string[]): Verdict | null {
	const [first, ...others] = serials;
	if (first === undefined) return null;
	const more = others.length ? ` and ${others.length} more` : '';
	return {
		level: 'act',
		statement: `${first}${more} ${others.length ? 'were' : 'was'} finished before and ${others.length ? 'are' : 'is'} printed again.`,
		because: [
			{
				quantity: 'Printed again',
				value: serials.length,
				unit: serials.length === 1 ? 'panel' : 'panels',
				limit: 'none',
				source: 'serials of the job'
			}
		],
		doNext: [`Take ${first} off and find out which panel it is`]
	};
}
