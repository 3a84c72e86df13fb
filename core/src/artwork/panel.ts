import { InputError, requireRange } from '../judgement/index.ts';
import { type Point, rotate } from '../geometry/index.ts';
import type { CircuitPlace } from './circuits.ts';
import type { Side } from './positions.ts';

/** How circuits repeat on a panel, as designed and seen from the top. The panel's origin is its lower left corner, rails included. */
export interface PanelLayout {
	rows: number;
	columns: number;
	pitchXMm: number;
	pitchYMm: number;
	/** Width of the rail around the outer circuits, mm. */
	railMm: number;
	fiducials: Point[];
	/** Marks of each circuit, in its own frame: every circuit is measured by them. */
	circuitFiducials?: Point[];
	/** Marks beside single parts, in the circuit's frame: one moves the part, two turn it as well. */
	localFiducials?: { refDes: string; marks: Point[] }[];
	/** Where a circuit is marked that is to be left out, in its own frame; and the panel's one mark that says whether any is. */
	skip?: { circuit: Point | null; master: Point | null };
	/** Where circuits do not repeat in rows and columns, or are turned: each one's place, and the size of the panel. Rows, columns and pitch
	 * then say nothing.
	 */
	free?: { widthMm: number; heightMm: number; circuits: CircuitPlace[] };
}

export interface PanelGeometry {
	widthMm: number;
	heightMm: number;
	/** Place of each circuit's own lower left corner and its angle, mm; circuit numbers travel with the circuit through the flip. */
	origins: CircuitPlace[];
	/** Of the whole panel. */
	fiducials: Point[];
	/** Of each circuit, as the machine sees the side, in the circuit's frame. */
	circuitFiducials: Point[];
	localFiducials: { refDes: string; marks: Point[] }[];
	skip: { circuit: Point | null; master: Point | null };
}

/** Places the circuits as the machine sees the side: the bottom is the same panel turned left to right.
 * @param board size of one circuit, mm
 * @throws {InputError} `out-of-range` where a count or length is impossible, `mismatch` where circuits would overlap or a fiducial lies off the panel
 */
export function panelGeometry(board: { widthMm: number; heightMm: number }, layout: PanelLayout, side: Side = 'top'): PanelGeometry {
	const top = layout.free ? freeGeometry(board, layout.free) : gridGeometry(board, layout);
	const { circuitFiducials = [], localFiducials = [], skip = { circuit: null, master: null } } = layout;
	const inside = (p: Point, area: { widthMm: number; heightMm: number }, field: string, what: string) => {
		if (!(p.x >= 0 && p.y >= 0 && p.x <= area.widthMm && p.y <= area.heightMm))
			throw new InputError('mismatch', field, `a place on the ${what}, ${area.widthMm} x ${area.heightMm} mm`, p);
	};
	layout.fiducials.forEach((f, i) => inside(f, top, `panel.fiducials[${i}]`, 'panel'));
	circuitFiducials.forEach((f, i) => inside(f, board, `panel.circuitFiducials[${i}]`, 'circuit'));
	localFiducials.forEach(({ refDes, marks }) => marks.forEach((f) => inside(f, board, `panel.localFiducials.${refDes}`, 'circuit')));
	if (skip.circuit) inside(skip.circuit, board, 'panel.skip.circuit', 'circuit');
	if (skip.master) inside(skip.master, top, 'panel.skip.master', 'panel');
	if (side === 'top') return { ...top, fiducials: layout.fiducials, circuitFiducials, localFiducials, skip };
	const flipped = (widthMm: number) => (p: Point) => ({ x: widthMm - p.x, y: p.y });
	const [onCircuit, onWhole] = [flipped(board.widthMm), flipped(top.widthMm)];
	return {
		...top,
		origins: top.origins.map((o) => {
			const corner = rotate({ x: board.widthMm, y: 0 }, o.rotationDeg);
			return { x: top.widthMm - o.x - corner.x, y: o.y + corner.y, rotationDeg: (360 - o.rotationDeg) % 360 };
		}),
		fiducials: layout.fiducials.map(onWhole),
		circuitFiducials: circuitFiducials.map(onCircuit),
		localFiducials: localFiducials.map(({ refDes, marks }) => ({ refDes, marks: marks.map(onCircuit) })),
		skip: { circuit: skip.circuit && onCircuit(skip.circuit), master: skip.master && onWhole(skip.master) }
	};
}

/** How often a placer's camera looks at marks, a panel: those of the panel once, those of circuits and parts in every circuit.
 * A master mark that is clean says that no circuit is left out; without one each circuit's skip mark is looked at.
 * @param places whether the machine places a part: marks beside others are of no use to it
 */
export function looksAPanel(
	{ origins, fiducials, circuitFiducials, localFiducials, skip }: PanelGeometry,
	places: (refDes: string) => boolean = () => true
): number {
	const local = localFiducials.filter(({ refDes }) => places(refDes)).reduce((sum, { marks }) => sum + marks.length, 0);
	const skipLooks = skip.master ? 1 : skip.circuit ? origins.length : 0;
	return fiducials.length + origins.length * (circuitFiducials.length + local) + skipLooks;
}

/** All marks of a panel, where they lie on it. */
export function marksOnPanel({ origins, fiducials, circuitFiducials, localFiducials, skip }: PanelGeometry): Point[] {
	const each = [...circuitFiducials, ...localFiducials.flatMap(({ marks }) => marks), ...(skip.circuit ? [skip.circuit] : [])];
	return [...fiducials, ...(skip.master ? [skip.master] : []), ...origins.flatMap((place) => each.map((p) => onPanel(p, place)))];
}

/** A point of a circuit on its panel. */
export function onPanel(p: Point, place: CircuitPlace): Point {
	const q = place.rotationDeg === 0 ? p : rotate(p, place.rotationDeg);
	return { x: q.x + place.x, y: q.y + place.y };
}

/** A circuit turned to another angle about its middle: its corner moves, what it covers stays in place. */
export function turnedInPlace(board: { widthMm: number; heightMm: number }, place: CircuitPlace, rotationDeg: number): CircuitPlace {
	const middle = { x: board.widthMm / 2, y: board.heightMm / 2 };
	const [before, after] = [rotate(middle, place.rotationDeg), rotate(middle, rotationDeg)];
	const round = (mm: number) => Math.round(mm * 1000) / 1000;
	return { x: round(place.x + before.x - after.x), y: round(place.y + before.y - after.y), rotationDeg };
}

/** The corners of a circuit on its panel. */
export function circuitCorners(board: { widthMm: number; heightMm: number }, place: CircuitPlace): Point[] {
	const { widthMm: w, heightMm: h } = board;
	return [
		{ x: 0, y: 0 },
		{ x: w, y: 0 },
		{ x: w, y: h },
		{ x: 0, y: h }
	].map((p) => onPanel(p, place));
}

type Placed = Pick<PanelGeometry, 'widthMm' | 'heightMm' | 'origins'>;

function freeGeometry(board: { widthMm: number; heightMm: number }, free: NonNullable<PanelLayout['free']>): Placed {
	requireRange('panel.widthMm', free.widthMm, 5, 800, 'mm');
	requireRange('panel.heightMm', free.heightMm, 5, 800, 'mm');
	requireRange('panel.circuits', free.circuits.length, 1, 400);
	free.circuits.forEach((place, i) => {
		const off = circuitCorners(board, place).some(
			(p) => p.x < -0.01 || p.y < -0.01 || p.x > free.widthMm + 0.01 || p.y > free.heightMm + 0.01
		);
		if (off)
			throw new InputError('mismatch', `panel.circuits[${i}]`, `a circuit on the panel, ${free.widthMm} x ${free.heightMm} mm`, place);
	});
	return { widthMm: free.widthMm, heightMm: free.heightMm, origins: free.circuits };
}

function gridGeometry(board: { widthMm: number; heightMm: number }, layout: PanelLayout): Placed {
	requireRange('panel.rows', layout.rows, 1, 20);
	requireRange('panel.columns', layout.columns, 1, 20);
	requireRange('panel.railMm', layout.railMm, 0, 50, 'mm');
	if (layout.columns > 1 && layout.pitchXMm < board.widthMm)
		throw new InputError('mismatch', 'panel.pitchXMm', `at least the board's width, ${board.widthMm} mm`, layout.pitchXMm);
	if (layout.rows > 1 && layout.pitchYMm < board.heightMm)
		throw new InputError('mismatch', 'panel.pitchYMm', `at least the board's height, ${board.heightMm} mm`, layout.pitchYMm);
	const widthMm = (layout.columns - 1) * layout.pitchXMm + board.widthMm + 2 * layout.railMm;
	const heightMm = (layout.rows - 1) * layout.pitchYMm + board.heightMm + 2 * layout.railMm;
	const origins = Array.from({ length: layout.rows * layout.columns }, (_, k) => ({
		x: layout.railMm + (k % layout.columns) * layout.pitchXMm,
		y: layout.railMm + Math.floor(k / layout.columns) * layout.pitchYMm,
		rotationDeg: 0
	}));
	return { widthMm, heightMm, origins };
}

/** Three marks in the rails: lower left, lower right and upper right but further in, so that a panel loaded backwards is seen.
 * @param railMm rail width; without a rail the marks stand 2 mm inside the edge
 */
export function cornerFiducials(panel: { widthMm: number; heightMm: number }, railMm: number): Point[] {
	const edge = railMm > 0 ? railMm / 2 : 2;
	const round = (v: number) => Math.round(v * 1000) / 1000;
	return [
		{ x: edge, y: edge },
		{ x: round(panel.widthMm - edge), y: edge },
		{ x: round(panel.widthMm - edge - 5), y: round(panel.heightMm - edge) }
	];
}

/** A panel to start from: circuits 2 mm apart with a 5 mm rail and three fiducials. */
export function defaultPanel(board: { widthMm: number; heightMm: number }, rows = 1, columns = 1): PanelLayout {
	const layout = { rows, columns, pitchXMm: board.widthMm + 2, pitchYMm: board.heightMm + 2, railMm: 5, fiducials: [] };
	return { ...layout, fiducials: cornerFiducials(panelGeometry(board, layout), layout.railMm) };
}
