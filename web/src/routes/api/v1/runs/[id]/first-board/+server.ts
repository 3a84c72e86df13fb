import { firstBoardNow } from '$lib/server/line/first-board.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'The checklist of the first board of a run, made from what it is built with: how each line stands, who looked, whether it is released.',
	run: ({ id }) => firstBoardNow(id)
});
