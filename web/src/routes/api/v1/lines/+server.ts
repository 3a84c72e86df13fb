import { bodies } from '$lib/api/bodies.ts';
import { db } from '$lib/server/db/index.ts';
import { createLine } from '$lib/server/line/stations.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Lines of the plant.',
	run: () => db.selectFrom('line').selectAll().orderBy('id').execute()
});

export const POST = route({
	who: 'line.create',
	does: 'Enters a line with its stations in the order boards travel.',
	body: bodies.line,
	example: { name: 'Bench', stations: [{ role: 'print', name: 'Print', spec: { cycleS: 20 } }] },
	status: 201,
	run: ({ actor, body }) => createLine(actor, body)
});
