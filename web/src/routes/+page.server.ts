import { redirect } from '@sveltejs/kit';

/** The line is the menu: the start is the first station of the line that is open, or the boards where there is no line yet. */
export async function load({ parent }) {
	const { line } = await parent();
	redirect(303, line?.tiles[0]?.href ?? '/boards');
}
