import { randomUUID } from 'node:crypto';
import { expect, request, test, type APIRequestContext } from './test.ts';
import { signIn } from './people.ts';

const machineOf = () =>
	request.newContext({
		baseURL: process.env.BASE_URL!,
		extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}` }
	});

/** A panel of line 1's run that was printed and whose paste check found this on one pad, everything else in order. */
async function inspected(machine: APIRequestContext, serial: string, volumePct: number, printAttempt = 1): Promise<void> {
	const { work } = await (await machine.get('/api/v1/lines/1/work')).json();
	const { now } = await (await machine.get('/api/v1/clock')).json();
	const n = work.pads.length * work.circuits;
	const all = (value: number) => Array.from({ length: n }, () => value);
	const say = (source: string, fields: object) =>
		JSON.stringify({ source: `Line 1/${source}`, bootId: randomUUID(), number: 0, at: now, panel: serial, printAttempt, ...fields });
	const answer = await machine.post('/api/v1/messages', {
		data: [
			say('Print', { type: 'print', runId: work.runId, stroke: 'F', printsSinceWipe: 1, cycleS: 19 }),
			say('Paste check', {
				type: 'paste_inspection',
				volumePct: [volumePct, ...all(100).slice(1)],
				heightUm: all(work.foilUm),
				areaPct: all(100),
				offsetXUm: all(0),
				offsetYUm: all(0)
			})
		].join('\n')
	});
	expect((await answer.json()).accepted).toBe(2);
}

const serial = () => `HOLD-${Date.now() % 10_000_000}`;

test('a rejected panel is held: the machines are told, the printer page asks for wash or leave, and who may does it there', async ({
	page
}) => {
	test.setTimeout(240_000);
	const machine = await machineOf();
	const panel = serial();
	await inspected(machine, panel, 30);
	const { work } = await (await machine.get('/api/v1/lines/1/work')).json();
	expect(work.held).toContainEqual({ panel, stations: ['place', 'oven'] });

	await signIn(page, 'edda', '2005');
	await page.goto('/line/1/print');
	const held = page.getByTestId(`reject-${panel}`);
	await expect(held).toContainText('1 of');
	await expect(held).toContainText('(1 insufficient)');
	await expect(held.getByRole('button', { name: 'Give leave' })).toBeDisabled();
	await held.getByRole('button', { name: 'Take it off and wash it' }).click();
	for (const step of ['1 of 3. Take the panel off', '2 of 3. Dry it', '3 of 3. Look into holes'])
		await held.getByRole('button', { name: new RegExp(`^${step}`) }).click();
	await expect(held).toContainText('Washed and dry: the printer takes it next.');
	// Washed is not yet good: it is held until a print of it passes.
	const holds = await (await page.request.get('/api/v1/holds')).json();
	expect(holds.find((h: { subject: string }) => h.subject === panel)).toMatchObject({ code: 'paste_reject', obeys: ['place', 'oven'] });
	await page.goto(`/panels/${panel}`);
	await expect(page.getByText(/Paste check rejected print 1.*Held before: Place, Oven\./)).toBeVisible();
	// The simulated printer prints it again, as its second attempt.
	await expect(page.getByText('printed, attempt 2')).toBeVisible({ timeout: 120_000 });
});

test('a second look at the same print lets nothing go; a print that passes does', async ({ page }) => {
	const machine = await machineOf();
	const panel = serial();
	await inspected(machine, panel, 30);
	await signIn(page, 'basil', '2002');
	const open = async () => {
		const holds: { subject: string }[] = await (await page.request.get('/api/v1/holds')).json();
		return holds.filter((hold) => hold.subject === panel).length;
	};
	const { now } = await (await machine.get('/api/v1/clock')).json();
	const { work } = await (await machine.get('/api/v1/lines/1/work')).json();
	const all = (value: number) => Array.from({ length: work.pads.length * work.circuits }, () => value);
	const again = {
		source: 'Line 1/Paste check',
		bootId: randomUUID(),
		number: 0,
		at: now,
		type: 'paste_inspection',
		panel,
		inspectionAttempt: 2,
		volumePct: all(100),
		heightUm: all(work.foilUm),
		areaPct: all(100),
		offsetXUm: all(0),
		offsetYUm: all(0)
	};
	expect((await (await machine.post('/api/v1/messages', { data: JSON.stringify(again) })).json()).accepted).toBe(1);
	expect(await open()).toBe(1);
	await inspected(machine, panel, 100, 2);
	expect(await open()).toBe(0);
	await page.goto('/panels/holds');
	await expect(page.getByTestId('lifted').getByRole('row', { name: new RegExp(panel) })).toContainText('printed again and passed');
});

test('one list of all that is held: an engineer gives leave with a reason, once; a jar is reviewed on its own page', async ({ page }) => {
	const machine = await machineOf();
	const panel = serial();
	await inspected(machine, panel, 30);
	await signIn(page, 'basil', '2002');
	await page.goto('/panels');
	await page.getByRole('link', { name: 'Holds' }).click();
	const row = page.getByTestId(`hold-${panel}`);
	await expect(row).toContainText('Place, Oven');
	await expect(row).toContainText('engineer, quality, lead');
	await row.getByRole('button', { name: 'Give leave' }).click();
	await row.getByRole('button', { name: 'Goes on' }).click();
	await expect(row.getByLabel(`Why ${panel} may go on`)).toHaveAccessibleDescription('Say why it may go on.');
	await row.getByLabel(`Why ${panel} may go on`).fill('one pad at the low limit, no bridge');
	await row.getByRole('button', { name: 'Goes on' }).click();
	await expect(row).toBeHidden();
	await expect(page.getByTestId('lifted').getByRole('row', { name: new RegExp(panel) })).toContainText(
		'leave of B. Rook: one pad at the low limit, no bridge'
	);
	const holds: { id: number; subject: string; kind: string }[] = await (await page.request.get('/api/v1/holds')).json();
	expect(holds.some((hold) => hold.subject === panel)).toBe(false);
	const { work } = await (await machine.get('/api/v1/lines/1/work')).json();
	expect(work.held.some((h: { panel: string }) => h.panel === panel)).toBe(false);

	// A jar that stood warm is held like a panel, and no longer once it is thrown away.
	const jar = `HJ-${Date.now() % 1_000_000}`;
	const event = (kind: string) => page.request.post(`/api/v1/jars/${jar}/events`, { data: { kind, fact: true } });
	const received = { id: jar, pasteId: 1, lot: 'L26-200', expiry: '2027-12', grams: 500 };
	expect((await page.request.post('/api/v1/jars', { data: received })).status()).toBe(201);
	for (const kind of ['store_cold', 'excursion']) expect((await event(kind)).ok()).toBe(true);
	const heldJar = page.getByTestId(`hold-${jar}`);
	await expect(heldJar).toContainText('The fridge left its limits.');
	await expect(heldJar.getByRole('link', { name: 'Review' })).toHaveAttribute('href', `/paste?jar=${jar}`);
	const all: { id: number; subject: string }[] = await (await page.request.get('/api/v1/holds')).json();
	const lifted = await page.request.post(`/api/v1/holds/${all.find((h) => h.subject === jar)!.id}/lift`, { data: { note: 'looks fine' } });
	expect(lifted.status()).toBe(422);
	expect((await lifted.json()).message).toContain('reviewed on its own page');
	expect((await event('discard')).ok()).toBe(true);
	await expect(heldJar).toBeHidden();
	await expect(page.getByTestId('lifted').getByRole('row', { name: new RegExp(jar) })).toContainText('discarded, B. Rook');
});
