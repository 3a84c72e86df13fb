import { error } from '@sveltejs/kit';
import { boardSide } from '$lib/server/queries/sides.ts';
import { revalidated, route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Openings and parts of a side, mm.',
	run: async ({ event, id }) => {
		const side = await boardSide(id);
		if (!side) error(404, 'There is no such board side.');
		return revalidated(event, {
			sideId: side.id,
			widthMm: side.widthMm,
			heightMm: side.heightMm,
			apertures: side.apertures,
			parts: side.parts
		});
	}
});
