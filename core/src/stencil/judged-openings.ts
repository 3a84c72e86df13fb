import { combine, InputError, noData, type Verdict } from '../judgement/index.ts';
import type { Box, Point, Ring } from '../geometry/index.ts';
import { chooseFoil, expectedShortPads, foilAlternatives, type FoilAlternative } from './choose-foil.ts';
import { asMade, deliveredByFoil, hardestOpenings } from './foil.ts';
import { type Wall } from './ratios.ts';
import {
	applyRules,
	judgeLongOpenings,
	ruleEffects,
	type CutOpening,
	type LayerOpening,
	type RuleEffect,
	type StencilRules
} from './rules.ts';
import { judgeStepArea, stepArea, withNeeds } from './step-area.ts';
import { type ShapeFactor, type TransferModel } from './transfer.ts';
import { judgeWebs, websOf } from './web.ts';

/** What the openings of a layer are judged by. */
export interface OpeningsTask {
	rules: StencilRules;
	/** Paste that the joints of parts need, mm³. */
	needs: { refDes: string; neededMm3: number }[];
	/** Lowest volume that passes, %, by class. */
	lowPct: Record<string, number>;
	foilMm: number;
	wall: Wall;
	model: TransferModel;
	/** How much wider the openings are at the board side, µm; null where it is not known. */
	taperUm: number | null;
	factors: Partial<Record<Wall, ShapeFactor[]>>;
	/** Area ratios that were measured. */
	measured: { from: number; to: number } | null;
	/** Only what is looked at is computed. */
	view: 'layer' | 'transfer' | 'foil' | 'alternatives';
	foilsMm: number[];
	/** An opening under the rules that was picked. */
	selected: number | null;
}

export interface JudgedOpenings {
	openings: { outline: Ring; centre: Point }[];
	/** Of the web beside each opening. */
	results: ('pass' | 'marginal' | 'fail')[];
	/** Where the foil is stepped down. */
	boxes: Box[];
	verdict: Verdict;
	/** null where there is none. */
	narrowestUm: number | null;
	narrowestCircleUm: number | null;
	effects: RuleEffect[];
	shortPads: number;
	alternatives: FoilAlternative[];
	/** The openings hardest to release, one of each size, with the one that was picked. */
	critical: { name: string; delivered: (number | null)[] }[];
}

/** Nothing to show, and why. */
export function notJudged(why: string): JudgedOpenings {
	return {
		openings: [],
		results: [],
		boxes: [],
		verdict: noData(why),
		narrowestUm: null,
		narrowestCircleUm: null,
		effects: [],
		shortPads: 0,
		alternatives: [],
		critical: []
	};
}

/** A layer that is judged again and again while its rules are edited.
 * @param names of the layer's openings
 */
export function openingsJudge(layer: readonly LayerOpening[], names: readonly string[]) {
	let before: { rules: StencilRules; cut: CutOpening[] } | undefined;
	return (task: OpeningsTask): JudgedOpenings => {
		let cut: CutOpening[];
		try {
			cut = applyRules(layer, task.rules, before);
		} catch (error) {
			if (error instanceof InputError) return notJudged(error.message);
			throw error;
		}
		before = { rules: task.rules, cut };
		return cut.length ? judge(layer, names, cut, task) : notJudged('This layer has no openings.');
	};
}

function judge(layer: readonly LayerOpening[], names: readonly string[], cut: readonly CutOpening[], task: OpeningsTask): JudgedOpenings {
	const { foilMm, wall, model, taperUm } = task;
	const needOf = new Map(task.needs.map((n) => [n.refDes, n.neededMm3]));
	const madeWith = (on: Wall) => ({ taperUm, factors: task.factors[on] ?? [] });
	const drawn = withNeeds(cut, (refDes) => needOf.get(refDes) ?? null).map((o) => ({
		...o,
		name: names[o.from] ?? '',
		lowPct: task.lowPct[o.padClass] ?? 60
	}));
	const named = asMade(drawn, madeWith(wall));
	const nameOf = (i: number) => named[i]!.name;
	const web = judgeWebs(websOf(cut, 0.6), foilMm, nameOf);
	const long = judgeLongOpenings(cut, nameOf);
	const choice = chooseFoil(named, wall, model);
	const area = choice.kind === 'step' ? stepArea(named, choice.inStep, choice.stepUm) : null;
	let [narrowestUm, narrowestCircleUm] = [Infinity, Infinity];
	for (const { widthMm, shape } of cut) {
		narrowestUm = Math.min(narrowestUm, widthMm * 1000);
		if (shape === 'circle') narrowestCircleUm = Math.min(narrowestCircleUm, widthMm * 1000);
	}
	return {
		openings: cut.map(({ outline, centre }) => ({ outline, centre })),
		results: web.results,
		boxes: area?.boxes ?? [],
		verdict: combine([choice.verdict, web.verdict, ...(long ? [long] : []), ...(area ? [judgeStepArea(area, nameOf)] : [])]),
		narrowestUm,
		narrowestCircleUm: Number.isFinite(narrowestCircleUm) ? narrowestCircleUm : null,
		effects: ruleEffects(asMade(layer, madeWith(wall)), named, foilMm, wall, model),
		shortPads: expectedShortPads(named, foilMm, wall, model),
		alternatives: task.view === 'alternatives' ? foilAlternatives((on) => asMade(drawn, madeWith(on)), model) : [],
		critical:
			task.view === 'foil'
				? hardestOpenings(named, foilMm, wall, model, task.selected).map((i) => ({
						name: nameOf(i),
						delivered: deliveredByFoil(named[i]!, task.foilsMm, wall, model, task.measured)
					}))
				: []
	};
}
