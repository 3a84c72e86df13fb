import { InputError, requireRange } from '../judgement/index.ts';
import type { Point } from '../numerics/index.ts';

/** How circuits repeat on a panel. The panel's origin is its lower left corner, rails included. */
export interface PanelLayout {
	rows: number;
	columns: number;
	pitchXMm: number;
	pitchYMm: number;
	/** Width of the rail around the outer circuits, mm. */
	railMm: number;
	fiducials: Point[];
}

export interface PanelGeometry {
	widthMm: number;
	heightMm: number;
	/** Lower left corner of each circuit, row by row from the lower left, mm. */
	origins: Point[];
}

/** Places the circuits.
 * @param board size of one circuit, mm
 * @throws {InputError} `out-of-range` where a count or length is impossible, `mismatch` where circuits would overlap or a fiducial lies off the panel
 */
export function panelGeometry(board: { widthMm: number; heightMm: number }, layout: PanelLayout): PanelGeometry {
	requireRange('panel.rows', layout.rows, 1, 20);
	requireRange('panel.columns', layout.columns, 1, 20);
	requireRange('panel.railMm', layout.railMm, 0, 50, 'mm');
	if (layout.columns > 1 && layout.pitchXMm < board.widthMm)
		throw new InputError('mismatch', 'panel.pitchXMm', `at least the board's width, ${board.widthMm} mm`, layout.pitchXMm);
	if (layout.rows > 1 && layout.pitchYMm < board.heightMm)
		throw new InputError('mismatch', 'panel.pitchYMm', `at least the board's height, ${board.heightMm} mm`, layout.pitchYMm);
	const widthMm = (layout.columns - 1) * layout.pitchXMm + board.widthMm + 2 * layout.railMm;
	const heightMm = (layout.rows - 1) * layout.pitchYMm + board.heightMm + 2 * layout.railMm;
	layout.fiducials.forEach((f, i) => {
		if (f.x < 0 || f.y < 0 || f.x > widthMm || f.y > heightMm)
			throw new InputError('mismatch', `panel.fiducials[${i}]`, `a place on the panel, ${widthMm} x ${heightMm} mm`, f);
	});
	const origins = Array.from({ length: layout.rows * layout.columns }, (_, k) => ({
		x: layout.railMm + (k % layout.columns) * layout.pitchXMm,
		y: layout.railMm + Math.floor(k / layout.columns) * layout.pitchYMm
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
