import { env } from '$env/dynamic/private';
import { redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { waitsForFirstLead } from '$lib/server/people/first-lead.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';

/** Badges that a demonstration shows beside its sign-in; a real plant gives none. */
const demoSignIn = z.array(z.object({ badge: z.string(), pin: z.string(), role: z.string() }));

/** The path, where it is one of ours: as a browser would read it, not as it is written ("/\t/host" is another host). */
function ownPath(wanted: string, origin: string): string {
	if (!wanted.startsWith('/') || !URL.canParse(wanted, origin)) return '/';
	const target = new URL(wanted, origin);
	return target.origin === origin && !target.pathname.startsWith('//') ? target.pathname + target.search : '/';
}

export async function load({ locals, url }) {
	// Only a path of our own is followed after sign-in.
	const wanted = url.searchParams.get('to') ?? '/';
	const to = ownPath(wanted, url.origin);
	if (locals.person) redirect(303, to);
	if (await waitsForFirstLead()) redirect(303, '/first');
	const plant = await plantInfo();
	return { to, plantName: plant.name, demo: plant.demo ? demoSignIn.parse(JSON.parse(env.DEMO_SIGN_IN ?? '[]')) : [] };
}
