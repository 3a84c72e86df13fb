import { readLayer, readOutlineLayer, seenPoint, type LayerFunction, type Side } from '../artwork/index.ts';
import type { Point } from '../geometry/index.ts';
import { decodeText, type TextDecoders } from '../tables/index.ts';

export interface OtherLayer {
	name: string;
	kind: LayerFunction;
	rings: Point[][];
}

/** The layers that were kept beside the paste, brought into the frame of the side's openings: moved by the outline's corner, and turned
 * where the side is the bottom. A file that is no text is left out.
 */
export function otherLayers(
	files: readonly { kind: string; name: string; content: Uint8Array }[],
	side: Side,
	widthMm: number,
	decode: TextDecoders
): OtherLayer[] {
	const text = (content: Uint8Array) => {
		const decoded = decodeText(content, decode);
		return 'text' in decoded ? decoded.text : null;
	};
	const outline = files.find((file) => file.kind === 'outline');
	const corner = outline ? readOutlineLayer(text(outline.content) ?? '').box : { minX: 0, minY: 0 };
	// An outline that does not say its unit gives no corner: nothing is drawn in the wrong place.
	if (!corner) return [];
	const place = (p: Point) => seenPoint({ x: round(p.x - corner.minX), y: round(p.y - corner.minY) }, side, widthMm);
	return files
		.filter((file) => file.kind === 'layer')
		.flatMap((file) => {
			const content = text(file.content);
			if (content === null) return [];
			const { kind, rings } = readLayer(content, file.name);
			return [{ name: file.name, kind, rings: rings.map((ring) => ring.map(place)) }];
		});
}

const round = (v: number) => Math.round(v * 1e4) / 1e4;
