import { createServer, type Server } from 'node:http';
import { afterEach, describe, expect, test } from 'vitest';
import { Away, MachineApi } from './api.ts';
import { Sender, type Sent } from './message.ts';

let server: Server | null = null;
afterEach(() => server?.close());

/** A server that answers as it is told and keeps what it was sent. */
async function listen(answer: (path: string, body: string) => { status: number; body: unknown }) {
	const seen: { path: string; body: string; authorization: string | undefined }[] = [];
	server = createServer((request, response) => {
		let body = '';
		request.on('data', (chunk) => (body += chunk));
		request.on('end', () => {
			seen.push({ path: request.url ?? '', body, authorization: request.headers.authorization });
			const { status, body: out } = answer(request.url ?? '', body);
			response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(out));
		});
	});
	await new Promise<void>((resolve) => server!.listen(0, '127.0.0.1', resolve));
	const address = server.address();
	if (address === null || typeof address === 'string') throw new Error('no port');
	return { seen, url: `http://127.0.0.1:${address.port}` };
}

const message = (number: number, extra: object = {}): Sent => ({
	source: 'Line 1/Print',
	bootId: 'b',
	number,
	at: '2026-11-25T09:00:00Z',
	type: 'state',
	...extra
});
const numbers = (body: string) => body.split('\n').map((line) => (JSON.parse(line) as Sent).number);

describe('the adapter of a machine', () => {
	test('sends what waits in order, one object a line, with its token', async () => {
		const { seen, url } = await listen(() => ({ status: 200, body: { quarantined: [] } }));
		const api = new MachineApi(url, 'secret');
		for (let i = 0; i < 5; i++) api.enqueue(message(i));
		expect(await api.flush()).toEqual([]);
		expect(seen).toHaveLength(1);
		expect(seen[0]).toMatchObject({ path: '/api/v1/messages', authorization: 'Bearer secret' });
		expect(numbers(seen[0]!.body)).toEqual([0, 1, 2, 3, 4]);
	});

	test('keeps everything while the server is away and sends it in order when it is back', async () => {
		let away = true;
		const { seen, url } = await listen(() => (away ? { status: 503, body: {} } : { status: 200, body: { quarantined: [] } }));
		const api = new MachineApi(url, 't');
		api.enqueue(message(0));
		api.enqueue(message(1));
		await expect(api.flush()).rejects.toThrow('messages: 503');
		api.enqueue(message(2));
		away = false;
		await api.flush();
		expect(numbers(seen.at(-1)!.body)).toEqual([0, 1, 2]);
	});

	test('a server without its database says when to try again', async () => {
		server = createServer((_request, response) => response.writeHead(503, { 'retry-after': '7' }).end('{}'));
		await new Promise<void>((resolve) => server!.listen(0, '127.0.0.1', resolve));
		const address = server.address() as { port: number };
		const api = new MachineApi(`http://127.0.0.1:${address.port}`, 't');
		api.enqueue(message(0));
		const waiting = api.waitingBytes;
		const error = await api.flush().catch((caught: unknown) => caught);
		expect(error).toBeInstanceOf(Away);
		expect((error as Away).retryAfterS).toBe(7);
		expect(api.waitingBytes).toBe(waiting);
	});

	test('what waits is counted, and let go of once it was taken', async () => {
		const { url } = await listen(() => ({ status: 200, body: { quarantined: [] } }));
		const api = new MachineApi(url, 't');
		for (let i = 0; i < 3; i++) api.enqueue(message(i));
		expect(api.waitingBytes).toBe(3 * JSON.stringify(message(0)).length);
		await api.flush();
		expect(api.waitingBytes).toBe(0);
	});

	test('large batches are divided, nothing is lost or sent twice', async () => {
		const { seen, url } = await listen(() => ({ status: 200, body: { quarantined: [] } }));
		const api = new MachineApi(url, 't');
		for (let i = 0; i < 12; i++) api.enqueue(message(i, { filler: 'x'.repeat(1e6) }));
		await api.flush();
		expect(seen.length).toBeGreaterThan(1);
		expect(seen.flatMap((entry) => numbers(entry.body))).toEqual(Array.from({ length: 12 }, (_, i) => i));
	});

	test('what the server put aside is handed back', async () => {
		const { url } = await listen(() => ({ status: 200, body: { quarantined: [{ line: 1, reason: 'unknown panel' }] } }));
		const api = new MachineApi(url, 't');
		api.enqueue(message(0));
		expect(await api.flush()).toEqual([{ line: 1, reason: 'unknown panel' }]);
		// And is not sent again: it is kept over there.
		expect(await api.flush()).toEqual([]);
	});

	test('asks for the work it does not know yet', async () => {
		const { seen, url } = await listen(() => ({ status: 200, body: { work: null, stations: [] } }));
		const api = new MachineApi(url, 't');
		await api.work(3, null);
		await api.work(3, 17);
		expect(seen.map((entry) => entry.path)).toEqual(['/api/v1/lines/3/work', '/api/v1/lines/3/work?known=17']);
	});

	test('a refusal names the path and the status', async () => {
		const { url } = await listen(() => ({ status: 401, body: { message: 'A machine token is needed.' } }));
		await expect(new MachineApi(url, '').clock()).rejects.toThrow(/GET \/api\/v1\/clock: 401.*token is needed/);
	});
});

test('a sender numbers its own messages and stamps them with plant time', () => {
	const out: Sent[] = [];
	const sender = new Sender('Line 1/Oven', 'boot', (m) => out.push(m));
	sender.send(Date.UTC(2026, 0, 2, 3), 'state', { state: 'running' });
	sender.send(Date.UTC(2026, 0, 2, 4), 'oven_pass', { panel: 'P' });
	expect(out.map((m) => [m.number, m.type, m.at])).toEqual([
		[0, 'state', '2026-01-02T03:00:00.000Z'],
		[1, 'oven_pass', '2026-01-02T04:00:00.000Z']
	]);
});
