import { otherLayers } from '$lib/server/boards/other-layers.ts';
import { revalidated, route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Other layers of a side as outlines, mm.',
	run: async ({ event, id }) => revalidated(event, await otherLayers(id))
});
