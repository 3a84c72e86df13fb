import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect, request, test } from './test.ts';
import { proveSetUp, releaseFirstPrints, signIn } from './people.ts';

const SCRIPT = fileURLToPath(new URL('../../bin/database.mjs', import.meta.url));
const database = (what: 'stop' | 'start') => {
	const done = spawnSync(process.execPath, [SCRIPT, what], { encoding: 'utf8' });
	expect(done.status, done.stderr).toBe(0);
};

// Last of all files: the database is taken away under load and given back.
test('the database stops and starts under load: pages stay, nothing is saved, nothing is lost', async ({ page }) => {
	const machine = await request.newContext({
		baseURL: process.env.BASE_URL!,
		extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}` }
	});
	await signIn(page, 'dessa', '200468');
	// A run of its own, long enough: what line 1 builds by now depends on the tests before.
	const running = (await (await machine.get('/api/v1/lines/1/work')).json()).work;
	if (running && !running.ended) await page.request.post(`/api/v1/runs/${running.runId}/end`);
	const { id: jobId } = await (
		await page.request.post('/api/v1/jobs', { data: { number: 'J-9900', boardRevisionId: 1, panels: 900 } })
	).json();
	const started = await page.request.post('/api/v1/runs', { data: { jobId, sideId: 1, lineId: 1 } });
	expect(started.status()).toBe(201);
	await proveSetUp(page, 1);
	await releaseFirstPrints(page, (await started.json()).id);
	await expect
		.poll(async () => (await (await machine.get('/api/v1/lines/1/work')).json()).work.printed, { timeout: 120_000 })
		.toBeGreaterThan(3);
	await page.goto('/line/1/print');
	await expect(page.getByTestId('verdict')).toBeVisible();
	const { work: before } = await (await machine.get('/api/v1/lines/1/work')).json();

	database('stop');
	try {
		await expect(page.getByTestId('away')).toBeVisible({ timeout: 30_000 });
		expect(await page.getByTestId('verdict').innerText()).not.toBe('');
		expect((await page.request.get('/healthz')).status()).toBe(503);
		const message = {
			source: 'Line 1/Print',
			bootId: '99999999-2222-4333-8444-555555555555',
			number: 0,
			at: '2026-11-25T00:00:00Z',
			type: 'state',
			state: 'running'
		};
		const refused = await machine.post('/api/v1/messages', { data: JSON.stringify(message) });
		expect(refused.status()).toBe(503);
		expect(Number(refused.headers()['retry-after'])).toBeGreaterThan(0);
		const job = await page.request.post('/api/v1/jobs', { data: { number: 'J-7777', boardRevisionId: 1, panels: 5 } });
		expect(job.status()).toBe(503);
		expect((await job.json()).message).toContain('Nothing was changed');
		// Going elsewhere says what is the matter and waits; nobody is sent to sign in.
		await page.goto('/boards');
		await expect(page.getByRole('alert')).toContainText('The database cannot be reached just now');
		// The page asks again by itself, three times; meanwhile the machines build on and keep their messages.
		for (const _ of [1, 2, 3]) await page.waitForResponse((response) => response.status() === 503);
	} finally {
		database('start');
	}

	await expect(page.getByRole('heading', { name: 'Boards' })).toBeVisible({ timeout: 60_000 });
	await page.goto('/line/1/print');
	await expect(page.getByTestId('away')).toHaveCount(0);
	await expect
		.poll(async () => (await (await machine.get('/api/v1/lines/1/work')).json()).work.printed, { timeout: 60_000 })
		.toBeGreaterThan(before.printed);
	// Every print that was made meanwhile has come in, in order and once.
	await page.goto(`/panels?find=${before.job}-`);
	const serials = await page.locator('tbody tr td:first-child a').allInnerTexts();
	const numbers = [...new Set(serials.map((serial) => Number(serial.slice(-4))))].sort((a, b) => a - b);
	expect(numbers).toEqual(Array.from({ length: numbers.length }, (_, i) => numbers[0]! + i));
	await page.goto('/plant/machines');
	const cells = await page
		.getByTestId('sources')
		.locator('tbody tr')
		.evaluateAll((rows) => rows.map((row) => [...row.querySelectorAll('td')].slice(1, 5).map((cell) => Number(cell.textContent))));
	for (const [received, accepted, duplicates, quarantined] of cells) expect(received).toBe(accepted! + duplicates! + quarantined!);
});
