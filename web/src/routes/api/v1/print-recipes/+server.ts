import { startingPrintRecipe } from '@keen-relay/core/printing';
import { bodies } from '$lib/api/bodies.ts';
import { releasePrintRecipe } from '$lib/server/stations/print/print-run.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'printRecipe.release',
	does: 'Releases a print recipe with its support pins.',
	body: bodies.printRecipe,
	example: { sideId: 1, lineId: 1, recipe: startingPrintRecipe(118, null), support: [{ x: 59, y: 45, radiusMm: 2 }] },
	status: 201,
	run: ({ actor, body }) => releasePrintRecipe(actor, body)
});
