import { InputError, requireRange } from '../judgement/index.ts';

/** A convection oven: lengths m, temperatures °C. x = 0 at the entrance of zone 1. */
export interface Oven {
	zoneM: readonly number[];
	/** Entry tunnel before zone 1 and how far its air is drawn up to zone 1, 0 to 0.3. */
	entryM: number;
	entryShare: number;
	cooling: readonly { lengthM: number; airC: number }[];
	ambientC: number;
	/** Length over which the air changes at a border, shorter than every zone. */
	borderM: number;
	/** Set-points the machine allows. */
	setMinC: number;
	setMaxC: number;
	/** Largest step between neighbours. */
	stepMaxC: number;
	beltMinCmPerMin: number;
	beltMaxCmPerMin: number;
}

export interface OvenRecipe {
	/** Air set-point of each zone, °C; top and bottom alike here. */
	setC: readonly number[];
	beltCmPerMin: number;
}

/** Time constants along the oven: `tauS` holds up to `untilM`, the last without end. */
export type TimeConstants = readonly { untilM: number; tauS: number }[];

/** Air against place: straight lines between nodes, flat before the first and after the last. */
export interface AirNode {
	xM: number;
	airC: number;
}

/** Checks that a recipe fits an oven.
 * @throws {InputError} `mismatch` for the zone count, `out-of-range` for a set-point or the belt
 */
export function checkRecipe(oven: Oven, recipe: OvenRecipe): void {
	if (recipe.setC.length !== oven.zoneM.length)
		throw new InputError('mismatch', 'recipe.setC', `${oven.zoneM.length} zones, as the oven has`, recipe.setC.length);
	recipe.setC.forEach((c, i) => requireRange(`zone ${i + 1}`, c, oven.setMinC, oven.setMaxC, '°C'));
	requireRange('belt', recipe.beltCmPerMin, oven.beltMinCmPerMin, oven.beltMaxCmPerMin, 'cm/min');
	for (let i = 1; i < recipe.setC.length; i++) {
		const step = recipe.setC[i]! - recipe.setC[i - 1]!;
		if (Math.abs(step) > oven.stepMaxC)
			throw new InputError('out-of-range', `step from zone ${i} to ${i + 1}`, `at most ${oven.stepMaxC} K`, step);
	}
}

/** Why an oven cannot run a recipe, in words; null where it can. An oven's zones are corrected after its recipes were released. */
export function whyNotIn(oven: Oven, recipe: OvenRecipe): string | null {
	if (recipe.setC.length !== oven.zoneM.length)
		return `it is for an oven of ${recipe.setC.length} zones, this one has ${oven.zoneM.length}`;
	try {
		checkRecipe(oven, recipe);
		return null;
	} catch (error) {
		if (error instanceof InputError) return error.message;
		throw error;
	}
}

/** What is to be said of a released recipe in its oven as it is now; null where it is of it.
 * @param corrected whether the oven's data were corrected after the release
 */
export function recipeAge(
	oven: Oven,
	{ revision, recipe }: { revision: number; recipe: OvenRecipe },
	corrected: boolean
): { misfit: boolean; words: string } | null {
	const why = whyNotIn(oven, recipe);
	if (why) return { misfit: true, words: `Recipe ${revision} cannot be run in this oven any more: ${why}. This is a start for it.` };
	if (!corrected) return null;
	return {
		misfit: false,
		words: `The oven’s data were corrected after recipe ${revision} was judged: it is judged here by them. Release it anew.`
	};
}

/** The air that a board meets: the value of the left side half a border before each change, of the right side half a border after it. */
export function airNodes(oven: Oven, recipe: OvenRecipe): AirNode[] {
	const first = recipe.setC[0] ?? oven.ambientC;
	const segments = [
		{ lengthM: oven.entryM, airC: oven.ambientC + oven.entryShare * (first - oven.ambientC) },
		...oven.zoneM.map((lengthM, i) => ({ lengthM, airC: recipe.setC[i]! })),
		...oven.cooling,
		{ lengthM: 0, airC: oven.ambientC }
	];
	const nodes: AirNode[] = [];
	let x = -oven.entryM;
	let before = oven.ambientC;
	for (const [i, segment] of segments.entries()) {
		if (segment.lengthM === 0 && i < segments.length - 1) continue;
		nodes.push({ xM: x - oven.borderM / 2, airC: before }, { xM: x + oven.borderM / 2, airC: segment.airC });
		x += segment.lengthM;
		before = segment.airC;
	}
	return nodes;
}

/** Air at a place, °C. */
export function airAt(nodes: readonly AirNode[], xM: number): number {
	const after = nodes.findIndex((node) => node.xM >= xM);
	if (after < 0) return nodes.at(-1)!.airC;
	if (after === 0) return nodes[0]!.airC;
	const [a, b] = [nodes[after - 1]!, nodes[after]!];
	return b.xM === a.xM ? b.airC : a.airC + ((b.airC - a.airC) * (xM - a.xM)) / (b.xM - a.xM);
}

/** Length of heated tunnel, m. */
export function heatedM(oven: Oven): number {
	return oven.zoneM.reduce((sum, m) => sum + m, 0);
}

/** Where the groups of time constants end: preheat is the entry and the first third of the zones, reflow the last third, soak between them. */
export function groupBorders(oven: Oven): { preheatM: number; soakM: number; reflowM: number } {
	const edges = oven.zoneM.reduce<number[]>((list, m) => [...list, (list.at(-1) ?? 0) + m], []);
	const n = edges.length;
	const third = Math.max(1, Math.round(n / 3));
	return { preheatM: edges[third - 1]!, soakM: edges[Math.max(third, n - third) - 1]!, reflowM: edges[n - 1]! };
}
