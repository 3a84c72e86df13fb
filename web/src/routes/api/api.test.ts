import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';
import { bodies } from '$lib/api/bodies.ts';
import { CALCULATIONS } from '$lib/api/calc/index.ts';
import { openApi } from '$lib/api/openapi.ts';
import { MESSAGE_EXAMPLE, MESSAGES } from '$lib/server/stations/index.ts';
import { describedRoutes } from './described.ts';

test.each(CALCULATIONS.map((c) => [c.name, c] as const))('%s computes its own example', async (_name, { input, example, run }) => {
	const result = await run(input.parse(example) as never);
	expect(result).toBeTypeOf('object');
	// Plain JSON out: what goes over the wire says the same.
	const sent = JSON.parse(JSON.stringify(result)) as object;
	expect(Object.keys(sent).length).toBeGreaterThan(0);
	expect(JSON.stringify(sent)).not.toContain('undefined');
});

test('a wrong input names the field', () => {
	const transfer = CALCULATIONS.find((c) => c.name === 'transfer')!;
	expect(transfer.input.safeParse({ areaRatio: -1 }).error!.issues[0]!.path).toEqual(['areaRatio']);
	expect(transfer.input.safeParse({ areaRatio: 0.66, wall: 'butter' }).error!.issues[0]!.path).toEqual(['wall']);
});

test('known values come out of the API as they do of the core', async () => {
	const call = (name: string, body: unknown) => {
		const { input, run } = CALCULATIONS.find((c) => c.name === name)!;
		return run(input.parse(body) as never) as Promise<Record<string, number>>;
	};
	expect((await call('oven_headway', { panelLengthMm: 300, gapMm: 60, beltCmPerMin: 75 })).secondsPerPanel).toBeCloseTo(28.8, 9);
	expect(await call('axis_time', { distanceMm: 100, axis: { vMmS: 1000, aMmS2: 10000 } })).toEqual({ timeS: 0.2 });
	expect((await call('transfer', { areaRatio: 0.66 })).efficiency).toBeCloseTo(0.7996, 4);
	expect((await call('wilson_interval', { count: 97, total: 100 })).low).toBeCloseTo(0.9155, 4);
});

const ROUTES = await describedRoutes();

test('every method of every route is one definition', () => {
	const root = fileURLToPath(new URL('./v1/', import.meta.url));
	const files = (readdirSync(root, { recursive: true }) as string[]).filter((path) => path.endsWith('+server.ts'));
	const exported = files.flatMap((file) => {
		const path = `/api/v1/${file.replace(/\/\+server\.ts$/, '').replace(/\[(\w+)\]/g, '{$1}')}`;
		return [...readFileSync(root + file, 'utf8').matchAll(/^export (?:const|(?:async )?function) ([A-Z]+)\b/gm)].map(
			([, method]) => `${method} ${path}`
		);
	});
	expect(exported.length).toBeGreaterThan(70);
	expect(ROUTES.map(({ method, path }) => `${method} ${path}`).sort()).toEqual(exported.sort());
});

test('every body that is read has an example that it takes', () => {
	for (const { path, body, example } of ROUTES) if (body) expect(body.safeParse(example).error?.issues, path).toBeUndefined();
	const described = new Set(ROUTES.map((route) => route.body));
	expect(Object.entries(bodies).filter(([, body]) => !described.has(body))).toEqual([]);
});

test('what changes something asks for a right, a badge or a token', () => {
	const open = ROUTES.filter(({ method, who }) => method !== 'GET' && who === 'signedIn').map(({ method, path }) => `${method} ${path}`);
	expect(open).toEqual([]);
});

test('the description is whole: a path for every route and calculation, each with schema and example', () => {
	const { paths, openapi, components } = openApi(ROUTES, CALCULATIONS, MESSAGES) as {
		openapi: string;
		paths: Record<
			string,
			Record<string, { summary: string; parameters: { name: string; required: boolean }[]; requestBody?: { content: object } }>
		>;
		components: { schemas: Record<string, { title: string; properties: object }> };
	};
	expect(openapi).toBe('3.0.3');
	for (const { name } of CALCULATIONS) {
		const content = paths[`/api/v1/calc/${name}`]!.post!.requestBody!.content as {
			'application/json': { schema: { type: string }; example: object };
		};
		expect(content['application/json'].schema.type, name).toBe('object');
		expect(content['application/json'].example).toBeTypeOf('object');
	}
	for (const { method, path } of ROUTES) expect(paths[path]![method.toLowerCase()]!.summary.length, path).toBeGreaterThan(5);
	// A query's parts are said with whether they are needed.
	expect(paths['/api/v1/sides/{id}/plan']!.get!.parameters.map(({ name, required }) => [name, required])).toEqual([
		['id', true],
		['line', true]
	]);
	expect(paths['/api/v1/panels/{serial}/paste']!.get!.parameters[1]).toMatchObject({ name: 'pass', required: false });
	// Every message that a machine may send, by the schema that reads it.
	const { oneOf } = (paths['/api/v1/messages']!.post!.requestBody!.content as Record<string, { schema: { oneOf: { $ref: string }[] } }>)[
		'application/x-ndjson'
	]!.schema;
	expect(oneOf.map(({ $ref }) => $ref.replace('#/components/schemas/message.', ''))).toEqual(MESSAGES.map(({ type }) => type));
	expect(components.schemas['message.placement']!.properties).toHaveProperty('bootId');
	expect(MESSAGES.find(({ type }) => type === 'state')!.schema.safeParse(JSON.parse(MESSAGE_EXAMPLE)).success).toBe(true);
});
