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
	fiducials: Point[];
}

/** Places the circuits as the machine sees the side: the bottom is the same panel turned left to right.
 * @param board size of one circuit, mm
 * @throws {InputError} `out-of-range` where a count or length is impossible, `mismatch` where circuits would overlap or a fiducial lies off the panel
 */
export function panelGeometry(board: { widthMm: number; heightMm: number }, layout: PanelLayout, side: Side = 'top'): PanelGeometry {
	const top = layout.free ? freeGeometry(board, layout.free) : gridGeometry(board, layout);
	layout.fiducials.forEach((f, i) => {
		if (f.x < 0 || f.y < 0 || f.x > top.widthMm || f.y > top.heightMm)
			throw new InputError('mismatch', `panel.fiducials[${i}]`, `a place on the panel, ${top.widthMm} x ${top.heightMm} mm`, f);
	});
	if (side === 'top') return { ...top, fiducials: layout.fiducials };
	return {
		...top,
		origins: top.origins.map((o) => {
			const corner = rotate({ x: board.widthMm, y: 0 }, o.rotationDeg);
			return { x: top.widthMm - o.x - corner.x, y: o.y + corner.y, rotationDeg: (360 - o.rotationDeg) % 360 };
		}),
		fiducials: layout.fiducials.map((f) => ({ x: top.widthMm - f.x, y: f.y }))
	};
}

/** A point of a circuit on its panel. */
export function onPanel(p: Point, place: CircuitPlace): Point {
	const q = place.rotationDeg === 0 ? p : rotate(p, place.rotationDeg);
	return { x: q.x + place.x, y: q.y + place.y };
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

type Placed = Omit<PanelGeometry, 'fiducials'>;

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
