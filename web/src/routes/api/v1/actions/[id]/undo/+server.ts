import { error } from '@sveltejs/kit';
import { answer, idOf } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { actionById, undoAction } from '$lib/server/undo/undo.ts';

/** Reverses an action by a record of its own: whoever may do it may undo it. */
export async function POST(event) {
	return answer(async () => {
		if (!event.locals.person) error(401, 'Sign in or show your badge first.');
		const id = idOf(event.params.id);
		const { action } = await actionById(id);
		await undoAction(await authorize(event, action), id);
	});
}
