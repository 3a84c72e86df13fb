import { bodies } from '$lib/api/bodies.ts';
import { releaseProgram } from '$lib/server/stations/place/program.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'program.release',
	does: 'Releases the placement program of a side on a line: as the parts are dealt here, or one from a file, which is judged first.',
	body: bodies.program,
	example: { sideId: 1, lineId: 1 },
	status: 201,
	run: ({ actor, body: { sideId, lineId, startedFrom, text } }) => releaseProgram(actor, sideId, lineId, startedFrom, text)
});
