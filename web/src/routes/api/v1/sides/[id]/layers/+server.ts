import { json } from '@sveltejs/kit';
import { idOf } from '$lib/server/answer.ts';
import { otherLayers } from '$lib/server/boards/other-layers.ts';

/** The other layers of a side as outlines, in the frame of its openings: read once by a page, since a kept board never changes. */
export async function GET({ params, setHeaders }) {
	const layers = await otherLayers(idOf(params.id));
	setHeaders({ 'cache-control': 'private, max-age=31536000, immutable' });
	return json(layers);
}
