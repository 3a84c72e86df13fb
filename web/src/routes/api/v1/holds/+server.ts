import { openHolds } from '$lib/server/queries/holds.ts';
import { rejectedPanels } from '$lib/server/stations/print/rejects.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'All that is held: what, why, since when, which stations obey it, and the right that lifts it; of a rejected panel how far its wash is.',
	run: async () => {
		const [holds, rejects] = await Promise.all([openHolds(), rejectedPanels()]);
		return holds.map((hold) => ({ ...hold, wash: rejects.find((r) => r.id === hold.id)?.wash ?? null }));
	}
});
