import { env } from '$env/dynamic/private';
import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { plantInfo } from '$lib/server/plant/settings.ts';

/** Badges that a demonstration shows beside its sign-in; a real plant gives none. */
const demoSignIn = z.array(z.object({ badge: z.string(), pin: z.string(), role: z.string() }));

export async function load({ locals, url }) {
	// Only a path of our own is followed after sign-in.
	const wanted = url.searchParams.get('to') ?? '/';
	const to = /^\/(?![/\\])/.test(wanted) ? wanted : '/';
	if (locals.person) redirect(303, to);
	const plant = await plantInfo();
	return { to, plantName: plant.name, demo: plant.demo ? demoSignIn.parse(JSON.parse(env.DEMO_SIGN_IN ?? '[]')) : [] };
}
