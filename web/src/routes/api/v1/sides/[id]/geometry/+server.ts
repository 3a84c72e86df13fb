import { error, json } from '@sveltejs/kit';
import { idOf } from '$lib/server/answer.ts';
import { boardSide } from '$lib/server/queries/sides.ts';

/** Openings and parts of a side: read once by a page, since a kept board never changes. */
export async function GET({ params, setHeaders }) {
	const side = await boardSide(idOf(params.id));
	if (!side) error(404, 'There is no such board side.');
	setHeaders({ 'cache-control': 'private, max-age=31536000, immutable' });
	return json({ sideId: side.id, widthMm: side.widthMm, heightMm: side.heightMm, apertures: side.apertures, parts: side.parts });
}
