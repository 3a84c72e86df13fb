import {
	circuitCorners,
	onPanel,
	panelGeometry,
	type BoardPart,
	type PanelGeometry,
	type PanelLayout,
	type Side
} from '../artwork/index.ts';
import { bodyBox, type Box, type Point } from '../geometry/index.ts';
import type { PackageReader } from '../parts/index.ts';
import { jobToleranceUm } from './alignment.ts';

/** A side as it is printed, mm. */
export interface PrintedSide {
	side: Side;
	widthMm: number;
	heightMm: number;
	panel: PanelLayout;
}

/** Least distance that a turn is counted at, mm: on a tiny panel every turn would be nothing. */
const LEAST_R_MM = 20;
/** Size that a part of an unknown package is given, mm. */
const UNKNOWN_BODY_MM = 2;

/** Where the panel's circuits lie, the middle of its marks, and how far the farthest corner is from there, mm. */
export function printGeometry(side: PrintedSide): { panel: PanelGeometry; middle: Point; rMaxMm: number } {
	const panel = panelGeometry(side, side.panel, side.side);
	const marks = panel.fiducials;
	const middle = {
		x: marks.reduce((s, m) => s + m.x, 0) / Math.max(1, marks.length),
		y: marks.reduce((s, m) => s + m.y, 0) / Math.max(1, marks.length)
	};
	const corners = panel.origins.flatMap((o) => circuitCorners(side, o));
	return { panel, middle, rMaxMm: Math.max(LEAST_R_MM, ...corners.map((c) => Math.hypot(c.x - middle.x, c.y - middle.y))) };
}

/** Alignment tolerance of a side from its fine openings, µm. */
export function toleranceOf({ apertures }: { apertures: readonly { padClass: string; widthMm: number }[] }): number {
	const fine = apertures.filter((a) => a.padClass === 'fineLead' || a.padClass === 'fineBallGrid');
	return jobToleranceUm(fine.map((a) => ({ padWidthMm: a.widthMm, pitchMm: null })));
}

/** Bodies of the other side as they hang below the side that is printed, in the panel's frame, mm.
 * Nothing hangs below the bottom: it is printed first, as the plant builds.
 */
export function hangingBelow(side: PrintedSide, otherParts: readonly BoardPart[], read: PackageReader): { name: string; box: Box }[] {
	if (side.side === 'bottom') return [];
	return printGeometry(side).panel.origins.flatMap((o, circuit) =>
		otherParts
			.filter((part) => part.fitted)
			.map((part) => {
				const body = read(part.packageName);
				// Seen from the side that is printed, the other side lies mirrored.
				const centre = onPanel({ x: side.widthMm - part.xMm, y: part.yMm }, o);
				const [lengthMm, widthMm] = [body.lengthMm ?? UNKNOWN_BODY_MM, body.widthMm ?? UNKNOWN_BODY_MM];
				return {
					name: `${part.refDes}, circuit ${circuit + 1}`,
					box: bodyBox(centre, lengthMm, widthMm, o.rotationDeg - part.rotationDeg)
				};
			})
	);
}
