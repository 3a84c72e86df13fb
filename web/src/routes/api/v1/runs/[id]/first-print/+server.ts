import { releaseFirstPrint } from '$lib/server/stations/print/print-run.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'firstPrint.release',
	does: 'Releases a run after its first prints: until then the printer waits.',
	run: ({ actor, id }) => releaseFirstPrint(actor, id)
});
