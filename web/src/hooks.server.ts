import { building } from '$app/environment';
import { env } from '$env/dynamic/private';
import { error, redirect, type Handle, type ServerInit } from '@sveltejs/kit';
import { timingSafeEqual } from 'node:crypto';
import { svelteKitHandler } from 'better-auth/svelte-kit';
import type { Role } from '@keen-relay/core/judgement';
import { migrate } from '$lib/server/db/index.ts';
import { startClock } from '$lib/server/line/clock.ts';
import { ensurePlant } from '$lib/server/line/plant.ts';
import { auth } from '$lib/server/people/auth.ts';

export const init: ServerInit = async () => {
	await migrate();
	const plant = await ensurePlant();
	await startClock(plant.demo);
};

/** Open without a session: sign-in, the health answer and what the browser needs to show them. */
const OPEN = ['/sign-in', '/api/auth', '/healthz'];

export const handle: Handle = async ({ event, resolve }) => {
	event.locals.machine = isMachine(event.request.headers.get('authorization'));
	event.locals.person = null;
	const path = event.url.pathname;
	if (!path.startsWith('/_app/')) {
		const session = await auth.api.getSession({ headers: event.request.headers });
		if (session) {
			const { id, name, username, role } = session.user as unknown as { id: string; name: string; username: string; role: Role };
			event.locals.person = { id, name, badge: username, role };
		}
		const open = OPEN.some((prefix) => path === prefix || path.startsWith(`${prefix}/`));
		if (!event.locals.person && !event.locals.machine && !open) {
			if (path.startsWith('/api/')) error(401, 'Sign in first.');
			redirect(303, `/sign-in?to=${encodeURIComponent(path + event.url.search)}`);
		}
		// A machine speaks to the API only.
		if (event.locals.machine && !event.locals.person && !path.startsWith('/api/v1/') && !open)
			error(401, 'A machine token opens the API, not the pages.');
	}
	return svelteKitHandler({ event, resolve, auth, building });
};

function isMachine(header: string | null): boolean {
	const token = env.MACHINE_TOKEN ?? '';
	const given = header?.replace(/^Bearer /, '') ?? '';
	return token.length >= 16 && given.length === token.length && timingSafeEqual(Buffer.from(given), Buffer.from(token));
}
