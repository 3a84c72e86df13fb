import { releaseFirstBoard } from '$lib/server/line/first-board.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'firstBoard.release',
	does: 'A second person releases the first board of a run. Refused while a line is not right, and to whoever looked at one of them.',
	run: ({ actor, id }) => releaseFirstBoard(actor, id)
});
