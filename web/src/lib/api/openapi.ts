import { z } from 'zod';
import { CALCULATIONS } from './calc/index.ts';
import { ROUTES, type Who } from './routes.ts';

const WHO_WORDS: Partial<Record<Who, string>> = {
	signedIn: 'Anybody signed in: a person, a station PC, or a machine token.',
	person: 'A person, signed in or named by a badge.',
	stationPc: 'A station PC only.',
	machine: 'A machine token only.',
	badgeAndPin: 'Whoever holds the badge and knows the PIN in the body.',
	calculation: 'Any person, or a machine token.'
};

const schemaOf = (type: z.ZodType) => z.toJSONSchema(type, { target: 'openapi-3.0', io: 'input', unrepresentable: 'any' });
const REFUSALS = {
	401: { description: 'Not signed in.' },
	403: { description: 'This role may not; the message says who may.' },
	422: { description: 'Refused in words: issues with field, value and what to do.' },
	503: { description: 'The database is away; Retry-After says when to try again.' }
};

/** The description of the API in OpenAPI 3.0, made from the schemas that the routes read their bodies through. */
export function openApi(): object {
	const paths: Record<string, Record<string, unknown>> = {};
	const add = (path: string, method: string, operation: object) => ((paths[path] ??= {})[method] = operation);
	for (const { method, path, who, summary, query, body, contentType, example, answers } of ROUTES)
		add(path, method, {
			summary,
			description: WHO_WORDS[who] ?? `Who may: the plant’s table of actions, action ${who}.`,
			parameters: [
				...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
				...Object.entries(query ?? {}).map(([name, description]) => ({ name, in: 'query', description, schema: { type: 'string' } }))
			],
			...(body || contentType
				? {
						requestBody: {
							required: true,
							content: {
								[contentType ?? 'application/json']: {
									...(body ? { schema: schemaOf(body) } : {}),
									...(example === undefined ? {} : { example })
								}
							}
						}
					}
				: {}),
			responses: { 200: { description: answers ?? 'JSON.' }, ...REFUSALS }
		});
	for (const { name, summary, input, example } of CALCULATIONS)
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
			securitySchemes: {
				machine: { type: 'http', scheme: 'bearer' },
				person: { type: 'apiKey', in: 'cookie', name: 'better-auth.session_token' }
			}
		},
		security: [{ machine: [] }, { person: [] }],
		paths
	};
}
