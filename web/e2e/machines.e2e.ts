import { randomUUID } from 'node:crypto';
import { expect, request, test, type Page } from './test.ts';
import { signIn } from './people.ts';

const withToken = (token: string) =>
	request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { authorization: `Bearer ${token}` } });

const row = (page: Page, source: string) => page.getByTestId('sources').getByRole('row', { name: source });

test('a machine with a token of its own restarts and resends: everything counts once', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.request.post('/api/v1/lines', { data: { name: 'Lab', stations: [{ role: 'print', name: 'Print', spec: { cycleS: 20 } }] } });
	await page.goto('/plant/machines');
	await page.getByLabel('Which machine or program').fill('Lab printer');
	await page.getByRole('button', { name: 'Make a token' }).click();
	const shown = page.getByTestId('new-token');
	await expect(shown).toContainText('It is shown this once');
	const token = (await shown.locator('p').nth(1).innerText()).trim();
	await page.getByRole('button', { name: 'I have it' }).click();
	expect(await page.content()).not.toContain(token);

	const machine = await withToken(token);
	const { now } = await (await machine.get('/api/v1/clock')).json();
	const message = (bootId: string, number: number, more: object = {}) =>
		JSON.stringify({ source: 'Lab/Print', bootId, number, at: now, type: 'state', state: 'running', ...more });
	const post = async (lines: string[]) => (await machine.post('/api/v1/messages', { data: lines.join('\n') })).json();
	const [before, after] = [randomUUID(), randomUUID()];
	const batch = [0, 1, 2].map((n) => message(before, n));
	expect(await post(batch)).toMatchObject({ received: 3, accepted: 3 });
	// The answer was lost: the same is sent again. Then the machine starts anew, and counts from 0.
	expect(await post(batch)).toMatchObject({ received: 3, accepted: 0, duplicates: 3 });
	expect(await post([message(after, 0), message(after, 1)])).toMatchObject({ received: 2, accepted: 2, duplicates: 0 });
	// The same identity twice in one batch with other content is a conflict, kept aside.
	expect(await post([message(after, 2), message(after, 2, { state: 'idle' })])).toMatchObject({ received: 2, accepted: 1 });
	await expect(row(page, 'Lab/Print')).toHaveText(/Lab\/Print\s*10\s*6\s*3\s*1/);

	await test.step('what is kept aside is corrected and admitted, and the counts follow', async () => {
		await post([message(after, 3, { state: 'asleep' })]);
		const entry = page.getByTestId('quarantine').locator('li').filter({ hasText: 'state' }).filter({ hasText: 'Lab/Print' }).last();
		await expect(entry).toBeVisible();
		await entry.getByRole('button', { name: 'Correct' }).click();
		const field = page.getByLabel('The message, corrected');
		await field.fill((await field.inputValue()).replace('asleep', 'drowsy'));
		await page.getByRole('button', { name: 'Admit it' }).click();
		await expect(page.getByText(/Not admitted: .*state/)).toBeVisible();
		await field.fill((await field.inputValue()).replace('drowsy', 'waiting'));
		await page.getByRole('button', { name: 'Admit it' }).click();
		await expect(page.getByText('Admitted', { exact: true })).toBeVisible();
		await expect(row(page, 'Lab/Print')).toHaveText(/Lab\/Print\s*11\s*7\s*3\s*1/);
		// Its place in the ledger is taken now: the same number again is a duplicate or a conflict, never a second count.
		expect(await post([message(after, 3, { state: 'waiting' })])).toMatchObject({ accepted: 0 });
	});

	await test.step('a conflict is left out, and undone', async () => {
		const entry = page
			.getByTestId('quarantine')
			.locator('li')
			.filter({ hasText: 'other content' })
			.filter({ hasText: 'Lab/Print' })
			.first();
		// Where nothing is kept aside the list says so in a line of its own.
		const entries = page
			.getByTestId('quarantine')
			.locator('li')
			.filter({ has: page.getByRole('button') });
		const count = await entries.count();
		await entry.getByRole('button', { name: 'Leave out' }).click();
		await expect(entries).toHaveCount(count - 1);
		await page.getByRole('button', { name: 'Undo' }).click();
		await expect(entries).toHaveCount(count);
	});

	await test.step('a revoked token opens nothing', async () => {
		await page.getByTestId('tokens').getByRole('row', { name: 'Lab printer' }).getByRole('button', { name: 'Revoke' }).click();
		await expect(page.getByTestId('tokens').getByRole('row', { name: 'Lab printer' })).toContainText('revoked');
		expect((await machine.get('/api/v1/clock')).status()).toBe(401);
	});
});

test('a panel whose two sides were built shows both passes', async ({ page }) => {
	await signIn(page, 'corin', '2003');
	await page.goto('/panels/J-2412-0001');
	const tabs = page.getByRole('tab');
	await expect(tabs).toHaveText([/Pass 1, bottom side, Line 2/, /Pass 2, top side, Line 2/]);
	await expect(page.getByText('top side on Line 2: finished')).toBeVisible();
	await tabs.first().click();
	await expect(page.getByText('bottom side on Line 2: finished')).toBeVisible();
	await expect(page.getByText('FB-R-2K2-0603').first()).toBeVisible();
});

test('the API page computes an example, and says what is wrong with another', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/plant/machines/api');
	await page.getByRole('button', { name: 'oven_headway' }).click();
	await page.getByRole('button', { name: 'Compute' }).click();
	await expect(page.getByTestId('result')).toContainText('"secondsPerPanel": 28.8');
	await page.getByLabel('Input, JSON').fill('{"panelLengthMm":-1,"gapMm":60,"beltCmPerMin":75}');
	await page.getByRole('button', { name: 'Compute' }).click();
	await expect(page.getByTestId('result')).toContainText('panelLengthMm');
	const described = await (await page.request.get('/api/v1/openapi.json')).json();
	expect(Object.keys(described.paths).length).toBeGreaterThan(80);
});

test('sheets print as PDF in a tab of their own', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/place/3');
	const link = page.getByRole('link', { name: 'Load list, PDF' });
	await expect(link).toHaveAttribute('target', '_blank');
	for (const href of [await link.getAttribute('href'), '/sheets/hand-over?line=1&of=2026-11-01+Early']) {
		const answer = await page.request.get(href!);
		expect(answer.headers()['content-type']).toBe('application/pdf');
		const body = await answer.body();
		expect(body.subarray(0, 5).toString()).toBe('%PDF-');
		expect(body.length).toBeGreaterThan(4000);
	}
	expect((await page.request.get('/sheets/hand-over?line=1&of=2026-11-01+Noon')).status()).toBeGreaterThanOrEqual(400);
});

test('a thermocouple log is drawn beside the prediction; one that cannot be read is refused in words', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/oven?side=1');
	await expect(page.getByTestId('measured')).toHaveCount(3);
	const choose = (name: string, text: string) =>
		page.getByLabel('Thermocouple log, CSV').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
	await choose('notes.csv', 'hello\n1,2\n');
	await expect(page.getByText(/No header line was found/)).toBeVisible();
	const rise = (i: number) => (i < 500 ? 25 + (220 * i) / 500 : 245 - (i - 500) * 1.2);
	await choose(
		'ours.csv',
		`Zeit;TC1 rail;TC2 U1\n${Array.from({ length: 600 }, (_, i) => `${(i / 2).toFixed(1).replace('.', ',')};${rise(i).toFixed(1).replace('.', ',')};${(rise(i) - 4).toFixed(1).replace('.', ',')}`).join('\n')}`
	);
	await expect(page.getByTestId('measured')).toHaveCount(2);
	await expect(page.getByTestId('measured').first()).toContainText('245.0');
});
