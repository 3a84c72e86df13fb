import { requireRange } from '../judgement/index.ts';

export interface MisprintedPanel {
	/** Washes that this serial has had. */
	washes: number;
	finish: 'osp' | 'other';
	/** Since the first reflow, h; null before it. */
	sinceFirstReflowH: number | null;
	partsPlacedThisSide: boolean;
	uncuredGlue: boolean;
	/** On the other side, populated. */
	washSensitiveParts: boolean;
}

export interface ReprintRules {
	washLimit: number;
	ospWashLimit: number;
	ospHours: number;
}

/** @see common practice */
export const REPRINT_RULES: ReprintRules = { washLimit: 2, ospWashLimit: 1, ospHours: 24 };

export interface ReprintDecision {
	decision: 'wash_and_reprint' | 'engineer_approval' | 'scrap_review';
	/** Every reason, the gravest first. */
	reasons: { code: string; why: string }[];
	steps: string[];
	statement: string;
}

const WASH = [
	'Take the panel off and wash it with the cleaner for raw paste',
	'Dry it',
	'Look into holes and vias under a lens for solder balls'
] as const;

/** How many of the steps of a misprint come before its panel is printed again. */
export const stepsBeforePrint = (steps: readonly string[]): number => Math.min(steps.length, WASH.length);

/** Wash and print again, ask an engineer, or look at scrapping it.
 * @see common practice; a no-clean misprint needs a wash too, with a cleaner made for raw paste
 */
export function reprintDecision(panel: MisprintedPanel, rules: ReprintRules = REPRINT_RULES): ReprintDecision {
	const scrap: ReprintDecision['reasons'] = [];
	const ask: ReprintDecision['reasons'] = [];
	const osp = panel.finish === 'osp';
	if (panel.washes >= rules.washLimit) scrap.push({ code: 'wash_limit', why: `washed ${panel.washes} of ${rules.washLimit} times` });
	if (osp && panel.washes >= rules.ospWashLimit)
		scrap.push({ code: 'osp_wash_limit', why: `an OSP finish takes ${rules.ospWashLimit} wash` });
	if (osp && panel.sinceFirstReflowH !== null && panel.sinceFirstReflowH > rules.ospHours)
		ask.push({
			code: 'osp_time',
			why: `${panel.sinceFirstReflowH.toFixed(0)} h since the first reflow, an OSP finish allows ${rules.ospHours} h`
		});
	if (panel.partsPlacedThisSide) ask.push({ code: 'parts_placed', why: 'parts are placed on this side' });
	if (panel.uncuredGlue) ask.push({ code: 'uncured_glue', why: 'the glue is not cured' });
	if (panel.washSensitiveParts) ask.push({ code: 'wash_sensitive_parts', why: 'parts on the other side do not stand a wash' });
	const decision = scrap.length ? 'scrap_review' : ask.length ? 'engineer_approval' : 'wash_and_reprint';
	return {
		decision,
		reasons: [...scrap, ...ask],
		steps: decision === 'wash_and_reprint' ? [...WASH, 'Print again', 'Inspect every pad'] : [],
		statement: {
			wash_and_reprint: `Wash and print again: wash ${panel.washes + 1} of ${osp ? rules.ospWashLimit : rules.washLimit}. A wipe or a toothpick is no repair.`,
			engineer_approval: 'An engineer approves the wash first.',
			scrap_review: 'No more washes: an engineer decides on scrapping.'
		}[decision]
	};
}

/** Whether a wash pays: Σ pᵢ·rework costᵢ against wash cost + p(damage)·board cost.
 * @throws {InputError} `out-of-range`: a probability outside 0 to 1, a cost below 0
 */
export function washPays(
	defects: readonly { probability: number; reworkCost: number }[],
	washCost: number,
	damageProbability: number,
	boardCost: number
): { pays: boolean; without: number; withWash: number } {
	requireRange('damageProbability', damageProbability, 0, 1);
	requireRange('washCost', washCost, 0, 1e9);
	requireRange('boardCost', boardCost, 0, 1e9);
	defects.forEach((d, i) => {
		requireRange(`defects[${i}].probability`, d.probability, 0, 1);
		requireRange(`defects[${i}].reworkCost`, d.reworkCost, 0, 1e9);
	});
	const without = defects.reduce((sum, d) => sum + d.probability * d.reworkCost, 0);
	const withWash = washCost + damageProbability * boardCost;
	return { pays: without > withWash, without, withWash };
}
