import { revokeStationPc } from '$lib/server/people/station-pc.ts';
import { route } from '$lib/server/route.ts';

export const DELETE = route({
	who: 'stationPc.revoke',
	does: 'Signs a station PC out.',
	run: ({ actor, id }) => revokeStationPc(actor, id)
});
