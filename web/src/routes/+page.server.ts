import { redirect } from '@sveltejs/kit';
import { db } from '$lib/server/db/index.ts';

/** The line is the menu: the start is its first station, or the boards where there is no line yet. */
export async function load() {
	const line = await db.selectFrom('line').select('id').orderBy('id').executeTakeFirst();
	redirect(303, line ? `/line/${line.id}/print` : '/boards');
}
