import { readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';
import { bodies } from './bodies.ts';
import { CALCULATIONS } from './calc/index.ts';
import { openApi } from './openapi.ts';
import { ROUTES } from './routes.ts';

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

/** Routes as the file system has them: folder names are the paths, exported functions the methods. */
function routesThatThereAre(): string[] {
	const root = fileURLToPath(new URL('../../routes/', import.meta.url));
	return (readdirSync(root, { recursive: true }) as string[])
		.filter((path) => path.startsWith('api/v1/') && path.endsWith('+server.ts'))
		.map((path) => `/${path.replace(/\/\+server\.ts$/, '').replace(/\[(\w+)\]/g, '{$1}')}`)
		.filter((path) => path !== '/api/v1/calc/{name}');
}

test('every route is described, and nothing else is', () => {
	expect([...new Set(ROUTES.map((route) => route.path))].sort()).toEqual(routesThatThereAre().sort());
});

test('every body that is read has an example that it takes', () => {
	for (const { path, body, example } of ROUTES) if (body) expect(body.safeParse(example).error?.issues, path).toBeUndefined();
	const described = new Set(ROUTES.map((route) => route.body));
	expect(Object.entries(bodies).filter(([, body]) => !described.has(body))).toEqual([]);
});

test('the description is whole: a path for every route and calculation, each with schema and example', () => {
	const { paths, openapi } = openApi() as {
		openapi: string;
		paths: Record<string, Record<string, { summary: string; requestBody?: { content: object } }>>;
	};
	expect(openapi).toBe('3.0.3');
	for (const { name } of CALCULATIONS) {
		const content = paths[`/api/v1/calc/${name}`]!.post!.requestBody!.content as {
			'application/json': { schema: { type: string }; example: object };
		};
		expect(content['application/json'].schema.type, name).toBe('object');
		expect(content['application/json'].example).toBeTypeOf('object');
	}
	for (const { method, path } of ROUTES) expect(paths[path]![method]!.summary.length, path).toBeGreaterThan(5);
});
