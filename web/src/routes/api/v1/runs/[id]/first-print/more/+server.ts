import { onePrintMore } from '$lib/server/stations/print/print-run.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'firstPrint.release',
	does: 'Lets the printer print one panel more before the release.',
	status: 201,
	run: ({ actor, id }) => onePrintMore(actor, id)
});
