import { bodies } from '$lib/api/bodies.ts';
import { holdToLift, liftHold } from '$lib/server/queries/holds.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'hold.lift',
	does: 'Lets something go on that was held, with the reason of who takes it on.',
	body: bodies.lift,
	example: { note: 'two pads at the low limit, no bridge: looked at under the microscope' },
	run: async ({ actor, id, body: { note } }) => {
		await holdToLift(id);
		return liftHold(actor, id, note);
	}
});
