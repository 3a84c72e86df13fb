import { expect, request, test, type Browser, type Page } from './test.ts';
import { ACTIONS, BADGE_ALONE, type Action } from '@keen-relay/core/people';
import { signIn } from './people.ts';

/** A browser that a lead has made a station PC. */
async function stationPc(browser: Browser, name: string): Promise<Page> {
	const page = await (await browser.newContext()).newPage();
	await signIn(page, 'dessa', '200468');
	await page.goto('/plant/people');
	await page.getByLabel('Name of this PC').fill(name);
	await page.getByLabel('Line of this PC').selectOption({ label: 'Line 1' });
	await page.getByRole('button', { name: 'Make this browser a station PC' }).click();
	await expect(page.getByTestId('badge')).toContainText('Show your badge');
	return page;
}

async function showBadge(page: Page, badge: string, name: string) {
	await page.getByLabel('Scan or type any code').fill(badge);
	await page.getByLabel('Scan or type any code').press('Enter');
	await expect(page.getByTestId('badge')).toContainText(name);
	await page.getByTestId('scan-reply').getByRole('button', { name: 'Close' }).click();
}

async function approve(page: Page, badge: string, pin: string) {
	const dialog = page.getByRole('dialog', { name: 'Approval' });
	await dialog.getByLabel('Badge').fill(badge);
	await dialog.getByLabel('PIN').fill(pin);
	await dialog.getByRole('button', { name: 'Approve' }).click();
}

test('two people and an approval at one station', async ({ browser }) => {
	const page = await stationPc(browser, 'Oven, line 1');
	const release = page.getByRole('button', { name: 'Release recipe' });
	const belt = page.getByLabel('Belt, cm/min');
	const dialog = page.getByRole('dialog', { name: 'Approval' });

	await test.step('without a badge everything can be read and nothing done', async () => {
		await page.goto('/line/1/oven');
		await expect(page.getByTestId('verdict')).toBeVisible();
		await belt.fill('64');
		await expect(release).toBeDisabled();
		expect((await page.request.post('/api/v1/recipes', { data: {} })).status()).toBe(401);
	});

	await test.step('a badge names the person, large; what the role may not do stays closed', async () => {
		await showBadge(page, 'anwen', 'A. Tarn');
		const size = await page
			.getByTestId('badge')
			.getByText('A. Tarn')
			.evaluate((node) => parseFloat(getComputedStyle(node).fontSize));
		expect(size).toBeGreaterThanOrEqual(24);
		await expect(release).toBeDisabled();
	});

	await test.step('the next badge takes over; a release asks for badge and PIN in place', async () => {
		await showBadge(page, 'basil', 'B. Rook');
		await release.click();
		await expect(dialog).toContainText('May approve: engineer, lead');
		await approve(page, 'dessa', '0000');
		await expect(dialog.getByRole('alert')).toHaveText('This badge and PIN do not go together.');
		await approve(page, 'corin', '2003');
		await expect(dialog.getByRole('alert')).toContainText('A quality person may not approve this');
		await approve(page, 'dessa', '200468');
		await expect(page.getByText('Oven recipe released', { exact: true })).toBeVisible();
		// Nobody was signed in or out by it.
		await expect(page.getByTestId('badge')).toContainText('B. Rook');
	});

	await test.step('both people stand in the log; undo is a record of its own', async () => {
		await page.goto('/plant/log');
		const row = page
			.getByTestId('log')
			.getByRole('row', { name: /oven recipe released/ })
			.first();
		await expect(row).toContainText('B. Rook, approved by D. Quill');
		await expect(row).toContainText('Oven, line 1');
		await row.getByRole('button', { name: 'Undo' }).click();
		await approve(page, 'basil', '2002');
		await expect(row.or(page.getByTestId('log').getByRole('row', { name: /undone by B. Rook/ })).first()).toContainText(/undone/);
		await page.goto('/line/1/oven');
		await expect(page.getByText('Recipe 1, released.')).toBeVisible();
	});

	await test.step('ninety idle seconds clear the badge', async () => {
		const idle = await page.context().newPage();
		await idle.clock.install();
		await idle.goto('/line/1/oven');
		await expect(idle.getByTestId('badge')).toContainText('B. Rook');
		await idle.clock.runFor(60_000);
		await expect(idle.getByTestId('badge')).toContainText('B. Rook');
		await idle.clock.runFor(40_000);
		await expect(idle.getByTestId('badge')).toContainText('Show your badge');
		await idle.close();
	});
});

test('where the plant asks for a second person, one person is never both', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/plant/people');
	const choice = page.getByLabel('Approval of: stencil released');
	await choice.selectOption('second');
	await expect(page.getByText('stencil released: changed')).toBeVisible();
	await page.goto('/line/1/print/stencil?side=5');
	await page.getByLabel('Foil, µm').fill('90');
	await page.getByRole('button', { name: 'Release 90 µm' }).click();
	const dialog = page.getByRole('dialog', { name: 'Approval' });
	await expect(dialog).toContainText('A second person approves this');
	await approve(page, 'dessa', '200468');
	await expect(dialog.getByRole('alert')).toContainText('A second person approves it');
	await approve(page, 'basil', '2002');
	await expect(page.getByRole('button', { name: 'Stencil 2 is released' })).toBeVisible();
	// As it was before, for the other tests.
	await page.goto('/plant/people');
	await choice.selectOption('pin');
	await expect(page.getByText('stencil released: changed')).toBeVisible();
});

test('a lead gives a role a right, and buttons and routes follow', async ({ page, browser }) => {
	const other = await (await browser.newContext()).newPage();
	await signIn(other, 'anwen', '2001');
	await other.goto('/runs');
	await expect(other.getByRole('button', { name: 'Enter the job' })).toBeDisabled();
	await signIn(page, 'dessa', '200468');
	await page.goto('/plant/people');
	await page.getByLabel('technician may: new job').check();
	// The colleague's page hears of it without a reload.
	await expect(other.getByRole('button', { name: 'Enter the job' })).toBeEnabled();
	await other.getByLabel('Job number').fill('J-7001');
	await other.getByRole('button', { name: 'Enter the job' }).click();
	await expect(other.getByTestId('jobs')).toContainText('J-7001');
	// A slip is undone from where it was made.
	await other.getByRole('button', { name: 'Undo' }).click();
	await expect(other.getByTestId('jobs')).not.toContainText('J-7001');
	await page.getByLabel('technician may: new job').uncheck();
	await expect(other.getByRole('button', { name: 'Enter the job' })).toBeDisabled();
});

test('what was typed and not saved waits for its own person, and says what changed meanwhile', async ({ page, browser }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/2/oven?side=1');
	const kept = page.waitForResponse((response) => response.url().includes('/drafts/') && response.request().method() === 'PUT');
	await page.getByLabel('Belt, cm/min').fill('45.5');
	await kept;
	// Somebody else sees no draft.
	const lead = await (await browser.newContext()).newPage();
	await signIn(lead, 'dessa', '200468');
	await lead.goto('/line/2/oven?side=1');
	await expect(lead.getByTestId('verdict')).toBeVisible();
	await expect(lead.getByTestId('draft')).toHaveCount(0);
	await lead.getByLabel('Belt, cm/min').fill('43');
	await lead.getByRole('button', { name: 'Release recipe' }).click();
	await expect(lead.getByText('Oven recipe released', { exact: true })).toBeVisible();
	await page.goto('/boards');
	await page.goto('/line/2/oven?side=1');
	await expect(page.getByTestId('draft')).toContainText('It was begun from recipe 1; now recipe 2 stands.');
	await page.getByRole('button', { name: 'Go on with it' }).click();
	await expect(page.getByLabel('Belt, cm/min')).toHaveValue('45.5');
	await page.reload();
	await page.getByRole('button', { name: 'Throw it away' }).click();
	await expect(page.getByLabel('Belt, cm/min')).toHaveValue('43');
});

test('what is left within a second is not lost, and what is looked at stands in the address', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/3/oven');
	const belt = page.getByLabel('Belt, cm/min');
	await expect(belt).toBeVisible();
	await page.waitForLoadState('networkidle');
	await belt.fill('51.5');
	const sent = page.waitForRequest((request) => request.url().includes('/drafts/') && request.method() === 'PUT');
	await page.getByRole('link', { name: 'Boards', exact: true }).click();
	await sent;
	await page.goto('/line/3/oven');
	await page.getByRole('button', { name: 'Go on with it' }).click();
	await expect(belt).toHaveValue('51.5');
	await page.reload();
	await page.getByRole('button', { name: 'Throw it away' }).click();

	await page.goto('/line/1/paste-check');
	await page.getByLabel('Shaded by').selectOption('height');
	await page.getByLabel('What is drawn').selectOption('F');
	await expect(page).toHaveURL(/drawn=F/);
	await expect(page).toHaveURL(/shade=height/);
	await page.getByLabel('Pad class of the chart').selectOption({ index: 1 });
	await expect(page).toHaveURL(/class=.*/);
	await page.getByRole('link', { name: 'Boards', exact: true }).click();
	await expect(page).toHaveURL(/boards/);
	await page.goBack();
	await expect(page.getByLabel('Shaded by')).toHaveValue('height');
	await expect(page.getByLabel('What is drawn')).toHaveValue('F');
	await page.getByLabel('Shaded by').selectOption('verdict');
	await expect(page).not.toHaveURL(/shade=/);
});

test('by a lead’s badge alone nothing can be done at a station PC that changes people, rights, limits, recipes, releases or the plant', async ({
	browser
}) => {
	const page = await stationPc(browser, 'Strict, line 1');
	await showBadge(page, 'dessa', 'D. Quill');
	const { paths } = (await (await page.request.get('/api/v1/openapi.json')).json()) as {
		paths: Record<string, Record<string, { 'x-who'?: string }>>;
	};
	const asked: string[] = [];
	for (const [path, methods] of Object.entries(paths))
		for (const [method, { 'x-who': who }] of Object.entries(methods)) {
			if (method === 'get' || !(ACTIONS as readonly string[]).includes(who ?? '') || BADGE_ALONE.has(who as Action)) continue;
			const answer = await page.request.fetch(path.replace(/\{[^}]+\}/g, '1'), { method: method.toUpperCase(), data: {} });
			expect(answer.status(), `${method} ${path}, ${who}`).toBe(428);
			asked.push(who!);
		}
	for (const action of ['person.create', 'token.create', 'rights.set', 'limits.set', 'clock.set']) expect(asked).toContain(action);
});

test('doors: routes of the sign-in library that we do not use are not there, other sites are refused, pages carry their policy', async () => {
	const baseURL = process.env.BASE_URL!;
	const api = await request.newContext({ baseURL, extraHTTPHeaders: { origin: baseURL } });
	expect((await api.post('/api/auth/sign-in/username', { data: { username: 'anwen', password: '2001' } })).status()).toBe(200);
	for (const route of ['update-user', 'change-password', 'sign-up/email', 'delete-user', 'change-email', 'sign-in/email'])
		expect((await api.post(`/api/auth/${route}`, { data: { name: 'D. Quill' } })).status(), route).toBe(404);
	expect((await api.post('/api/v1/stops/1/reason', { data: {}, headers: { origin: 'http://elsewhere.example' } })).status()).toBe(403);
	const page = await api.get('/plant');
	const headers = page.headers();
	expect(headers['x-content-type-options']).toBe('nosniff');
	expect(headers['referrer-policy']).toBe('same-origin');
	expect(headers['content-security-policy']).toMatch(/script-src 'self' 'nonce-/);
	expect(headers['content-security-policy']).toContain("frame-ancestors 'none'");
	for (const to of [
		'/%09/elsewhere.example',
		'//elsewhere.example',
		'/%5Celsewhere.example',
		'https://elsewhere.example',
		'/%0A/elsewhere.example'
	]) {
		const answer = await api.get(`/sign-in?to=${to}`, { maxRedirects: 0 });
		expect([answer.status(), new URL(answer.headers()['location']!, baseURL).origin], to).toEqual([303, baseURL]);
	}
	expect((await api.get('/sign-in?to=/plant/log%3Ffind=x', { maxRedirects: 0 })).headers()['location']).toBe('/plant/log?find=x');
	// Addresses that cannot be read, signed in and not: an answer, and the server goes on.
	const stranger = await request.newContext({ baseURL });
	for (const who of [api, stranger])
		for (const path of ['/%E0%A4%A', '/line/%00', '/%', '/api/v1/sides/%FF/geometry']) {
			expect((await who.get(path, { maxRedirects: 0 })).status(), path).toBe(400);
			expect((await who.get('/healthz')).status()).toBe(200);
		}
});

test('a comma typed into a number is its decimal sign, shown as it is read; what reads both ways is not taken', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/line/1/oven');
	const belt = page.getByLabel('Belt, cm/min');
	await belt.click();
	await belt.press('ControlOrMeta+a');
	await belt.pressSequentially('62,5');
	await expect(belt).toHaveValue('62.5');
	const paste = (text: string) =>
		belt.evaluate((field, said) => {
			(field as HTMLInputElement).select();
			const data = new DataTransfer();
			data.setData('text', said);
			field.dispatchEvent(
				new InputEvent('beforeinput', { bubbles: true, cancelable: true, inputType: 'insertFromPaste', dataTransfer: data })
			);
		}, text);
	await paste('64,25');
	await expect(belt).toHaveValue('64.25');
	await paste('1,250');
	await expect(page.getByText('“1,250” can be read in more than one way')).toBeVisible();
	await expect(belt).toHaveValue('64.25');
});

test('guessing is limited for strangers, and locks nobody out where they signed in before; what failed stands in the log', async ({
	page
}) => {
	const baseURL = process.env.BASE_URL!;
	const screen = () => request.newContext({ baseURL, extraHTTPHeaders: { origin: baseURL } });
	const attempt = async (api: Awaited<ReturnType<typeof screen>>, username: string, password: string) => {
		const began = Date.now();
		const response = await api.post('/api/auth/sign-in/username', { data: { username, password } });
		return { status: response.status(), ms: Date.now() - began, after: response.headers()['retry-after'] };
	};
	await signIn(page, 'dessa', '200468');
	const badge = `g${Date.now() % 1e8}`;
	await page.request.post('/api/v1/people', {
		data: { name: 'G. Guessed', badge, pin: '7309', role: 'operator' },
		headers: { origin: baseURL }
	});
	const desk = await screen();
	expect(await attempt(desk, badge, '7309')).toMatchObject({ status: 200 });

	// Fourteen wrong ones at once from screens that nobody knows: ten are answered, later and later, the others are told when to come back.
	const stranger = await screen();
	const wrong = Array.from({ length: 14 }, () => attempt(stranger, badge, '1111'));
	// Meanwhile the right one, at a screen that knows its person, is answered at once.
	const right = await attempt(desk, badge, '7309');
	expect(right.status).toBe(200);
	expect(right.ms).toBeLessThan(5000);
	const answers = await Promise.all(wrong);
	expect(answers.map(({ status }) => status).sort()).toEqual([...Array(10).fill(401), ...Array(4).fill(429)]);
	expect(answers.filter(({ status }) => status === 429).every(({ after }) => Number(after) > 0 && Number(after) <= 90)).toBe(true);
	expect(Math.max(...answers.filter(({ status }) => status === 401).map(({ ms }) => ms))).toBeGreaterThanOrEqual(8000);
	// A stranger is not told that the next one is right; a colleague signs in as ever; a badge that nobody has is answered alike.
	expect((await attempt(stranger, badge, '7309')).status).toBe(429);
	expect((await attempt(await screen(), 'farid', '2006')).status).toBe(200);
	expect((await attempt(await screen(), `${badge}0`, '1111')).status).toBe(401);

	await page.goto(`/plant/log?find=${badge}`);
	await expect(
		page
			.getByTestId('log')
			.getByRole('row', { name: /wrong PIN/ })
			.first()
	).toContainText('sign-in');
	await expect(page.getByTestId('log').getByRole('row', { name: new RegExp(`${badge} wrong PIN`) })).toHaveCount(10);
	await expect(page.getByTestId('log').getByRole('row', { name: /too many tries of a PIN/ })).toHaveCount(1);
});

test('another PIN ends every other sign-in; weak ones are refused; a lead gives one to whoever forgot theirs', async ({ page }) => {
	const baseURL = process.env.BASE_URL!;
	const headers = { origin: baseURL };
	const badge = `p${Date.now() % 1e8}`;
	await signIn(page, 'dessa', '200468');
	await page.request.post('/api/v1/people', { data: { name: 'P. Pinned', badge, pin: '7309', role: 'operator' }, headers });
	const signedIn = async (pin: string) => {
		const api = await request.newContext({ baseURL, extraHTTPHeaders: headers });
		expect((await api.post('/api/auth/sign-in/username', { data: { username: badge, password: pin } })).status()).toBe(200);
		return api;
	};
	const mayRead = async (api: Awaited<ReturnType<typeof signedIn>>) => (await api.get('/api/v1/clock')).status() === 200;
	const [here, there] = [await signedIn('7309'), await signedIn('7309')];
	const change = (pin: string, newPin: string) => here.put('/api/v1/people/me/pin', { data: { pin, newPin } });
	for (const [pin, newPin, message] of [
		['1111', '8412', 'This is not your PIN'],
		['7309', '1234', 'Digits in a row'],
		['7309', badge, 'stands on the badge']
	] as const) {
		const refused = await change(pin, newPin);
		expect(refused.status()).toBe(422);
		expect(await refused.text()).toContain(message);
	}
	expect(await mayRead(there)).toBe(true);
	expect((await change('7309', '8412')).status()).toBe(200);
	expect([await mayRead(here), await mayRead(there)]).toEqual([true, false]);
	// A lead resets it: all sign-ins end, and the person chooses another one with the code that is told once.
	await page.goto('/plant/people');
	await page.getByTestId('people').getByRole('row', { name: 'P. Pinned' }).getByRole('button', { name: 'Change' }).click();
	await page.getByRole('button', { name: 'Reset the PIN' }).click();
	const told = page.getByTestId('starting-code');
	await expect(told).toContainText('P. Pinned');
	const code = /\d{4}-\d{4}/.exec(await told.innerText())![0];
	expect(await mayRead(here)).toBe(false);
	const choose = (given: string, newPin: string) => here.post('/api/v1/first-pin', { data: { badge, code: given, newPin } });
	expect((await here.post('/api/auth/sign-in/username', { data: { username: badge, password: '8412' } })).status()).toBe(401);
	// The code signs nobody in and approves nothing: it chooses a PIN, once.
	expect((await here.post('/api/auth/sign-in/username', { data: { username: badge, password: code } })).status()).toBe(409);
	expect(await mayRead(here)).toBe(false);
	for (const [given, newPin, message] of [
		['0000-0000', '5960', 'do not go together'],
		[code, code, 'This is the starting code'],
		[code, '59', 'at least four digits']
	] as const) {
		const refused = await choose(given, newPin);
		expect(refused.status(), message).toBe(422);
		expect(await refused.text()).toContain(message);
	}
	// Once its time is over it is no code any more, and never was a PIN.
	const { default: pg } = await import('pg');
	const database = new pg.Client({ connectionString: process.env.DATABASE_URL! });
	await database.connect();
	const endIn = (days: number) =>
		database.query(`update "user" set code_ends_at = code_ends_at + $1 * interval '1 day' where username = $2`, [days, badge]);
	await endIn(-8);
	expect((await here.post('/api/auth/sign-in/username', { data: { username: badge, password: code } })).status()).toBe(401);
	expect((await choose(code, '5960')).status()).toBe(422);
	await endIn(8);
	await database.end();
	expect((await choose(code, '5960')).status()).toBe(200);
	expect((await choose(code, '5961')).status()).toBe(422);
	await signedIn('5960');
	// A technician gives nobody a PIN.
	const technician = await request.newContext({ baseURL, extraHTTPHeaders: headers });
	await technician.post('/api/auth/sign-in/username', { data: { username: 'anwen', password: '2001' } });
	expect((await technician.post(`/api/v1/people/nobody/code`)).status()).toBe(403);
});

test('a stop asks for its reason in one touch, and the hand-over explains the lost time', async ({ page }) => {
	const machine = await request.newContext({
		baseURL: process.env.BASE_URL!,
		extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}` }
	});
	await signIn(page, 'dessa', '200468');
	const { id: lineId } = await (
		await page.request.post('/api/v1/lines', {
			data: { name: 'Stops', stations: [{ role: 'print', name: 'Print', spec: { cycleS: 20 } }] }
		})
	).json();
	const state = async (number: number, fields: object) => {
		const { now } = await (await machine.get('/api/v1/clock')).json();
		const body = { source: 'Stops/Print', bootId: '11111111-2222-4333-8444-555555555555', number, at: now, type: 'state', ...fields };
		expect(await (await machine.post('/api/v1/messages', { data: JSON.stringify(body) })).json()).toMatchObject({ accepted: 1 });
	};
	await state(0, { state: 'running' });
	await state(1, { state: 'stopped', reason: 'squeegee pressure' });
	await page.goto(`/line/${lineId}/print`);
	const question = page.getByTestId('stop-reason');
	await expect(question).toContainText('Why did Print stand');
	await expect(question).toContainText('squeegee pressure');
	await state(2, { state: 'running' });
	await question.getByRole('button', { name: 'Repair' }).click();
	await expect(question).toHaveCount(0);
	await page.goto('/shift/hand-over');
	await expect(page.getByTestId('hand-over')).toContainText(/Print, repair: .*1 stop/);
});
