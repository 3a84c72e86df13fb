import { InputError, requireRange, type Verdict } from '../judgement/index.ts';
import { centroid, perimeter, rotate, signedArea, type Point, type Ring } from '../geometry/index.ts';
import { governingWidth } from '../geometry/index.ts';
import type { PadClass } from '../parts/index.ts';
import { forecastOpening, type Opening, type Wall } from './ratios.ts';
import { homePlate } from './shapes.ts';
import type { TransferModel } from './transfer.ts';
import { paneForCoverage, paneWindows, windowPanes } from './windows.ts';
import { above, atLeast } from '../numerics/index.ts';

/** What a plant does to the openings of one class before it orders a stencil. */
export type OpeningRule =
	| { kind: 'asDrawn' }
	/** Narrower and shorter, %. */
	| { kind: 'reduce'; widthPct: number; lengthPct: number }
	/** Point towards the middle of the part, or a notch there; share of the length. */
	| { kind: 'homePlate' | 'invertedHomePlate'; pointShare: number }
	| { kind: 'roundedSquare'; radiusShare: number }
	/** Windows where the opening is longer than `overMm`. */
	| { kind: 'windows'; coverage: number; marginMm: number; overMm: number };

export type StencilRules = Record<PadClass, OpeningRule>;

/** Values to start from (common practice); a plant edits them. */
export const STENCIL_RULES: StencilRules = {
	fineBallGrid: { kind: 'roundedSquare', radiusShare: 0.2 },
	smallChip: { kind: 'asDrawn' },
	chip: { kind: 'reduce', widthPct: 5, lengthPct: 5 },
	fineLead: { kind: 'reduce', widthPct: 10, lengthPct: 0 },
	thermal: { kind: 'windows', coverage: 0.6, marginMm: 0.1, overMm: 3 },
	large: { kind: 'windows', coverage: 0.75, marginMm: 0.05, overMm: 3 }
};

/** Any single dimension above this scoops: windows (common practice), mm. */
const LONGEST_OPENING_MM = 3;

/** Openings that the blade scoops empty in their middle because they are too long in one direction; null where there is none. */
export function judgeLongOpenings(openings: readonly Pick<Opening, 'lengthMm'>[], nameOf: (opening: number) => string): Verdict | null {
	const long = openings.flatMap(({ lengthMm }, i) => (above(lengthMm, LONGEST_OPENING_MM) ? [i] : []));
	if (long.length === 0) return null;
	const worst = long.reduce((a, b) => (openings[b]!.lengthMm > openings[a]!.lengthMm ? b : a));
	return {
		level: 'watch',
		statement: `${long.length} ${long.length === 1 ? 'opening is' : 'openings are'} over ${LONGEST_OPENING_MM} mm and may be scooped: ${nameOf(worst)}, ${openings[worst]!.lengthMm.toFixed(2)} mm.`,
		because: [
			{
				quantity: `Length of ${nameOf(worst)}`,
				value: openings[worst]!.lengthMm,
				unit: 'mm',
				limit: `at most ${LONGEST_OPENING_MM} mm in one piece`,
				source: 'common practice'
			}
		],
		doNext: ['Divide them into windows']
	};
}

/** Refuses a rule that no stencil can follow.
 * @throws {InputError} naming the class and the field
 */
export function checkRule(padClass: string, rule: OpeningRule): void {
	const path = (field: string) => `${padClass}.${field}`;
	switch (rule.kind) {
		case 'asDrawn':
			return;
		case 'reduce':
			requireRange(path('widthPct'), rule.widthPct, -30, 50, '%');
			return requireRange(path('lengthPct'), rule.lengthPct, -30, 50, '%');
		case 'homePlate':
		case 'invertedHomePlate':
			return requireRange(path('pointShare'), rule.pointShare, 0.05, 0.6);
		case 'roundedSquare':
			return requireRange(path('radiusShare'), rule.radiusShare, 0, 0.5);
		case 'windows':
			requireRange(path('coverage'), rule.coverage, 0.3, 0.95);
			requireRange(path('marginMm'), rule.marginMm, 0, 1, 'mm');
			return requireRange(path('overMm'), rule.overMm, 0.5, 20, 'mm');
	}
}

/** An opening in its own frame: the smallest rectangle around it. */
export interface Frame {
	centre: Point;
	/** Direction of the longer side, degrees. */
	alongDeg: number;
	lengthMm: number;
	widthMm: number;
}

/** The smallest rectangle around a ring, over the directions of its edges. */
export function frameOf(outline: Ring): Frame {
	let best: Frame | null = null;
	const tried = new Set<number>();
	outline.forEach((a, i) => {
		const b = outline[(i + 1) % outline.length]!;
		const deg = Math.round((((Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI + 360) % 90) * 1e4) / 1e4;
		if (tried.has(deg) || tried.size > 60) return;
		tried.add(deg);
		const { x: cos, y: sin } = rotate({ x: 1, y: 0 }, deg);
		let [minX, maxX, minY, maxY] = [Infinity, -Infinity, Infinity, -Infinity];
		for (const p of outline) {
			const [x, y] = [p.x * cos + p.y * sin, p.y * cos - p.x * sin];
			if (x < minX) minX = x;
			if (x > maxX) maxX = x;
			if (y < minY) minY = y;
			if (y > maxY) maxY = y;
		}
		const [l, w] = [maxX - minX, maxY - minY];
		if (best && atLeast(l * w, best.lengthMm * best.widthMm)) return;
		const centre = rotate({ x: (minX + maxX) / 2, y: (minY + maxY) / 2 }, deg);
		best = l >= w ? { centre, alongDeg: deg, lengthMm: l, widthMm: w } : { centre, alongDeg: (deg + 90) % 180, lengthMm: w, widthMm: l };
	});
	if (!best) throw new InputError('empty', 'outline', 'at least one edge', outline.length);
	return best;
}

/** The rings that a rule makes of one opening.
 * @param towards middle of its part: where a home plate points; null leaves such an opening as drawn
 * @returns one ring, or the windows
 */
export function applyRule(outline: Ring, rule: OpeningRule, towards: Point | null): Ring[] {
	if (rule.kind === 'asDrawn') return [outline];
	const f = frameOf(outline);
	const place = (ring: Ring, deg = f.alongDeg): Ring => {
		const { x: cos, y: sin } = rotate({ x: 1, y: 0 }, deg);
		return ring.map((p) => ({ x: f.centre.x + p.x * cos - p.y * sin, y: f.centre.y + p.x * sin + p.y * cos }));
	};
	switch (rule.kind) {
		case 'reduce': {
			const [sl, sw] = [1 - rule.lengthPct / 100, 1 - rule.widthPct / 100];
			const { x: cos, y: sin } = rotate({ x: 1, y: 0 }, f.alongDeg);
			return [
				place(
					outline.map((p) => {
						const [x, y] = [p.x - f.centre.x, p.y - f.centre.y];
						return { x: (x * cos + y * sin) * sl, y: (y * cos - x * sin) * sw };
					})
				)
			];
		}
		case 'roundedSquare': {
			// A circle becomes the square of its own area's width, rounded: more paste for the same release.
			const side = Math.sqrt(f.lengthMm * f.widthMm);
			// A circle has no direction of its own: its square stands upright, as its neighbours on the grid do.
			const round = Math.abs(Math.abs(signedArea(outline)) / (f.lengthMm * f.widthMm) - Math.PI / 4) < 0.03;
			return [place(roundedRing(side, side, rule.radiusShare * side), round ? 0 : f.alongDeg)];
		}
		case 'homePlate':
		case 'invertedHomePlate': {
			if (!towards) return [outline];
			const toward = (Math.atan2(towards.y - f.centre.y, towards.x - f.centre.x) * 180) / Math.PI;
			// The axis of the opening that looks most towards the part.
			const turn = Math.round((toward - f.alongDeg) / 90) * 90;
			const across = Math.abs(turn % 180) === 90;
			const [l, w] = across ? [f.widthMm, f.lengthMm] : [f.lengthMm, f.widthMm];
			const p = rule.pointShare * l;
			const ring = rule.kind === 'homePlate' ? homePlate(l, w, p) : invertedHomePlate(l, w, p);
			return [
				place(
					ring.map((q) => ({ x: q.x - l / 2, y: q.y - w / 2 })),
					f.alongDeg + turn
				)
			];
		}
		case 'windows': {
			if (f.lengthMm <= rule.overMm) return [outline];
			const pane =
				windowPanes(f.lengthMm, f.widthMm, rule.marginMm, rule.coverage)[0] ??
				paneForCoverage(
					f.lengthMm,
					f.widthMm,
					rule.marginMm,
					Math.ceil(f.lengthMm / 2),
					Math.max(1, Math.ceil(f.widthMm / 2)),
					rule.coverage
				);
			if (!pane) return [outline];
			return paneWindows(pane, rule.marginMm).map(({ x, y, widthMm, heightMm }) => {
				const [x0, y0] = [x - f.lengthMm / 2, y - f.widthMm / 2];
				return place([
					{ x: x0, y: y0 },
					{ x: x0 + widthMm, y: y0 },
					{ x: x0 + widthMm, y: y0 + heightMm },
					{ x: x0, y: y0 + heightMm }
				]);
			});
		}
	}
}

function invertedHomePlate(l: number, w: number, p: number): Ring {
	return [
		{ x: 0, y: 0 },
		{ x: l, y: 0 },
		{ x: l - p, y: w / 2 },
		{ x: l, y: w },
		{ x: 0, y: w }
	];
}

function roundedRing(l: number, w: number, r: number): Ring {
	if (r <= 0)
		return [
			{ x: -l / 2, y: -w / 2 },
			{ x: l / 2, y: -w / 2 },
			{ x: l / 2, y: w / 2 },
			{ x: -l / 2, y: w / 2 }
		];
	const steps = Math.max(3, Math.ceil(Math.PI / 2 / (2 * Math.acos(Math.max(0, 1 - 0.001 / r)))));
	const corner = (cx: number, cy: number, from: number): Point[] =>
		Array.from({ length: steps + 1 }, (_, i) => {
			const a = ((from + (90 * i) / steps) * Math.PI) / 180;
			return { x: cx + r * Math.cos(a), y: cy + r * Math.sin(a) };
		});
	const [x, y] = [l / 2 - r, w / 2 - r];
	return [...corner(x, -y, -90), ...corner(x, y, 0), ...corner(-x, y, 90), ...corner(-x, -y, 180)];
}

/** An opening of the layer, with its part and class. */
export interface LayerOpening extends Opening {
	outline: Ring;
	centre: Point;
	shape: string;
	refDes: string | null;
	pin: string | null;
	padClass: PadClass;
	/** Pins whose pads it joins, where there is more than one. */
	joins?: readonly string[];
}

export interface CutOpening extends LayerOpening {
	/** Which opening of the layer it came from. */
	from: number;
}

/** The whole layer under the plant's rules: what the stencil maker gets.
 * @param openings of one side, with part and class; ones that no rule changes keep their exact measures
 * @param before what the same layer was cut to under other rules: classes whose rule is the same are taken over
 */
export function applyRules(
	openings: readonly LayerOpening[],
	rules: StencilRules,
	before?: { rules: StencilRules; cut: readonly CutOpening[] }
): CutOpening[] {
	for (const [padClass, rule] of Object.entries(rules)) checkRule(padClass, rule);
	const kept = new Set(
		(Object.keys(rules) as PadClass[]).filter((c) => before && JSON.stringify(before.rules[c]) === JSON.stringify(rules[c]))
	);
	let next = 0;
	const middles = new Map<string, { x: number; y: number; n: number }>();
	for (const { refDes, centre } of openings) {
		if (!refDes) continue;
		const m = middles.get(refDes) ?? { x: 0, y: 0, n: 0 };
		middles.set(refDes, { x: m.x + centre.x, y: m.y + centre.y, n: m.n + 1 });
	}
	const widths = new Map<string, number>();
	return openings.flatMap((o, from): CutOpening[] => {
		const first = next;
		while (before?.cut[next]?.from === from) next++;
		if (before && kept.has(o.padClass)) return before.cut.slice(first, next);
		const m = o.refDes ? middles.get(o.refDes) : undefined;
		const rings = applyRule(o.outline, rules[o.padClass], m && m.n > 1 ? { x: m.x / m.n, y: m.y / m.n } : null);
		if (rings.length === 1 && rings[0] === o.outline) return [{ ...o, from }];
		return rings.map((outline) => {
			const frame = frameOf(outline);
			const areaMm2 = Math.abs(signedArea(outline));
			const upright = Math.abs(frame.lengthMm * frame.widthMm - areaMm2) < 1e-7;
			return {
				outline,
				centre: centroid(outline),
				shape: upright ? 'rectangle' : 'polygon',
				areaMm2,
				perimeterMm: perimeter(outline),
				widthMm: upright ? frame.widthMm : widthOf(outline, widths),
				lengthMm: frame.lengthMm,
				refDes: o.refDes,
				pin: o.pin,
				from,
				padClass: o.padClass
			};
		});
	});
}

/** Equal rings are insetted once. */
function widthOf(outline: Ring, known: Map<string, number>): number {
	const o = outline[0]!;
	const key = outline.map((p) => `${Math.round((p.x - o.x) * 1e4)},${Math.round((p.y - o.y) * 1e4)}`).join(' ');
	let width = known.get(key);
	if (width === undefined) {
		width = governingWidth({ outline, holes: [] });
		known.set(key, width);
	}
	return width;
}

/** What a rule makes of the opening of a class that is hardest to release. */
export interface RuleEffect {
	padClass: PadClass;
	/** Which opening of the layer. */
	opening: number;
	/** Paste delivered as it was drawn, and as it is cut with all its windows, nL; their spread, %. */
	drawnNl: number;
	drawnCvPct: number;
	cutNl: number;
	cutCvPct: number;
}

/** What the rules do to each class, by its opening with the least area ratio: less paste, or paste that comes more evenly.
 * @param cut of `applyRules` on the same layer
 */
export function ruleEffects(
	layer: readonly LayerOpening[],
	cut: readonly CutOpening[],
	foilMm: number,
	wall: Wall,
	model: TransferModel
): RuleEffect[] {
	const least = new Map<PadClass, number>();
	const ratio = (o: LayerOpening) => o.areaMm2 / o.perimeterMm;
	layer.forEach((o, i) => {
		const known = least.get(o.padClass);
		if (known === undefined || ratio(o) < ratio(layer[known]!)) least.set(o.padClass, i);
	});
	return [...least].map(([padClass, opening]) => {
		const drawn = forecastOpening(layer[opening]!, foilMm, wall, model);
		const now = cut.filter((c) => c.from === opening).map((c) => forecastOpening(c, foilMm, wall, model));
		return {
			padClass,
			opening,
			drawnNl: drawn.deliveredNl,
			drawnCvPct: drawn.cvPct,
			cutNl: now.reduce((sum, f) => sum + f.deliveredNl, 0),
			cutCvPct: Math.max(...now.map((f) => f.cvPct))
		};
	});
}
