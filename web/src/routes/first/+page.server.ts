import { redirect } from '@sveltejs/kit';
import { waitsForFirstLead } from '$lib/server/people/first-lead.ts';

/** Only a plant that knows nobody is begun here. */
export async function load() {
	if (!(await waitsForFirstLead())) redirect(303, '/sign-in');
}
