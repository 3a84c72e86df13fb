import type { Action } from '@keen-relay/core/people';
import { z } from 'zod';
import type { Calculation } from './calc/index.ts';

/** Whom a route answers: anybody signed in (a person, a station PC or a machine), a person, a station PC, a machine only, or who may do an action. */
export type Who = 'signedIn' | 'person' | 'stationPc' | 'machine' | 'badgeAndPin' | 'firstLead' | 'calculation' | Action;

export interface RouteDescription {
	who: Who;
	/** Rights that some of its requests ask for besides. */
	also?: readonly Action[];
	does: string;
	query?: z.ZodType;
	body?: z.ZodType;
	/** Where the body is not JSON. */
	contentType?: 'application/x-ndjson' | 'multipart/form-data';
	example?: unknown;
	/** What it answers where that is not JSON. */
	answers?: string;
}

export interface DescribedRoute extends RouteDescription {
	method: 'GET' | 'POST' | 'PUT' | 'DELETE';
	/** With its parts in braces, "/api/v1/jars/{id}/events". */
	path: string;
}

const WHO_WORDS: Partial<Record<Who, string>> = {
	signedIn: 'Anybody signed in: a person, a station PC, or a machine token.',
	person: 'A person, signed in or named by a badge.',
	stationPc: 'A station PC only.',
	machine: 'A machine token only.',
	badgeAndPin: 'Whoever holds the badge and knows the PIN in the body.',
	firstLead: 'Whoever holds the code that the start of an empty plant printed.',
	calculation: 'Any person, or a machine token.'
};

const schemaOf = (type: z.ZodType) => z.toJSONSchema(type, { target: 'openapi-3.0', io: 'input', unrepresentable: 'any' });
const REFUSALS = {
	401: { description: 'Not signed in.' },
	403: { description: 'This role may not; the message says who may.' },
	422: { description: 'Refused in words: issues with field, value and what to do.' },
	503: { description: 'The database is away; Retry-After says when to try again.' }
};

/** Who may, in words. */
function whoMay({ who, also = [] }: RouteDescription): string {
	const words = WHO_WORDS[who] ?? `Who may: the plant’s table of actions, action ${who}.`;
	if (also.length === 0) return words;
	return `${words} Some of its requests ask for another right: ${also.length > 4 ? 'that of the action concerned' : also.join(', ')}.`;
}

/** The parts of a query as parameters. */
function queryParameters(query: z.ZodType | undefined): object[] {
	if (!query) return [];
	const { properties = {}, required = [] } = schemaOf(query) as {
		properties?: Record<string, { description?: string }>;
		required?: string[];
	};
	return Object.entries(properties).map(([name, { description, ...schema }]) => ({
		name,
		in: 'query',
		required: required.includes(name),
		description,
		schema
	}));
}

/** The description of the API in OpenAPI 3.0, made from what its routes, calculations and messages are read through. */
export function openApi(
	routes: readonly DescribedRoute[],
	calculations: readonly Calculation[],
	messages: readonly { type: string; words: string; schema: z.ZodType }[]
): object {
	const paths: Record<string, Record<string, unknown>> = {};
	const add = (path: string, method: string, operation: object) => ((paths[path] ??= {})[method] = operation);
	for (const route of routes) {
		const { method, path, does, query, body, contentType, example, answers } = route;
		const schema =
			contentType === 'application/x-ndjson'
				? { oneOf: messages.map(({ type }) => ({ $ref: `#/components/schemas/message.${type}` })) }
				: body && schemaOf(body);
		add(path, method.toLowerCase(), {
			summary: does,
			description: whoMay(route),
			'x-who': route.who,
			parameters: [
				...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
				...queryParameters(query)
			],
			...(body || contentType
				? {
						requestBody: {
							required: true,
							content: {
								[contentType ?? 'application/json']: { ...(schema ? { schema } : {}), ...(example === undefined ? {} : { example }) }
							}
						}
					}
				: {}),
			responses: { 200: { description: answers ?? 'JSON.' }, ...REFUSALS }
		});
	}
	for (const { name, summary, input, example } of calculations)
		add(`/api/v1/calc/${name}`, 'post', {
			summary,
			description: WHO_WORDS.calculation,
			requestBody: { required: true, content: { 'application/json': { schema: schemaOf(input), example } } },
			responses: { 200: { description: 'The result, plain JSON.' }, ...REFUSALS }
		});
	return {
		openapi: '3.0.3',
		info: {
			title: 'Keen Relay',
			version: '1',
			description: 'The plant’s own API: every calculation, and everything that people and machines report.'
		},
		components: {
			schemas: Object.fromEntries(messages.map(({ type, words, schema }) => [`message.${type}`, { title: words, ...schemaOf(schema) }])),
			securitySchemes: {
				machine: { type: 'http', scheme: 'bearer' },
				person: { type: 'apiKey', in: 'cookie', name: 'better-auth.session_token' }
			}
		},
		security: [{ machine: [] }, { person: [] }],
		paths
	};
}
