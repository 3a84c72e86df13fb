import { readPasteLayer, type LayerUnit } from '../artwork/index.ts';
import { boxOf, type Point } from '../geometry/index.ts';
import type { InUnit } from './files.ts';

const UNITS: readonly LayerUnit[] = ['mm', 'inch'];

/** What a layer is in mm and in inch, for a person who knows the board's size. Nothing where it has no opening in either. */
export function bothUnits(text: string): InUnit[] {
	return UNITS.flatMap((unit) => {
		const { apertures } = readPasteLayer(text, unit);
		if (apertures.length === 0) return [];
		const { minX, minY, maxX, maxY } = boxOf(apertures.flatMap((a) => a.outline));
		const move = (p: Point) => ({ x: p.x - minX, y: p.y - minY });
		return [
			{
				unit,
				widthMm: maxX - minX,
				heightMm: maxY - minY,
				narrowestMm: apertures.reduce((least, a) => Math.min(least, a.widthMm), Infinity),
				outlines: apertures.map((a) => ({ outline: a.outline.map(move), centre: move(a.centre) }))
			}
		];
	});
}
