import { randomUUID } from 'node:crypto';
import { expect, request, test } from '@playwright/test';

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
	const api = await machine();
	expect((await api.get('/boards', { maxRedirects: 0 })).status()).toBe(401);
	expect((await api.post('/api/v1/runs', { data: { jobId: 1, lineId: 1 } })).status()).toBe(401);
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
		['/api/v1/runs', { jobId: 1, lineId: 1 }]
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
	const cold = await api.post('/api/v1/recipes', {
		data: { sideId: 1, lineId: 1, pasteId: 1, setC: [60, 60, 60, 60, 60, 60, 60, 60, 60, 60], beltCmPerMin: 70 }
	});
	expect(cold.status()).toBe(422);
	expect((await cold.json()).message).toContain('Not released. Do not run');
	const job = await api.post('/api/v1/jobs', { data: { number: ' ', boardRevisionId: 1, panels: 0.5 } });
	expect((await job.json()).issues.map((issue: { field: string }) => issue.field)).toEqual(['number', 'panels']);
});
