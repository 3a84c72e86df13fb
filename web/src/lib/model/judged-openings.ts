import { combine, InputError, noData, type Verdict } from '@keen-relay/core/judgement';
import type { Box, Point, Ring } from '@keen-relay/core/numerics';
import {
	applyRules,
	checkStencil,
	chooseFoil,
	deliveredByFoil,
	expectedShortPads,
	foilAlternatives,
	judgeStepArea,
	judgeWebs,
	ruleEffects,
	stepArea,
	websOf,
	withNeeds,
	type CutOpening,
	type FoilAlternative,
	type LayerOpening,
	type RuleEffect,
	type ShapeFactor,
	type StencilRules,
	type TransferModel,
	type Wall
} from '@keen-relay/core/stencil';

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
	const { foilMm, wall, model } = task;
	const needOf = new Map(task.needs.map((n) => [n.refDes, n.neededMm3]));
	const factorOn = (on: Wall) => new Map((task.factors[on] ?? []).map((f) => [f.shape, f.factor]));
	const factors = factorOn(wall);
	const named = withNeeds(cut, (refDes) => needOf.get(refDes) ?? null).map((o) => ({
		...o,
		name: names[o.from] ?? '',
		lowPct: task.lowPct[o.padClass] ?? 60,
		transferFactor: factors.get(o.shape) ?? 1
	}));
	const nameOf = (i: number) => named[i]!.name;
	const web = judgeWebs(websOf(cut, 0.6), foilMm, nameOf);
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
		verdict: combine([choice.verdict, web.verdict, ...(area ? [judgeStepArea(area, nameOf)] : [])]),
		narrowestUm,
		narrowestCircleUm: Number.isFinite(narrowestCircleUm) ? narrowestCircleUm : null,
		effects: ruleEffects(layer, cut, foilMm, wall, model),
		shortPads: expectedShortPads(named, foilMm, wall, model),
		alternatives:
			task.view === 'alternatives'
				? foilAlternatives((on) => {
						const own = factorOn(on);
						return named.map((o) => ({ ...o, transferFactor: own.get(o.shape) ?? 1 }));
					}, model)
				: [],
		critical: task.view === 'foil' ? criticalOf(named, task) : []
	};
}

function criticalOf(named: readonly (CutOpening & { name: string; transferFactor: number })[], task: OpeningsTask) {
	const { ranking } = checkStencil(named, task.foilMm, task.wall, task.model);
	const sizes = new Map<string, number>();
	for (const i of [...(task.selected === null ? [] : [task.selected]), ...ranking]) {
		const o = named[i];
		if (!o) continue;
		const size = `${o.areaMm2.toFixed(4)} ${o.perimeterMm.toFixed(3)}`;
		if (!sizes.has(size)) sizes.set(size, i);
		if (sizes.size === 4) break;
	}
	return [...sizes.values()].map((i) => {
		const o = named[i]!;
		return { name: o.name, delivered: deliveredByFoil(o, task.foilsMm, task.wall, task.model, task.measured) };
	});
}
