import type { MacroBlock } from '@tracespace/parser';
import type { MacroValue } from './macro-syntax.ts';
import { isSimple, type Point, type Ring, rotate } from '../geometry/index.ts';
import { type Area, subtract, unite } from '../geometry/index.ts';
import { arcPoints, circleRing, type Outline, rectangleRing, regularPolygonRing } from './standard-shapes.ts';

export interface MacroImage {
	areas: Area[];
	/** Where the macro is one plain centred shape, its formula. */
	exact: Outline | null;
	/** Primitives that we do not draw: the caller reports them. */
	unsupported: string[];
}

/** Draws an aperture macro about the origin: exposure, rotation and arithmetic included.
 * @param blocks the macro's body as parsed
 * @param values $1, $2 ... in order
 * @param mm size of the file's unit in mm; applies to lengths, not to angles and counts
 * @see the Gerber layer format specification, aperture macros (value from memory)
 */
export function drawMacro(blocks: readonly MacroBlock[], values: readonly number[], mm: number): MacroImage {
	const variables = new Map(values.map((v, i) => [`$${i + 1}`, v]));
	let areas: Area[] = [];
	const unsupported: string[] = [];
	let dark = 0;
	let exposedBefore = true;
	let exact: Outline | null = null;
	for (const block of blocks) {
		if (block.type === 'macroComment') continue;
		if (block.type === 'macroVariable') {
			variables.set(block.name, evaluate(block.value as MacroValue, variables));
			continue;
		}
		const p = block.parameters.map((value) => evaluate(value as MacroValue, variables));
		// Older files turn the exposure of the primitive before round.
		if (p[0] === TOGGLE && String(block.code) !== '7') p[0] = exposedBefore ? 0 : 1;
		// "0..2", a division by zero, or a figure larger than any board: nothing that can be drawn.
		if (!p.every((value) => Math.abs(value) <= MOST_VALUE)) {
			unsupported.push(`${block.code} with the value ${p.find((value) => !(Math.abs(value) <= MOST_VALUE))}`);
			continue;
		}
		const image = primitive(String(block.code), p, mm);
		if (!image) {
			unsupported.push(String(block.code));
			continue;
		}
		exposedBefore = image.exposed;
		if (image.exposed) {
			areas = areas.length ? unite([...areas, ...image.areas]) : image.areas;
			exact = ++dark === 1 ? image.exact : null;
		} else {
			areas = subtract(areas, image.areas);
			exact = null;
		}
	}
	return { areas, exact, unsupported };
}

/** Of a primitive's size, place or angle. */
const MOST_VALUE = 1e5;

/** Exposure of a primitive: 0 clears, 1 draws, 2 is the other than before. */
const TOGGLE = 2;

function evaluate(value: MacroValue, variables: ReadonlyMap<string, number>): number {
	if (typeof value === 'number') return value;
	if (typeof value === 'string') return variables.get(value) ?? 0;
	const left = evaluate(value.left, variables);
	const right = evaluate(value.right, variables);
	switch (value.operator) {
		case '+':
			return left + right;
		case '-':
			return left - right;
		case '/':
			return left / right;
		default:
			return left * right;
	}
}

/** Corners of an outline primitive (value from memory: the specification's own limit). */
const MOST_CORNERS = 5000;

interface PrimitiveImage {
	exposed: boolean;
	areas: Area[];
	exact: Outline | null;
}

function primitive(code: string, p: readonly number[], mm: number): PrimitiveImage | null {
	const at = (i: number) => p[i] ?? 0;
	const len = (i: number) => at(i) * mm;
	const turned = (ring: Ring, degrees: number): Area[] => [{ outline: ring.map((q) => rotate(q, degrees)), holes: [] }];
	const exposed = at(0) === 1;
	const centred = (x: number, y: number, angle: number) => x === 0 && y === 0 && angle % 90 === 0;
	switch (code) {
		case '1': {
			const ring = circleRing({ x: len(2), y: len(3) }, len(1));
			const exact = centred(at(2), at(3), 0) ? ({ shape: 'circle', diameterMm: len(1) } as const) : null;
			return { exposed, areas: turned(ring, at(4)), exact };
		}
		case '2':
		case '20': {
			const ring = lineRing({ x: len(2), y: len(3) }, { x: len(4), y: len(5) }, len(1));
			return { exposed, areas: turned(ring, at(6)), exact: null };
		}
		case '21': {
			const ring = rectangleRing({ x: len(3), y: len(4) }, len(1), len(2));
			const exact = centred(at(3), at(4), at(5)) ? ({ shape: 'rectangle', xSizeMm: len(1), ySizeMm: len(2) } as const) : null;
			return { exposed, areas: turned(ring, at(5)), exact };
		}
		case '22': {
			const ring = rectangleRing({ x: len(3) + len(1) / 2, y: len(4) + len(2) / 2 }, len(1), len(2));
			return { exposed, areas: turned(ring, at(5)), exact: null };
		}
		case '4': {
			const n = Math.min(Math.max(0, Math.trunc(at(1))), MOST_CORNERS);
			const ring = Array.from({ length: n }, (_, i) => ({ x: len(2 + 2 * i), y: len(3 + 2 * i) }));
			const areas = turned(ring, at(4 + 2 * n));
			return { exposed, areas: isSimple(ring) ? areas : unite(areas), exact: null };
		}
		case '5': {
			if (!(at(1) >= 3 && at(1) <= 12)) return null;
			const ring = regularPolygonRing({ x: len(2), y: len(3) }, len(4), at(1), 0);
			return { exposed, areas: turned(ring, at(5)), exact: null };
		}
		case '7':
			return { exposed: true, areas: thermal(len(0), len(1), len(2), len(3), len(4), at(5)), exact: null };
		default:
			return null;
	}
}

function lineRing(from: Point, to: Point, widthMm: number): Ring {
	const length = Math.hypot(to.x - from.x, to.y - from.y) || 1;
	const nx = (-(to.y - from.y) / length) * (widthMm / 2);
	const ny = ((to.x - from.x) / length) * (widthMm / 2);
	return [
		{ x: from.x - nx, y: from.y - ny },
		{ x: to.x - nx, y: to.y - ny },
		{ x: to.x + nx, y: to.y + ny },
		{ x: from.x + nx, y: from.y + ny }
	];
}

function thermal(x: number, y: number, outer: number, inner: number, gap: number, degrees: number): Area[] {
	const ring: Area = {
		outline: circleRing({ x, y }, outer),
		holes: [arcPoints({ x, y }, inner / 2, 0, 360).slice(0, -1)]
	};
	const bars = [rectangleRing({ x, y }, outer * 1.1, gap), rectangleRing({ x, y }, gap, outer * 1.1)];
	return subtract(
		[ring],
		bars.map((outline) => ({ outline, holes: [] }))
	).map((area) => ({
		outline: area.outline.map((q) => rotate(q, degrees)),
		holes: area.holes.map((hole) => hole.map((q) => rotate(q, degrees)))
	}));
}
