import { randomUUID } from 'node:crypto';
import { may, type Role } from '@keen-relay/core/people';
import { expect, request, test, type APIRequestContext } from './test.ts';
import type { Who } from '../src/lib/api/openapi.ts';

const token = process.env.MACHINE_TOKEN ?? '';
const machine = () => request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { authorization: `Bearer ${token}` } });

test('machine messages: counted once, conflicts and bad lines kept aside and reported by line', async () => {
	const api = await machine();
	const { now } = await (await api.get('/api/v1/clock')).json();
	const bootId = randomUUID();
	const message = (number: number, fields: object) =>
		JSON.stringify({ source: 'Line 1/Print', bootId, number, at: now, type: 'state', state: 'running', ...fields });
	const post = async (lines: string[]) =>
		(await api.post('/api/v1/messages', { data: lines.join('\n'), headers: { 'content-type': 'application/x-ndjson' } })).json();

	expect(await post([message(0, {}), message(1, {})])).toMatchObject({ received: 2, accepted: 2, duplicates: 0, quarantined: [] });
	const again = await post([
		message(0, {}),
		message(1, { state: 'idle' }),
		'not json',
		message(2, { type: 'teleport' }),
		message(3, { source: 'Line 9/Print' }),
		message(4, { at: new Date(Date.parse(now) + 3_600_000).toISOString() }),
		message(5, { type: 'placement', panel: 'J-2411-0001', cycleS: 20 }),
		message(6, { source: 'Line 1/Oven', type: 'oven_pass', panel: 'NO-SUCH', enteredAt: now, zoneC: [100], beltCmPerMin: 70 })
	]);
	expect(again).toMatchObject({ received: 8, accepted: 0, duplicates: 1 });
	expect(again.received).toBe(again.accepted + again.duplicates + again.quarantined.length);
	const reasons = Object.fromEntries(again.quarantined.map((q: { line: number; reason: string }) => [q.line, q.reason]));
	expect(reasons[2]).toContain('other content');
	expect(reasons[3]).toBe('not JSON');
	expect(reasons[4]).toContain('type');
	expect(reasons[5]).toContain('unknown source "Line 9/Print"');
	expect(reasons[6]).toContain('in the future');
	expect(reasons[7]).toContain('a print station does not report placement');
	expect(reasons[8]).toContain('unknown panel "NO-SUCH"');
});

test('without a session nothing but sign-in and health is open; a machine token opens no page', async () => {
	const stranger = await request.newContext({ baseURL: process.env.BASE_URL! });
	expect((await stranger.get('/healthz')).status()).toBe(200);
	for (const path of ['/api/v1/clock', '/api/v1/lines', '/api/v1/sides/1/geometry', '/api/v1/stream', '/api/v1/find?code=x'])
		expect((await stranger.get(path)).status(), path).toBe(401);
	expect((await stranger.get('/boards', { maxRedirects: 0 })).headers().location).toContain('/sign-in');
	expect((await stranger.post('/api/v1/messages', { data: '{}' })).status()).toBe(401);
	expect((await stranger.post('/api/v1/calc/transfer', { data: { areaRatio: 0.7 } })).status()).toBe(401);
	expect((await stranger.get('/sheets/load-list?line=1&station=3', { maxRedirects: 0 })).status()).toBe(303);
	const api = await machine();
	expect((await api.get('/boards', { maxRedirects: 0 })).status()).toBe(401);
	expect((await api.post('/api/v1/runs', { data: { jobId: 1, sideId: 1, lineId: 1 } })).status()).toBe(401);
	// An engineer's script computes with a token.
	expect(await (await api.post('/api/v1/calc/transfer', { data: { areaRatio: 0.66 } })).json()).toMatchObject({
		efficiency: expect.closeTo(0.7996, 3)
	});
	expect((await api.post('/api/v1/calc/teleport', { data: {} })).status()).toBe(404);
});

test('the role decides: an operator releases nothing, and the refusal says who may', async () => {
	const api = await request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { origin: process.env.BASE_URL! } });
	expect((await api.post('/api/auth/sign-in/username', { data: { username: 'edda', password: '2005' } })).status()).toBe(200);
	const refused = await api.post('/api/v1/stencils', { data: { sideId: 1, foilUm: 100, wall: 'laser' } });
	expect(refused.status()).toBe(403);
	expect((await refused.json()).message).toContain('Ask: engineer, lead');
	for (const [path, data] of [
		['/api/v1/people', { name: 'X', badge: 'x1', pin: '1234', role: 'lead' }],
		['/api/v1/programs', { sideId: 1, lineId: 1 }],
		['/api/v1/jobs', { number: 'X', boardRevisionId: 1, panels: 1 }],
		['/api/v1/runs', { jobId: 1, sideId: 1, lineId: 1 }]
	] as const)
		expect((await api.post(path, { data })).status(), path).toBe(403);
	expect((await api.put('/api/v1/clock', { data: { now: new Date().toISOString(), rate: 1 } })).status()).toBe(403);
});

test('bad input names field and value', async () => {
	const api = await request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { origin: process.env.BASE_URL! } });
	await api.post('/api/auth/sign-in/username', { data: { username: 'basil', password: '2002' } });
	const thick = await api.post('/api/v1/stencils', { data: { sideId: 1, foilUm: 900, wall: 'laser' } });
	expect(thick.status()).toBe(422);
	expect((await thick.json()).message).toContain('foilMm: expected 0.03 to 0.3 mm, received 0.9');
	const nobodys = await api.post('/api/v1/stencils', { data: { sideId: 1, foilUm: 100, wall: 'laser', ownLimits: { 99999: 0.7 } } });
	expect(nobodys.status()).toBe(422);
	expect((await nobodys.json()).issues[0]).toMatchObject({ field: 'ownLimits', value: '99999' });
	const cold = await api.post('/api/v1/recipes', {
		data: { sideId: 1, lineId: 1, pasteId: 1, setC: [60, 60, 60, 60, 60, 60, 60, 60, 60, 60], beltCmPerMin: 70 }
	});
	expect(cold.status()).toBe(422);
	expect((await cold.json()).message).toContain('Not released. Do not run');
	const job = await api.post('/api/v1/jobs', { data: { number: ' ', boardRevisionId: 1, panels: 0.5 } });
	expect((await job.json()).issues.map((issue: { field: string }) => issue.field)).toEqual(['number', 'panels']);
});

const BADGES = {
	operator: ['edda', '2005'],
	technician: ['anwen', '2001'],
	engineer: ['basil', '2002'],
	quality: ['corin', '2003'],
	lead: ['dessa', '200468']
} as const;

type Method = 'get' | 'post' | 'put' | 'delete';

/** Every route, as the running application describes itself. */
async function describedRoutes(api: APIRequestContext): Promise<{ method: Method; path: string; who: Who }[]> {
	const { paths } = (await (await api.get('/api/v1/openapi.json')).json()) as { paths: Record<string, Record<Method, { 'x-who': Who }>> };
	return Object.entries(paths)
		.flatMap(([path, methods]) => (Object.keys(methods) as Method[]).map((method) => ({ method, path, who: methods[method]['x-who'] })))
		.filter(({ path }) => path !== '/api/v1/stream' && !path.startsWith('/api/v1/calc/'));
}

/** A path with something in every place that a route leaves open: nothing that exists, so that nothing is changed. */
const filled = (path: string) =>
	path
		.replace('{action}', 'run.end')
		.replace('{subject}', 'nothing')
		.replace('{serial}', 'NONE')
		.replace(/\{\w+\}/g, '2147483647');

/** Whether a route answers this role, from the description of the API and the table of actions. */
const answers = (who: Who, role: Role) => {
	if (who === 'machine' || who === 'stationPc') return false;
	// Who begins an empty plant shows a code: here there is a lead, and everybody is told so.
	if (who === 'signedIn' || who === 'person' || who === 'calculation' || who === 'badgeAndPin' || who === 'firstLead') return true;
	return may(role, who);
};

for (const [role, [badge, pin]] of Object.entries(BADGES) as [Role, [string, string]][])
	test(`no route answers ${role} that should not, and every other one does`, async () => {
		const api = await request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { origin: process.env.BASE_URL! } });
		expect((await api.post('/api/auth/sign-in/username', { data: { username: badge, password: pin } })).status()).toBe(200);
		const routes = await describedRoutes(api);
		expect(routes.length).toBeGreaterThan(70);
		for (const { method, path, who } of routes) {
			const status = (await api[method](filled(path), method === 'get' ? {} : { data: {} })).status();
			const what = `${role} ${method} ${path}`;
			// Whoever may, is told what is wrong with an empty body, or that there is no such thing; whoever may not, is told who may.
			if (answers(who, role)) expect([200, 404, 422], what).toContain(status);
			else expect([401, 403], what).toContain(status);
		}
	});

test('a machine token is answered where machines and everybody are, and nowhere else', async () => {
	const api = await machine();
	for (const { method, path, who } of await describedRoutes(api)) {
		const status = (await api[method](filled(path), method === 'get' ? {} : { data: {} })).status();
		if (who === 'signedIn' || who === 'machine') expect([200, 404, 422], `${method} ${path}`).toContain(status);
		else if (who !== 'badgeAndPin' && who !== 'firstLead') expect(status, `${method} ${path}`).toBe(401);
	}
});

/** A panel of the frost sensor that line 1 builds today, and its run. */
async function rawPanel(api: APIRequestContext): Promise<{ serial: string; run: number }> {
	const work = await (await (await machine()).get('/api/v1/lines/1/work')).json();
	const serial = `${work.work.job}-0003`;
	expect((await api.get(`/api/v1/panels/${serial}/paste`)).status()).toBe(200);
	return { serial, run: work.work.runId };
}

test('what people may read: geometry, plan, readings, one pad’s history', async () => {
	const api = await request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { origin: process.env.BASE_URL! } });
	await api.post('/api/auth/sign-in/username', { data: { username: 'anwen', password: '2001' } });
	const geometry = await (await api.get('/api/v1/sides/1/geometry')).json();
	expect(geometry.apertures).toHaveLength(440);
	expect(geometry.parts).toHaveLength(144);
	// Yesterday's pads are kept one by one; of older days there are sums.
	const { serial, run } = await rawPanel(api);
	const readings = await (await api.get(`/api/v1/panels/${serial}/paste`)).json();
	expect(readings.volumePct).toHaveLength(440 * 4);
	expect(Math.min(...readings.volumePct)).toBeGreaterThanOrEqual(0);
	const history = await (await api.get(`/api/v1/sides/1/pads/100?run=${run}`)).json();
	// One pad's history and one panel's picture are the same readings.
	expect(history.find((h: { serial: string }) => h.serial === serial).volumePct).toBeCloseTo(readings.volumePct[100], 6);
	expect((await api.get('/api/v1/panels/J-2411-0003/paste')).status()).toBe(404);
	const plan = await (await api.get('/api/v1/sides/1/plan?line=1')).json();
	expect(plan.machines).toHaveLength(2);
	for (const path of [
		'/api/v1/sides/99/geometry',
		'/api/v1/sides/1/pads/-1?run=1',
		'/api/v1/sides/1/pads/1?run=999',
		'/api/v1/panels/NONE/paste'
	])
		expect((await api.get(path)).status(), path).toBe(404);
});

test('a line builds one thing at a time, and only what is ready', async () => {
	const api = await request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { origin: process.env.BASE_URL! } });
	await api.post('/api/auth/sign-in/username', { data: { username: 'dessa', password: '200468' } });
	const busy = await api.post('/api/v1/runs', { data: { jobId: 1, sideId: 2, lineId: 1 } });
	expect(busy.status()).toBe(422);
	expect((await busy.json()).message).toMatch(/The line is building J-\d+. End that run first./);
	const { id: lineId } = await (
		await api.post('/api/v1/lines', { data: { name: 'Bench', stations: [{ role: 'print', name: 'Print', spec: { cycleS: 20 } }] } })
	).json();
	const unready = await api.post('/api/v1/runs', { data: { jobId: 1, sideId: 2, lineId } });
	expect(unready.status()).toBe(422);
	const words = (await unready.json()).issues.map((issue: { message: string }) => issue.message).join(' ');
	expect(words).toContain('a released placement program is missing');
	expect(words).toContain('a released oven recipe is missing');
	expect(words).not.toContain('stencil');
	const again = (spec: object) =>
		api.post('/api/v1/lines', { data: { name: 'Bench', stations: [{ role: 'print', name: 'Print', spec }] } });
	expect((await again({ cycleS: 20 })).status()).toBe(409);
	// A station is entered with the machine data of its kind.
	const bare = await again({});
	expect(bare.status()).toBe(422);
	expect((await bare.json()).issues[0].field).toBe('stations.0.spec.cycleS');
});
