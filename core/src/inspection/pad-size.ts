import type { PanelGeometry } from '../artwork/index.ts';
import { boxOf, type Ring } from '../geometry/index.ts';

/** Size of an opening along either axis of the panel, mm: an offset is a share of the pad in its own axis. */
export interface PadSize {
	xMm: number;
	yMm: number;
}

/** An opening that fills less of its box than this lies askew: it is as narrow either way. A disc fills 0.785 of it. */
const STRAIGHT_SHARE = 0.7;

/** Size of an opening as it lies in a circuit. */
export function padSize({ outline, areaMm2, widthMm }: { outline: Ring; areaMm2: number; widthMm: number }): PadSize {
	const { minX, minY, maxX, maxY } = boxOf(outline);
	const [xMm, yMm] = [maxX - minX, maxY - minY];
	return areaMm2 >= STRAIGHT_SHARE * xMm * yMm ? { xMm, yMm } : { xMm: widthMm, yMm: widthMm };
}

/** Sizes of every opening of a panel, circuit by circuit, each as it is turned there. */
export function panelSizes(
	openings: readonly { outline: Ring; areaMm2: number; widthMm: number }[],
	{ origins }: Pick<PanelGeometry, 'origins'>
): PadSize[] {
	const sizes = openings.map(padSize);
	return origins.flatMap(({ rotationDeg }) => {
		const quarters = rotationDeg / 90;
		return sizes.map((size, i): PadSize => {
			if (Math.abs(quarters - Math.round(quarters)) > 1e-6) return { xMm: openings[i]!.widthMm, yMm: openings[i]!.widthMm };
			return Math.round(quarters) % 2 ? { xMm: size.yMm, yMm: size.xMm } : size;
		});
	});
}
