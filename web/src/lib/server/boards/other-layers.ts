import { decodeText } from '@keen-relay/core/tables';
import { readLayer, readOutlineLayer, seenPoint, type LayerFunction } from '@keen-relay/core/artwork';
import type { Point } from '@keen-relay/core/geometry';
import { db } from '../db/index.ts';
import { strictText } from '../files/strict-text.ts';

export interface OtherLayer {
	name: string;
	kind: LayerFunction;
	rings: Point[][];
}

const text = (content: Buffer) => {
	const decoded = decodeText(new Uint8Array(content), strictText);
	return 'text' in decoded ? decoded.text : null;
};

/** The layers that were kept beside the paste, brought into the frame of the side's openings: moved by the outline's corner, and turned
 * where the side is the bottom.
 */
export async function otherLayers(sideId: number): Promise<OtherLayer[]> {
	const side = await db.selectFrom('boardSide').select(['side', 'widthMm']).where('id', '=', sideId).executeTakeFirst();
	if (!side) return [];
	const files = await db
		.selectFrom('boardFile')
		.select(['kind', 'name', 'content'])
		.where('boardSideId', '=', sideId)
		.where('kind', 'in', ['layer', 'outline'])
		.orderBy('id')
		.execute();
	const outline = files.find((file) => file.kind === 'outline');
	const corner = outline ? (readOutlineLayer(text(outline.content) ?? '').box ?? { minX: 0, minY: 0 }) : { minX: 0, minY: 0 };
	const place = (p: Point) => seenPoint({ x: round(p.x - corner.minX), y: round(p.y - corner.minY) }, side.side, side.widthMm);
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
