import { redirect } from '@sveltejs/kit';

/** Home is the line that was opened last, or the boards where there is no line yet. */
export async function load({ parent }) {
	const { line } = await parent();
	redirect(303, line ? `/line/${line.id}` : '/boards');
}
