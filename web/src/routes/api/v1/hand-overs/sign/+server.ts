import { bodies } from '$lib/api/bodies.ts';
import { askingAt } from '$lib/server/people/guesses.ts';
import { sign } from '$lib/server/shift/hand-over.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'badgeAndPin',
	does: 'Signs a hand-over: the badge and PIN in the body decide who signs.',
	body: bodies.signature,
	example: { lineId: 1, date: '2026-11-25', shift: 'Early', badge: 'anwen', pin: '2001' },
	run: async ({ event, body: { lineId, date, shift, badge, pin } }) => {
		await sign(lineId, date, shift, askingAt(event, badge, 'handOver.sign'), pin);
	}
});
