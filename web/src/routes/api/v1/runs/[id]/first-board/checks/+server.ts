import { bodies } from '$lib/api/bodies.ts';
import { checkFirstBoard } from '$lib/server/line/first-board.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'firstBoard.check',
	does: 'Lines of a first board were looked at: right, or wrong with what is wrong. A line opens again when what it rests on changes: reel lot, feeder, nozzle, paste lot, recipe.',
	body: bodies.firstBoardCheck,
	example: { keys: ['oven'], right: true, panel: 'J-2411-0001' },
	status: 201,
	run: ({ actor, id, body }) => checkFirstBoard(actor, id, body)
});
