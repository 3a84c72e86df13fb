import { createHash } from 'node:crypto';
import { error, type RequestEvent } from '@sveltejs/kit';
import type { Action } from '@keen-relay/core/people';
import { type z } from 'zod';
import type { RouteDescription, Who } from '$lib/api/openapi.ts';
import { answer, idOf, readJson } from './answer.ts';
import { authorize, requireAnybody, requireMachine } from './people/access.ts';
import type { Actor } from './plant/log.ts';

type Person = NonNullable<App.Locals['person']>;
type StationPc = NonNullable<App.Locals['stationPc']>;

/** Whom a route was asked by, as its `who` lets in. */
type By<W extends Who> = W extends Action ? Actor : W extends 'person' ? Person : W extends 'stationPc' ? StationPc : null;

interface Asked<W extends Who, B, Q, A extends Action> {
	event: RequestEvent;
	/** Who asks: the person behind an action, the person or the station PC. */
	actor: By<W>;
	body: B;
	query: Q;
	/** The whole number [id] of the path; 404 where it is none. */
	id: number;
	/** A part of the path by its name; 404 where it is missing. */
	part(name: keyof RequestEvent['params']): string;
	/** Asks for a further right, for what this request turns out to be. */
	asking(action: A): Promise<Actor>;
}

/** One route of the public API: who may ask, with what, and what is done. Method and path are its export and its folder. */
interface RouteDefinition<W extends Who, B extends z.ZodType, Q extends z.ZodType, A extends Action> extends Omit<
	RouteDescription,
	'body' | 'query' | 'example'
> {
	who: W;
	/** Rights that some of its requests ask for besides. */
	also?: readonly A[];
	body?: B;
	query?: Q;
	/** A body that it takes, or the text of one where the body is not JSON. */
	example?: z.input<B> | string;
	/** Status of what was done; 200 where it says none. */
	status?: 200 | 201;
	/** Its answer as JSON, or a whole response. */
	run(asked: Asked<W, z.output<B>, z.output<Q>, A>): unknown;
}

/** The handler of a route, which carries its description. */
export type Route = ((event: RequestEvent) => Promise<Response>) & { description: RouteDescription };

/** Lets in whom the route is for.
 * @throws 401 or 403 in words, or a question for badge and PIN */
async function admit(event: RequestEvent, who: Who): Promise<Actor | Person | StationPc | null> {
	const { person, stationPc } = event.locals;
	switch (who) {
		case 'signedIn':
		case 'badgeAndPin':
		case 'firstLead':
			return null;
		case 'machine':
			requireMachine(event.locals);
			return null;
		case 'calculation':
			requireAnybody(event.locals);
			return null;
		case 'person':
			return person ?? error(401, 'Sign in or show your badge first.');
		case 'stationPc':
			return stationPc ?? error(401, 'This is for station PCs. Sign in here instead.');
		default:
			return authorize(event, who);
	}
}

/** Makes a handler from a route's definition: right, body and query are checked, then it runs; a refusal is answered in words. */
export function route<W extends Who, B extends z.ZodType = z.ZodUndefined, Q extends z.ZodType = z.ZodUndefined, A extends Action = never>(
	definition: RouteDefinition<W, B, Q, A>
): Route {
	const { who, body, query, status, run, ...rest } = definition;
	const handler = (event: RequestEvent) =>
		answer(async () => {
			const actor = (await admit(event, who)) as By<W>;
			const part = (name: keyof RequestEvent['params']) => event.params[name] ?? error(404, `There is no ${name}.`);
			return run({
				event,
				actor,
				query: query?.parse(Object.fromEntries(event.url.searchParams)) as z.output<Q>,
				body: (body && (await readJson(event, body))) as z.output<B>,
				get id() {
					return idOf(event.params.id);
				},
				part,
				asking: (action) => authorize(event, action)
			});
		}, status);
	return Object.assign(handler, { description: { who, ...(body ? { body } : {}), ...(query ? { query } : {}), ...rest } });
}

/** A text that is downloaded under a name. */
export function download(text: string, name: string, type = 'text/csv'): Response {
	return new Response(text, {
		headers: { 'content-type': `${type}; charset=utf-8`, 'content-disposition': `attachment; filename="${name.replace(/[^\w .-]/g, '_')}"` }
	});
}

/** An answer that a browser keeps and asks about each time: whole only where it has changed. An identity may come back with other contents in another database. */
export function revalidated(event: RequestEvent, value: unknown): Response {
	const text = JSON.stringify(value);
	const headers = { etag: `"${createHash('sha256').update(text).digest('base64url')}"`, 'cache-control': 'private, no-cache' };
	if (event.request.headers.get('if-none-match') === headers.etag) return new Response(null, { status: 304, headers });
	return new Response(text, { headers: { ...headers, 'content-type': 'application/json' } });
}
