import { redirect } from '@sveltejs/kit';
import { plantInfo } from '$lib/server/line/plant.ts';

export async function load({ locals, url }) {
	// Only a path of our own is followed after sign-in.
	const wanted = url.searchParams.get('to') ?? '/';
	const to = /^\/(?![/\\])/.test(wanted) ? wanted : '/';
	if (locals.person) redirect(303, to);
	const plant = await plantInfo();
	return { to, plantName: plant.name, demo: plant.demo };
}
