import {
	type Area,
	type Box,
	boxOf,
	centroid,
	type Point,
	type Ring,
	boxIndex,
	pointInRing,
	subtract,
	unite,
	governingWidth
} from '../geometry/index.ts';
import { type Issue } from '../judgement/index.ts';
import { type LayerUnit, plotGerber, type PlottedShape } from './gerber-plot.ts';
import { measureRing, type Measures } from './standard-shapes.ts';

/** One opening of a stencil, or one paste deposit, mm. */
export interface Aperture {
	/** Position in the stable order: the order of the file. */
	index: number;
	shape: PlottedShape['shape'];
	outline: Ring;
	centre: Point;
	areaMm2: number;
	perimeterMm: number;
	/** Twice the smallest inset at which the shape splits or vanishes. */
	widthMm: number;
	lengthMm: number;
	/** From X2 attributes; reconciling adds the part that the opening lies under. */
	refDes: string | null;
	pin: string | null;
	/** From X2 attributes or a netlist. */
	net?: string | null;
	/** Line of the file that drew it. */
	line: number;
	/** Pins whose pads it joins, as "U1.3", where there is more than one: no foil is left between them. */
	joins?: string[];
}

export interface PasteLayer {
	apertures: Aperture[];
	unit: LayerUnit;
	issues: Issue[];
}

/** Reads a paste layer into openings: shapes that overlap or touch are united, cleared parts are cut out.
 * An opening with an island in it cannot be cut (the island falls out) and is reported; so is one that joins the pads of several pins.
 * @param asked the unit as a person said it, where the file does not
 */
export function readPasteLayer(text: string, asked: LayerUnit | null = null): PasteLayer {
	const plot = plotGerber(text, asked);
	const issues = [...plot.issues];
	const widths: Widths = { byForm: new Map(), byRing: new Map() };
	const apertures: Aperture[] = [];
	for (const piece of separate(plot.shapes, issues)) {
		const m = piece.measures;
		if (piece.holes.length > 0)
			issues.push({
				severity: 'warning',
				code: 'island_in_opening',
				line: piece.line,
				field: 'aperture',
				value: `${m.lengthMm.toFixed(2)} mm`,
				message: `Line ${piece.line}: this opening has an island in it that would fall out of the foil. Divide it into windows.`
			});
		if (!(m.areaMm2 > 1e-6)) {
			issues.push({
				severity: 'error',
				code: 'zero_area',
				line: piece.line,
				field: 'aperture',
				value: `${m.areaMm2} mm²`,
				message: `Line ${piece.line}: an opening without area. Correct its size.`
			});
			continue;
		}
		apertures.push({
			index: apertures.length,
			shape: piece.shape,
			outline: piece.outline,
			centre: centroid(piece.outline),
			areaMm2: m.areaMm2,
			perimeterMm: m.perimeterMm,
			widthMm: m.widthMm ?? cachedWidth(piece, widths),
			lengthMm: m.lengthMm,
			refDes: piece.pin?.refDes ?? null,
			pin: piece.pin?.pin ?? null,
			net: piece.net ?? null,
			line: piece.line,
			...(piece.joins ? { joins: piece.joins } : {})
		});
		if (piece.joins) issues.push(joinsPins(piece.joins, piece.line));
	}
	if (apertures.length === 0 && !issues.some((issue) => issue.severity === 'error'))
		issues.push({
			severity: 'error',
			code: 'no_openings',
			line: 1,
			field: 'file',
			value: '',
			message: 'The layer is readable but has no opening in it. Is it the paste layer of this side?'
		});
	return { apertures, unit: plot.unit, issues };
}

/** What is to be said of an opening that joins the pads of several pins. */
export function joinsPins(pins: readonly string[], line: number): Issue {
	const named =
		pins.length > 4 ? `${pins.slice(0, 3).join(', ')} and ${pins.length - 3} more` : `${pins.slice(0, -1).join(', ')} and ${pins.at(-1)}`;
	return {
		severity: 'warning',
		code: 'openings_overlap',
		line,
		field: 'aperture',
		value: named,
		message: `Line ${line}: the openings of ${named} overlap. No foil is left between them, and the paste bridges. Reduce them, or leave it if one joint is meant.`
	};
}

/** A piece of foil that is open. */
interface Piece extends PlottedShape {
	joins?: string[];
}

/** Widths that are known: flashes of one tool share their measures; what is drawn anew each time is known by its figures. */
interface Widths {
	byForm: Map<Measures, number>;
	byRing: Map<string, number>;
}

function cachedWidth(piece: PlottedShape, { byForm, byRing }: Widths): number {
	const form = byForm.get(piece.measures);
	if (form !== undefined) return form;
	// What is cut out of a grid of copies begins at another corner each time, and is rounded anew: by its figures it is known again.
	const { minX, minY, maxX, maxY } = boxOf(piece.outline);
	const { areaMm2, perimeterMm } = piece.measures;
	const figures = [areaMm2.toPrecision(5), perimeterMm.toPrecision(5), (maxX - minX).toFixed(3), (maxY - minY).toFixed(3)];
	const key = [...figures, piece.outline.length, piece.holes.length].join(' ');
	const width = byRing.get(key) ?? governingWidth(piece);
	byForm.set(piece.measures, width);
	byRing.set(key, width);
	return width;
}

/** Objects that may touch one another: a pad filled with strokes has hundreds. */
const MOST_JOINED = 5000;
const MOST_CORNERS = 100_000;

/** Paints the objects in file order and returns what is left open, each connected piece once. */
function separate(shapes: readonly PlottedShape[], issues: Issue[]): Piece[] {
	const boxes = shapes.map((shape) => boxOf(shape.outline));
	const group = touchingGroups(boxes);
	const members = new Map<number, number[]>();
	group.forEach((root, i) => {
		const list = members.get(root);
		if (list) list.push(i);
		else members.set(root, [i]);
	});
	const pieces: Piece[] = [];
	const copies = new Copies();
	for (const indices of members.values()) {
		const first = shapes[indices[0]!]!;
		if (indices.length === 1) {
			if (first.polarity === 'dark') pieces.push(first);
			continue;
		}
		if (indices.length > MOST_JOINED || indices.reduce((sum, i) => sum + shapes[i]!.outline.length, 0) > MOST_CORNERS) {
			const message = `Line ${first.line}: ${indices.length} objects touch one another. No opening is drawn of so many; is this a copper layer, or is it damaged?`;
			issues.push({ severity: 'error', code: 'too_many_objects', line: first.line, field: 'file', value: String(indices.length), message });
			continue;
		}
		const painted = copies.paint(indices.map((i) => shapes[i]!));
		const dark = indices.map((i) => shapes[i]!).filter((shape) => shape.polarity === 'dark');
		for (const area of painted) {
			const measures = measureRing(area.outline, area.holes);
			// A shape whose box touched another's, yet came out as it was drawn, keeps its exact formula.
			const same = dark.find((shape) => isSame(shape, area, measures));
			pieces.push(
				same ?? {
					...joined(painted.length === 1 ? dark : dark.filter((d) => reaches(d, area)), first),
					...area,
					shape: 'polygon',
					measures
				}
			);
		}
	}
	// Groups come in the order of their first shape, so the openings keep the order of the file.
	return pieces;
}

/** What shapes leave open that are painted over one another in their order. */
function paint(shapes: readonly PlottedShape[]): Area[] {
	let painted: Area[] = [];
	let pending: PlottedShape[] = [];
	const flush = () => {
		if (pending.length === 0) return;
		painted = pending[0]!.polarity === 'dark' ? unite([...painted, ...pending]) : subtract(painted, pending);
		pending = [];
	};
	for (const shape of shapes) {
		if (pending.length && pending[0]!.polarity !== shape.polarity) flush();
		pending.push(shape);
	}
	flush();
	return painted;
}

/** Groups that begin alike and are not: no more of them are compared. */
const MOST_ALIKE = 4;
/** What a step of a repeat is rounded by, mm. */
const ROUNDED_MM = 1e-9;

/** A layer repeats its groups, by step and repeat or as blocks: a copy, corner by corner, is painted once and moved. */
class Copies {
	readonly #painted = new Map<string, { shapes: readonly PlottedShape[]; areas: Area[] }[]>();

	paint(shapes: readonly PlottedShape[]): Area[] {
		const key = shapes.map(({ outline, polarity, measures }) => `${polarity} ${outline.length} ${measures.areaMm2}`).join(' ');
		const alike = this.#painted.get(key) ?? [];
		for (const { shapes: before, areas } of alike) {
			const by = stepBetween(before, shapes);
			if (by) return areas.map(({ outline, holes }) => ({ outline: moved(outline, by), holes: holes.map((hole) => moved(hole, by)) }));
		}
		const areas = paint(shapes);
		if (alike.length < MOST_ALIKE) this.#painted.set(key, [...alike, { shapes, areas }]);
		return areas;
	}
}

const moved = (ring: Ring, by: Point): Ring => ring.map((p) => ({ x: p.x + by.x, y: p.y + by.y }));

/** By how much shapes lie beside others that they are copies of; null where they are none. */
function stepBetween(from: readonly PlottedShape[], to: readonly PlottedShape[]): Point | null {
	const [a, b] = [from[0]!.outline[0]!, to[0]!.outline[0]!];
	const by = { x: b.x - a.x, y: b.y - a.y };
	const copies = (one: Ring, other: Ring) =>
		one.length === other.length &&
		one.every((p, i) => Math.abs(p.x + by.x - other[i]!.x) < ROUNDED_MM && Math.abs(p.y + by.y - other[i]!.y) < ROUNDED_MM);
	const same = from.every((shape, i) => {
		const other = to[i]!;
		return (
			shape.holes.length === other.holes.length &&
			copies(shape.outline, other.outline) &&
			shape.holes.every((hole, k) => copies(hole, other.holes[k]!))
		);
	});
	return same ? by : null;
}

/** What is known of a piece from the shapes that it was painted of. */
function joined(dark: readonly PlottedShape[], first: PlottedShape): Piece {
	const pins = [...new Set(dark.flatMap(({ pin }) => (pin?.pin ? [`${pin.refDes}.${pin.pin}`] : [])))];
	const named = dark.find(({ pin }) => pin?.pin) ?? dark[0] ?? first;
	return pins.length > 1 ? { ...named, joins: pins } : named;
}

/** Whether a shape took part in a piece: it lies in it, or the piece in it. */
const reaches = (shape: PlottedShape, piece: { outline: Ring }): boolean =>
	shape.outline.some((p) => pointInRing(p, piece.outline)) || piece.outline.some((p) => pointInRing(p, shape.outline));

/** Steps of the polygon library, with room for a few of them along the wall, mm. */
const GRID_MM = 2e-5;

/** Whether a painted piece is one drawn shape unchanged: the same box, and the same area but for the grid that pieces are rounded to. */
function isSame(shape: PlottedShape, piece: { outline: Ring }, measures: { areaMm2: number; perimeterMm: number }): boolean {
	const [a, b] = [boxOf(shape.outline), boxOf(piece.outline)];
	const apart = Math.max(Math.abs(a.minX - b.minX), Math.abs(a.minY - b.minY), Math.abs(a.maxX - b.maxX), Math.abs(a.maxY - b.maxY));
	if (apart > GRID_MM) return false;
	return Math.abs(measureRing(shape.outline, shape.holes).areaMm2 - measures.areaMm2) < GRID_MM * measures.perimeterMm;
}

/** Union-find over boxes that touch. */
function touchingGroups(boxes: readonly Box[]): number[] {
	const parent = boxes.map((_, i) => i);
	const find = (i: number): number => {
		while (parent[i] !== i) {
			parent[i] = parent[parent[i]!]!;
			i = parent[i]!;
		}
		return i;
	};
	const touching = boxIndex(boxes);
	boxes.forEach((box, i) => {
		for (const j of touching(box)) {
			const [a, b] = [find(i), find(j)];
			parent[Math.max(a, b)] = Math.min(a, b);
		}
	});
	return parent.map((_, i) => find(i));
}

/** Width and height of a board from its outline layer: the box of the centre lines, mm. */
export function readOutlineLayer(text: string, asked: LayerUnit | null = null): { box: Box | null; issues: Issue[] } {
	const plot = plotGerber(text, asked);
	const box = boxOf(plot.paths.flat());
	if (Number.isFinite(box.minX) && box.maxX > box.minX && box.maxY > box.minY) return { box, issues: plot.issues };
	return {
		box: null,
		issues: [
			...plot.issues,
			{
				severity: 'error',
				code: 'no_outline',
				line: 1,
				field: 'outline',
				value: '',
				message: 'The layer draws no line around a board. Choose the outline layer, or type width and height.'
			}
		]
	};
}
