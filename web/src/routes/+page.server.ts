import { redirect } from '@sveltejs/kit';

/** Home is the line that was opened last; where there is no line yet, the way to the first panel. */
export async function load({ parent }) {
	const { line } = await parent();
	redirect(303, line ? `/line/${line.id}` : '/plant/set-up');
}
