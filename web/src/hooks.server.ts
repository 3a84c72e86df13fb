import { building } from '$app/environment';
import { env } from '$env/dynamic/private';
import { error, json, redirect, type Handle, type HandleServerError, type RequestEvent, type ServerInit } from '@sveltejs/kit';
import { svelteKitHandler } from 'better-auth/svelte-kit';
import { away, TooMany, tooMany } from '$lib/server/answer.ts';
import { awayWords, isAway } from '$lib/server/db/away.ts';
import { migrate } from '$lib/server/db/index.ts';
import { makeMonthsAhead } from '$lib/server/db/months.ts';
import { pruneNowAndThen } from '$lib/server/ingest/prune.ts';
import { plantNow, startClock } from '$lib/server/plant/clock.ts';
import { watchJarHolds } from '$lib/server/queries/holds.ts';
import { ensurePlant } from '$lib/server/plant/settings.ts';
import { auth, checkCode, CHOOSE_PIN } from '$lib/server/people/auth.ts';
import { ensureFirstLead } from '$lib/server/people/first-lead.ts';
import { identify } from '$lib/server/people/identify.ts';
import { askingAt, rememberScreen, tryPin } from '$lib/server/people/guesses.ts';

export const init: ServerInit = async () => {
	try {
		await migrate();
	} catch (error) {
		// Said in words alone, for whoever started it.
		console.error(error instanceof Error ? error.message : error);
		process.exit(3);
	}
	const plant = await ensurePlant();
	await ensureFirstLead();
	await startClock(plant.demo);
	pruneNowAndThen();
	makeMonthsAhead(plantNow);
	watchJarHolds();
	// Asked to end, the process ends once its requests are answered: neither the clock nor the connection that listens holds it.
	process.once('sveltekit:shutdown', () => process.exit(0));
};

/** Open without a session: sign-in, the health answer and what the browser needs to show them. */
const OPEN = ['/sign-in', '/first', '/api/v1/first', '/api/v1/first-pin', '/api/auth', '/healthz'];
const READING = ['GET', 'HEAD', 'OPTIONS'];

/** The routes of the sign-in library that we use. It brings others, by which people could change what we keep of them: those are not there. */
const SIGN_IN_ROUTES = ['POST /api/auth/sign-in/username', 'POST /api/auth/sign-out', 'GET /api/auth/get-session'];

/** Whether a request that changes something comes from our own pages: a browser says so, and another site cannot say it for it. Machines and programs bring a token. */
function isOurs({ request, url, locals }: RequestEvent): boolean {
	if (READING.includes(request.method) || locals.machine) return true;
	const origin = request.headers.get('origin');
	return origin === null ? request.headers.get('sec-fetch-site') === null : origin === url.origin || origin === env.ORIGIN;
}

/** Whether an address says what it means: half a character, or a NUL, is nobody's page. */
function isReadable(path: string): boolean {
	try {
		return !decodeURIComponent(path).includes('\0');
	} catch {
		return false;
	}
}

/** What a browser must not do with our pages. Scripts and styles are ruled by the policy that each page carries. */
const HEADERS = {
	'x-content-type-options': 'nosniff',
	'x-frame-options': 'DENY',
	'referrer-policy': 'same-origin',
	'cross-origin-opener-policy': 'same-origin',
	'permissions-policy': 'camera=(), geolocation=(), microphone=()'
};

const withHeaders = (response: Response): Response => {
	for (const [name, value] of Object.entries(HEADERS)) if (!response.headers.has(name)) response.headers.set(name, value);
	return response;
};

export const handle: Handle = async (input) => withHeaders(await answerOf(input));

const answerOf: Handle = async ({ event, resolve }) => {
	const path = event.url.pathname;
	if (!isReadable(path))
		return new Response('This address cannot be read.', { status: 400, headers: { 'content-type': 'text/plain; charset=utf-8' } });
	Object.assign(event.locals, { person: null, knownBy: 'session', stationPc: null, machine: null, readOnly: false });
	if (path.startsWith('/_app/')) return resolve(event);
	if (path.startsWith('/api/auth/') && !SIGN_IN_ROUTES.includes(`${event.request.method} ${path}`)) error(404, `There is no ${path}.`);
	const open = OPEN.some((prefix) => path === prefix || path.startsWith(`${prefix}/`));
	try {
		Object.assign(event.locals, await identify(event));
	} catch (caught) {
		if (!isAway(caught)) throw caught;
		// Nobody whom we remember: all that can be said is that the database is away.
		if (!open) return away(caught);
	}
	const { person, stationPc, machine, readOnly } = event.locals;
	if (!isOurs(event)) error(403, 'This request does not come from a page of this plant.');
	if (!person && !stationPc && !machine && !open) {
		if (path.startsWith('/api/')) error(401, 'Sign in first.');
		redirect(303, `/sign-in?to=${encodeURIComponent(path + event.url.search)}`);
	}
	// A machine speaks to the API only.
	if (machine && !person && !path.startsWith('/api/v1/') && !open) error(401, 'A machine token opens the API, not the pages.');
	if (readOnly && !READING.includes(event.request.method)) return away();
	if (path === '/api/auth/sign-in/username') return signIn(event, () => svelteKitHandler({ event, resolve, auth, building }));
	const response = await svelteKitHandler({ event, resolve, auth, building });
	// A page's data that could not be read is no data: the page keeps what it shows and asks again.
	return event.isDataRequest && event.locals.away ? away(event.locals.away) : response;
};

/** Signs in within the limits of guessing; a screen where somebody signed in knows them from then on. */
async function signIn(event: RequestEvent, answer: () => Promise<Response> | Response): Promise<Response> {
	const body = (await event.request
		.clone()
		.json()
		.catch(() => null)) as { username?: unknown; password?: unknown } | null;
	const badge = String(body?.username ?? '')
		.trim()
		.toLowerCase();
	let refused: Response | null = null;
	try {
		const answered = await tryPin(askingAt(event, badge, 'sign-in'), async () => {
			const code = String(body?.password ?? '').slice(0, 64);
			if (await checkCode(badge, code)) return json({ message: CHOOSE_PIN }, { status: 409 });
			const response = await answer();
			if (response.ok) return response;
			refused = response;
			return null;
		});
		if (!answered) return refused!;
		if (!answered.ok) return answered;
		const cookie = await rememberScreen(event, badge);
		if (!cookie) return answered;
		const headers = new Headers(answered.headers);
		headers.append('set-cookie', cookie);
		return new Response(answered.body, { status: answered.status, headers });
	} catch (caught) {
		if (caught instanceof TooMany) return tooMany(caught);
		throw caught;
	}
}

export const handleError: HandleServerError = ({ error: caught, event, status }) => {
	if (isAway(caught)) {
		event.locals.away = caught;
		return { message: awayWords(caught), away: true };
	}
	if (status === 404) return { message: `There is no page ${event.url.pathname}.` };
	console.error(`${event.request.method} ${event.url.pathname}:`, caught);
	return {
		message: env.DEMO === '1' && caught instanceof Error ? caught.message : 'Something went wrong on the server. It is in its log.'
	};
};
