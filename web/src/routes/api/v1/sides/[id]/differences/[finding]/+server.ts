import { idOf } from '$lib/server/answer.ts';
import { bodies } from '$lib/api/bodies.ts';
import { answerDifference } from '$lib/server/boards/differences.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'board.settle',
	does: 'Says of a difference between the files of a side what it is: accepted, which lets the side run, sent back, or open again. Differences are numbered from 1, as they were found.',
	body: bodies.differenceAnswer,
	example: { state: 'accepted', reason: 'plugged in the stencil' },
	run: ({ actor, body, id, part }) => answerDifference(actor, id, idOf(part('finding')) - 1, body)
});
