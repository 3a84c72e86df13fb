import { onPanel, panelGeometry, type PanelLayout, type Side } from '../artwork/index.ts';
import { openingNames, type ClassedAperture } from '../boards/index.ts';
import { boxOf } from '../geometry/index.ts';
import { panelSizes } from './pad-size.ts';
import type { TablePad } from './study-tables.ts';

export type PanelPad = TablePad & { perimeterMm: number };

/** Every pad of a panel, circuit by circuit, as the causes need it: named, in the panel's frame, with its opening's sizes as they lie there.
 * @param foilUm measured thickness of the foil
 */
export function panelPads(
	side: { side: Side; widthMm: number; heightMm: number; panel: PanelLayout; apertures: readonly ClassedAperture[] },
	foilUm: number
): PanelPad[] {
	const geometry = panelGeometry(side, side.panel, side.side);
	const { origins } = geometry;
	const sizes = panelSizes(side.apertures, geometry);
	const names = openingNames(side.apertures);
	const boxes = side.apertures.map((a) => boxOf(a.outline));
	return origins.flatMap((o, circuit) =>
		side.apertures.map((a, i) => {
			const at = onPanel(a.centre, o);
			const { minX, maxX, minY, maxY } = boxes[i]!;
			const lies = Math.round(o.rotationDeg / 90) % 2 !== 0;
			const [x, y] = [maxX - minX, maxY - minY];
			return {
				name: origins.length > 1 ? `${names[i]}, circuit ${circuit + 1}` : names[i]!,
				refDes: a.refDes === null ? null : `${circuit}/${a.refDes}`,
				pin: a.pin,
				padClass: a.padClass,
				shape: a.shape,
				sizeXMm: lies ? y : x,
				sizeYMm: lies ? x : y,
				foilUm,
				areaMm2: a.areaMm2,
				perimeterMm: a.perimeterMm,
				xMm: at.x,
				yMm: at.y,
				minSideMm: a.widthMm,
				sizeMm: sizes[circuit * side.apertures.length + i]!,
				areaRatio: (a.areaMm2 / a.perimeterMm / foilUm) * 1000
			};
		})
	);
}
