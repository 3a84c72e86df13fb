import { CALCULATIONS } from '$lib/api/calc/index.ts';
import { openApi } from '$lib/api/openapi.ts';
import { route } from '$lib/server/route.ts';
import { MESSAGES } from '$lib/server/stations/index.ts';
import { describedRoutes } from '../../described.ts';

export const GET = route({
	who: 'signedIn',
	does: 'This description.',
	run: async () => openApi(await describedRoutes(), CALCULATIONS, MESSAGES)
});
