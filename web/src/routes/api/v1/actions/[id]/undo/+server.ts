import { route } from '$lib/server/route.ts';
import { actionById, undoAction } from '$lib/server/undo/undo.ts';
import { ACTIONS } from '@keen-relay/core/people';

export const POST = route({
	who: 'person',
	also: ACTIONS,
	does: 'Reverses an action by a record of its own; whoever may do it may undo it.',
	run: async ({ id, asking }) => {
		const { action } = await actionById(id);
		await undoAction(await asking(action), id);
	}
});
