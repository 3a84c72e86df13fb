import { PASTE_COLUMN_NAMES } from '@keen-relay/core/inspection';
import { expect, test } from './test.ts';
import { readAs, signIn } from './people.ts';

test('what is missing or wrong is said at its field, in words, and nothing is sent before it is right', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/line/1/paste');
	await page.getByRole('button', { name: 'Receive a jar' }).click();
	const form = page.getByRole('form', { name: 'Jar' });
	let sent = 0;
	page.on('request', (request) => {
		if (request.method() === 'POST' && new URL(request.url()).pathname === '/api/v1/jars') sent++;
	});
	const number = form.getByLabel('Number on the label');
	await form.getByLabel('Content, g').fill('6000');
	await form.getByRole('button', { name: 'Receive this jar' }).click();
	await expect(number).toHaveAttribute('aria-invalid', 'true');
	await expect(number).toHaveAccessibleDescription('Letters, digits and dashes, 2 to 40.');
	await expect(number).toBeFocused();
	await expect(form.getByLabel('Lot')).toHaveAccessibleDescription('The lot stands on the label.');
	await expect(form.getByLabel('Content, g')).toHaveAccessibleDescription('At most 5000.');
	await expect(form.getByLabel('Use by, day or month')).toHaveAccessibleDescription(/^The day or month that stands on the label/);

	// A figure that cannot be read is not the last one that could.
	const jar = `J-F${Date.now() % 1_000_000}`;
	await number.fill(jar);
	await form.getByLabel('Lot').fill('L26-115');
	await form.getByLabel('Use by, day or month').fill('2099-12');
	await form.getByLabel('Content, g').fill('5oo');
	await form.getByRole('button', { name: 'Receive this jar' }).click();
	await expect(form.getByLabel('Content, g')).toBeFocused();
	await expect(form.getByLabel('Content, g')).toHaveAttribute('aria-invalid', 'true');
	expect(sent).toBe(0);

	await form.getByLabel('Content, g').fill('500');
	await form.getByRole('button', { name: 'Receive this jar' }).click();
	await expect(page.getByTestId('jar')).toContainText(jar);
	expect(sent).toBe(1);
});

test('what only the server can know is said at its field too', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/plant/people');
	const form = page.getByRole('form', { name: 'My PIN' });
	await form.getByLabel('My PIN now').fill('000000');
	await form.getByLabel('My new PIN').fill('839201');
	await form.getByRole('button', { name: 'Change' }).click();
	await expect(form.getByLabel('My PIN now')).toHaveAttribute('aria-invalid', 'true');
	await expect(form.getByRole('alert')).toContainText(/PIN/);
	await expect(form.getByLabel('My new PIN')).toHaveValue('839201');
});

test('a rule’s rows say what is wrong beside the figure, nested as they stand', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/plant/rules?rule=pins');
	const form = page.getByRole('form').filter({ has: page.getByRole('button', { name: 'Keep these' }) });
	const digits = form.getByRole('spinbutton').first();
	const before = await digits.inputValue();
	await digits.fill('3');
	await form.getByRole('button', { name: 'Keep these' }).click();
	await expect(digits).toHaveAttribute('aria-invalid', 'true');
	await form.getByRole('button', { name: 'As it starts' }).click();
	await expect(digits).toHaveValue(before);
	await expect(digits).toHaveAttribute('aria-invalid', 'false');

	await page.goto('/plant/rules?rule=stopReasons');
	const code = page.getByRole('form').getByLabel('Code').first();
	await code.fill('two words');
	await page.getByRole('button', { name: 'Keep these' }).click();
	await expect(code).toHaveAccessibleDescription('Letters and digits, 2 to 30.');
});

test('what was typed and not sent is offered again, and gone once it is sent', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/line/1/print/stencil/library');
	await page.getByRole('button', { name: 'New stencil' }).click();
	const code = `S-F${Date.now() % 1_000_000}`;
	const saved = page.waitForResponse((r) => r.request().method() === 'PUT' && r.url().includes('/drafts/stencil-tool'));
	await page.getByLabel('Number on its frame').fill(code);
	await saved;
	await page.goto('/boards');
	await page.goto('/line/1/print/stencil/library');
	await page.getByRole('button', { name: 'New stencil' }).click();
	await page.getByRole('button', { name: 'Go on with it' }).click();
	await expect(page.getByLabel('Number on its frame')).toHaveValue(code);
	await page.getByLabel('Place', { exact: true }).fill('rack C1');
	await page.getByRole('button', { name: 'Keep this stencil' }).click();
	await expect(page.getByRole('heading', { name: code })).toBeVisible();
	const { draft } = await (await page.request.get('/api/v1/drafts/stencil-tool')).json();
	expect(draft).toBeNull();
});

test('a date is typed as this person writes it, and one that has two readings is never turned round', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await readAs(page, 'Germany: 0,25 · 27.11.2026', 'metric: mm, µm, °C, g');
	await page.goto('/line/1/paste/air');
	await page.getByRole('button', { name: 'New sensor' }).click();
	const form = page.getByRole('form', { name: 'Sensor' });
	const name = `Store ${Date.now() % 1_000_000}`;
	await form.getByLabel('name, as its messages have it').fill(name);
	const date = form.getByLabel('calibrated on');
	await date.fill('12/31/2026');
	await form.getByRole('button', { name: 'Add this sensor' }).click();
	await expect(date).toHaveAccessibleDescription(/There is no month 31.*27\.11\.2026/);
	await date.fill('3.12.2025');
	await form.getByRole('button', { name: 'Add this sensor' }).click();
	await expect(page.getByTestId('sensors')).toContainText(name);
	await expect(page.getByTestId('sensors').getByRole('row').filter({ hasText: name })).toContainText('03.12.2025');
	await readAs(page, '', '');
});

test('a line is put out of use and comes back as it was', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	const name = `Out ${Date.now() % 100_000}`;
	const stations = [
		{ role: 'bench', name: 'Look', spec: { cycleS: 20 } },
		{ role: 'optical', name: 'See', spec: { cycleS: 15 } }
	];
	const { id } = await (await page.request.post('/api/v1/lines', { data: { name, purpose: 'surfaceMount', stations } })).json();
	await page.goto(`/plant/set-up/lines?line=${id}`);
	// A station that stands aside stays aside when the line comes back.
	await page.getByTestId('line-stations').getByRole('button', { name: 'Out of use' }).first().click();
	await expect(page.getByTestId('out-of-use')).toContainText('Look');
	await page.getByRole('button', { name: 'Line out of use' }).click();
	await expect(page.getByTestId('entered').getByRole('listitem').filter({ hasText: name })).toContainText('out of use since');
	const lines = async () => (await page.locator('[data-testid="lines"], nav').allInnerTexts()).join(' ');
	await page.goto('/plant');
	expect(await lines()).not.toContain(name);
	const job = { number: `J-O${Date.now() % 100_000}`, boardRevisionId: 1, panels: 5 };
	const { id: jobId } = await (await page.request.post('/api/v1/jobs', { data: job })).json();
	const run = await page.request.post('/api/v1/runs', { data: { jobId, sideId: 1, lineId: id } });
	expect(run.status()).toBe(422);
	expect((await run.json()).message).toBe(`${name} is out of use.`);
	await page.goto(`/line/${id}`);
	await expect(page.getByText(`${name} is out of use.`)).toBeVisible();

	await page.goto(`/plant/set-up/lines?line=${id}`);
	await page.getByRole('button', { name: 'Put the line back into use' }).click();
	await expect(page.getByTestId('line-stations')).toContainText('See');
	await expect(page.getByTestId('out-of-use')).toContainText('Look');
	await page.request.put(`/api/v1/lines/${id}/use`, { data: { inUse: false } });
});

test('a figure that cannot be read is never sent as the last one that could, on pages where values are tried too', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	const sent: string[] = [];
	page.on('request', (request) => request.method() !== 'GET' && sent.push(request.url()));
	// What somebody left there before would be offered first.
	await page.request.delete('/api/v1/drafts/paste-limits');
	await page.goto('/line/1/paste-check/limits');
	const field = page.getByRole('spinbutton').first();
	const before = await field.inputValue();
	// One that could be read first: it is what the button would have sent.
	await field.fill(String(Number(before) + 1));
	await field.fill(`${before} or so`);
	await page.getByLabel(/Why/).fill('a figure that is no figure');
	await page.getByRole('button', { name: /Keep/ }).first().click();
	await expect(page.getByText(/cannot be read: .* Nothing was sent\./)).toBeVisible();
	await expect(field).toBeFocused();
	expect(sent.filter((url) => url.includes('/paste-limits'))).toEqual([]);
	await expect(field).toHaveValue(`${before} or so`);
	// What could be read is kept for whoever comes back.
	await page.goto('/line/1/paste-check');
	await page.goto('/line/1/paste-check/limits');
	await expect(page.getByTestId('draft')).toContainText('You left this unfinished');
	await page.getByRole('button', { name: 'Go on with it' }).click();
	await expect(field).toHaveValue(String(Number(before) + 1));
	await field.fill(before);
	await expect(page.getByRole('button', { name: 'These limits are kept' })).toBeVisible();
});

test('a paste that was being corrected is offered again to whoever left it, with what stands now', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1/paste/pastes');
	await page.getByRole('button', { name: 'New paste' }).click();
	const form = page.getByRole('form', { name: 'Paste', exact: true });
	await form.getByLabel('name', { exact: true }).fill('half typed');
	// Another one is looked at meanwhile: each keeps its own.
	await page.getByTestId('pastes').locator('tbody').getByRole('button').first().click();
	await expect(form.getByLabel('name', { exact: true })).not.toHaveValue('half typed');
	await page.getByRole('button', { name: 'New paste' }).click();
	await expect(page.getByTestId('draft')).toContainText('You left this unfinished');
	await page.getByRole('button', { name: 'Go on with it' }).click();
	await expect(form.getByLabel('name', { exact: true })).toHaveValue('half typed');
});

test('what was chosen of a file of results stands again for whoever went to look something up', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/paste-check/files');
	await page.getByLabel('Inspection unit').fill('Left unit');
	await page.getByLabel('Inspection unit').blur();
	const csv = 'Board,Pad,Vol,High,Area,dx,dy\nP1,99999,95,98,97,3,4\n';
	await page.locator('input[name="results"]').setInputFiles({ name: 'left.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
	const pad = page.getByLabel(`Column for ${PASTE_COLUMN_NAMES.pad_id}`, { exact: true });
	await pad.selectOption('Pad');
	await page.getByRole('link', { name: 'Limits', exact: true }).first().click();
	await expect(page).toHaveURL(/limits/);
	await page.goBack();
	await expect(page.getByLabel('Inspection unit')).toHaveValue('Left unit');
	await expect(pad).toHaveValue('Pad');
	// After the browser was closed the file is gone; what was said of it is offered.
	await page.reload();
	await page.getByRole('button', { name: 'Go on with it' }).click();
	await expect(page.getByLabel('Inspection unit')).toHaveValue('Left unit');

	await page.goto('/line/1/optical/files');
	const rows = 'Serial,Position,Verdict,Done\nJ-1-0001,1,fine,2026-04-03 10:00\n';
	await page.getByLabel('File of results').setInputFiles({ name: 'optical.csv', mimeType: 'text/csv', buffer: Buffer.from(rows) });
	await page.getByLabel('Panel’s serial').selectOption('Serial');
	await page.getByLabel('Result', { exact: true }).selectOption('Verdict');
	await page.getByLabel('“fine” means').selectOption('pass');
	await page.getByRole('navigation').getByRole('link', { name: 'Now' }).click();
	await expect(page).not.toHaveURL(/files/);
	await page.goBack();
	await expect(page.getByLabel('“fine” means')).toHaveValue('pass');
	await expect(page.getByTestId('first-rows')).toContainText('J-1-0001');
});
