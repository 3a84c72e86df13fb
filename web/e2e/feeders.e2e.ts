import { expect, request, test, type APIRequestContext, type Page } from './test.ts';
import { signIn } from './people.ts';

/** Keys as a scanner types them. */
const scan = (page: Page, code: string) =>
	page.evaluate((text) => {
		for (const key of [...text, 'Enter']) window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
	}, code);

interface Slot {
	machine: string;
	slot: number;
	partNumber: string;
	tapeMm: number;
	pitchMm: number;
}

/** The slots that line 1 needs for what it runs. */
async function neededSlots(): Promise<Slot[]> {
	const machine = await request.newContext({
		baseURL: process.env.BASE_URL!,
		extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}` }
	});
	const { work } = await (await machine.get('/api/v1/lines/1/work')).json();
	return work.machines.flatMap((m: { name: string; feeders: Omit<Slot, 'machine'>[] }) =>
		m.feeders.map((f) => ({ ...f, machine: m.name }))
	);
}

async function receive(api: APIRequestContext, code: string, of: Slot, more: object = {}): Promise<string> {
	const { partNumber, tapeMm, pitchMm } = of;
	const data = { code, partNumber, kind: 'reel', makerLot: 'Q2640-1', place: 'rack E1', pieces: 4000, tapeMm, pitchMm, ...more };
	const answer = await api.post('/api/v1/reels', { data });
	expect(answer.status(), await answer.text()).toBe(201);
	return code;
}

test('a slot is loaded by scans: every kind of mistake is refused with why, and only what is right counts', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	const api = page.request;
	const [a, b] = (await neededSlots()).filter((s, _, all) => s.machine === all[0]!.machine && s.tapeMm === all[0]!.tapeMm) as [Slot, Slot];
	const feeder = async (code: string, more: object = {}) => {
		const data = { code, tapeMm: a.tapeMm, pitchMm: a.pitchMm, ...more };
		expect((await api.post('/api/v1/feeders', { data })).status()).toBe(201);
		return code;
	};
	await Promise.all(['E-F01', 'E-F02', 'E-F03'].map((code) => feeder(code)));
	await feeder('E-WIDE', { tapeMm: 24, pitchMm: 12 });
	await receive(api, 'E-RIGHT', a);
	await receive(api, 'E-OTHER', { ...b, tapeMm: a.tapeMm, pitchMm: a.pitchMm });
	await receive(api, 'E-STRANGE', { ...a, partNumber: 'NOBODY-ASKS' });
	await receive(api, 'E-BAD', a);
	const blocked = await api.post('/api/v1/reels/E-BAD/events', { data: { kind: 'block', note: 'lot in doubt' } });
	expect(blocked.status(), await blocked.text()).toBe(201);

	await page.goto('/line/1/place/3');
	const reply = page.getByTestId('scan-reply');
	const at = `Line 1/${a.machine}/${a.slot}`;
	const begin = async () => {
		await scan(page, at);
		await expect(reply).toContainText(`wants ${a.partNumber}`);
	};
	const refused = async (codes: readonly string[], why: RegExp) => {
		await begin();
		for (const code of codes) {
			await scan(page, code);
			await expect(reply).not.toContainText(`wants ${a.partNumber}.`);
		}
		await expect(reply).toContainText(why);
		await expect(reply).toContainText(/^\s*No/);
	};
	await refused(['E-F01', 'E-BAD'], /E-BAD is blocked: lot in doubt/);
	await refused(['E-F01', 'E-STRANGE'], /wanted nowhere|wants/);
	if (b.partNumber !== a.partNumber) await refused(['E-F01', 'E-OTHER'], new RegExp(`is wanted in slot ${b.slot}`));
	await refused(['E-WIDE', 'E-RIGHT'], /E-WIDE is for 24 mm tape/);
	// How pin 1 lies is compared once somebody has said how it has to lie.
	await receive(api, 'E-TURNED', { ...a }, { quadrant: 3 });
	const orientation = (quadrant: number | null) => api.put('/api/v1/parts/orientation', { data: { partNumber: a.partNumber, quadrant } });
	expect((await orientation(1)).status()).toBe(200);
	await refused(['E-F01', 'E-TURNED'], /In E-TURNED pin 1 lies in quadrant 3; the program expects it in 1/);
	expect((await orientation(5)).status()).toBe(422);
	expect((await api.put('/api/v1/feeders/E-F03', { data: { outOfService: 'gear worn' } })).status()).toBe(200);
	await refused(['E-F03', 'E-RIGHT'], /E-F03 is out of service: gear worn/);

	expect((await orientation(null)).status()).toBe(200);
	// A code that is neither feeder nor reel means what it always means, and the sequence is over.
	await begin();
	await scan(page, 'J-2411-0002');
	await expect(reply).toContainText('Panel J-2411-0002');
	await scan(page, 'E-RIGHT');
	await expect(reply).toContainText(`Reel of ${a.partNumber}`);

	// The right one: slot, feeder, reel.
	await begin();
	await scan(page, 'E-F01');
	await expect(reply).toContainText('Scan the reel.');
	await scan(page, 'E-RIGHT');
	await expect(reply).toContainText(`Slot ${a.slot}: right`);
	await page.goto(`/line/1/place/3?slot=${a.slot}`);
	await expect(page.getByTestId('slot-scanned')).toContainText('E-RIGHT');
	await expect(page.getByTestId('slot-scanned')).toContainText(`${a.partNumber} is right in slot ${a.slot}.`);

	// The same reel is not in two feeders, and what was blocked afterwards is seen where it stands.
	await scan(page, 'E-F02');
	await scan(page, 'E-RIGHT');
	await expect(reply).toContainText('E-RIGHT is in E-F01');
	expect((await api.post('/api/v1/reels/E-RIGHT/events', { data: { kind: 'block', note: 'recalled' } })).status()).toBe(201);
	await expect(page.getByTestId('slot-scanned')).toContainText('E-RIGHT is blocked: recalled');
	await expect(page.getByTestId('verdict')).toContainText('E-RIGHT is blocked: recalled');
	await page.getByRole('button', { name: 'Close' }).click();
	await page.getByRole('button', { name: 'Its feeder was taken out' }).click();
	await expect(page.getByTestId('slot-scanned')).toContainText('Not scanned yet');
});

test('a reel is received by its label, counted, split and blocked; its story stands on its page', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/parts');
	const label = page.getByLabel('Scan the maker’s label here, or type below');
	await label.fill('1TQ2641-7');
	await label.press('Tab');
	const form = page.getByRole('form', { name: 'Reel' });
	await expect(form.getByLabel('Maker’s lot')).toHaveValue('Q2641-7');
	await form.getByLabel('Our number, on its label').fill('E-500');
	await form.getByLabel('Part number', { exact: true }).fill('E-PART');
	await expect(form.getByText('No board asks for this part number')).toBeVisible();
	await form.getByLabel('Pieces').fill('5000');
	await form.getByLabel('Pocket to pocket').fill('3');
	await form.getByLabel('Place').fill('rack E2');
	await form.getByRole('button', { name: 'Receive it' }).click();
	await expect(page.getByText(/expected 1, 2 or a multiple of 4 mm/).first()).toBeVisible();
	await form.getByLabel('Pocket to pocket').fill('4');
	await form.getByRole('button', { name: 'Receive it' }).click();
	await page.getByTestId('received').getByRole('link', { name: 'E-500', exact: true }).click();

	const act = page.getByRole('form', { name: 'What happened to E-500' });
	await act.getByLabel('Pieces').fill('4990');
	await act.getByRole('button', { name: 'Counted: keep it' }).click();
	await expect(page.getByText('4990 pieces.')).toBeVisible();
	const split = page.getByRole('form', { name: 'Split E-500' });
	await split.getByLabel('Split off').fill('6000');
	await split.getByLabel('Number of the new reel').fill('E-501');
	await split.getByLabel('Place of the new reel').fill('cart 1');
	await split.getByRole('button', { name: 'Split it' }).click();
	await expect(page.getByText('E-500 has 4990 pieces left.').first()).toBeVisible();
	await split.getByLabel('Split off').fill('990');
	await split.getByRole('button', { name: 'Split it' }).click();
	await expect(page.getByText('4000 pieces.')).toBeVisible();
	await act.getByLabel('What happened').selectOption({ label: 'Block it' });
	await act.getByLabel('Why').fill('count in doubt');
	await act.getByRole('button', { name: 'Block it: keep it' }).click();
	await expect(page.getByTestId('reels').getByRole('row', { name: /E-500.*blocked: count in doubt/ })).toBeVisible();
	await expect(page.getByTestId('reels').getByRole('row', { name: /E-501.*990.*cart 1/ })).toBeVisible();
	const sheet = await page.request.get('/sheets/reel-label?reel=E-501');
	expect(sheet.headers()['content-type']).toBe('application/pdf');
});

test('the moisture clock runs from the opening of the bag, stands in a dry cabinet, and says when it ends', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	const data = { code: 'E-DRY', partNumber: 'E-QFN', kind: 'tray', makerLot: 'T-1', place: 'cabinet', pieces: 90, moistureLevel: '3' };
	expect((await page.request.post('/api/v1/reels', { data })).status()).toBe(201);
	await page.goto('/parts/moisture');
	const row = page.getByTestId('moisture').getByRole('row', { name: /E-DRY/ });
	await row.getByRole('button', { name: 'E-DRY' }).click();
	const act = page.getByRole('form', { name: 'What happened to E-DRY' });
	await act.getByRole('button', { name: 'Bag opened: keep it' }).click();
	await expect(page.getByText('Read the humidity card in the bag').first()).toBeVisible();
	await act.getByLabel('Humidity card').fill('5');
	await act.getByRole('button', { name: 'Bag opened: keep it' }).click();
	await expect(row).toContainText('in the air');
	await expect(row).toContainText('168');
	await act.getByLabel('The cabinet shows').fill('4');
	await act.getByRole('button', { name: 'Into a dry cabinet: keep it' }).click();
	await expect(row).toContainText('in a dry cabinet');
});

test('the clock at which each slot runs out, and the round of splices that one technician walks', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/place/3');
	await page.getByRole('link', { name: 'Run-out', exact: true }).click();
	const rows = page.getByTestId('run-out').locator('tbody tr');
	await expect(rows.first()).toBeVisible();
	// The first one ends first, within its range.
	const times = async (column: number) => (await rows.locator(`td:nth-child(${column})`).allInnerTexts()).map((t) => t.trim());
	expect((await times(1)).length).toBeGreaterThan(1);
	await expect(rows.first().locator('td').nth(6)).toHaveText(/^\d\d:\d\d$/);
	await expect(rows.first().locator('td').nth(7)).toHaveText(/^\d\d:\d\d–\d\d:\d\d$/);
	const stop = page.getByTestId('round').getByRole('link').first();
	const slot = /slot (\d+)/.exec(await stop.innerText())![1]!;
	await stop.click();
	await expect(page).toHaveURL(new RegExp(`slot=${slot}`));
});

test('what makes picks fail is named by rate, the nozzle here; once it was cleaned only what came after counts', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/2');
	await page.getByTestId('tile-Place').click();
	await page.getByRole('link', { name: 'Picks' }).click();
	const verdict = page.getByTestId('verdict');
	await expect(verdict).toContainText(/Nozzle N2 loses \d\.\d\d % of its picks, [\d.]+ times as many as the others/, { timeout: 150_000 });
	await expect(verdict).toHaveAttribute('data-level', 'act');
	const nozzles = page.getByTestId('picks-by-nozzle');
	const worst = nozzles.locator('tbody tr', { hasText: 'N2' });
	await expect(worst).toHaveAttribute('aria-selected', 'true');
	await expect(page.getByRole('heading', { name: 'Nozzle N2', exact: true })).toBeVisible();
	await page.getByRole('button', { name: 'N2 is cleaned and checked' }).click();
	await expect(page.getByLabel('What was done')).toHaveAccessibleDescription('Say what was done.');
	await page.getByLabel('What was done').fill('tip cleaned, vacuum checked');
	await page.getByRole('button', { name: 'N2 is cleaned and checked' }).click();
	await expect(page.getByText('N2: counted from here')).toBeVisible();
	await expect(verdict).not.toContainText('Nozzle N2 loses');
	const picks = new URL(page.url()).pathname;
	// Out of service, the program that places with it asks for another; it is said why, and until it is back.
	await page.getByTestId('wearing').getByRole('row', { name: /^N2/ }).click();
	const service = page.getByRole('form', { name: 'Service of N2' });
	await service.getByLabel('Why it is not used').fill('tip bent');
	await service.getByRole('button', { name: 'Take it out of service' }).click();
	await expect(page.getByText('Out of service: tip bent', { exact: true })).toBeVisible();
	await page.goto(picks.replace('/picks', ''));
	await expect(page.getByText('The program places with nozzle N2, out of service: tip bent.').first()).toBeVisible();
	await page.goto(picks);
	await page.getByTestId('wearing').getByRole('row', { name: /^N2/ }).click();
	await service.getByRole('button', { name: 'It is seen to: in service again' }).click();
	await expect(page.getByText('Out of service: tip bent', { exact: true })).toBeHidden();
	await page.goto('/parts/feeders');
	await expect(page.getByTestId('nozzles').locator('tbody tr', { hasText: 'Line 2' }).filter({ hasText: 'N2' })).toBeVisible();
});

test('where the plant asks for it, a slot is right only when a second person has scanned it too', async ({ page, browser, setRule }) => {
	await signIn(page, 'dessa', '200468');
	const api = page.request;
	const { machines } = await (await api.get('/api/v1/lines/1/feeders')).json();
	const { name: machine, feeders } = machines[0] as { name: string; feeders: { slot: number; mark: string; feeder: string | null }[] };
	const stands = feeders.find((f) => f.mark === 'right' && f.feeder)!;
	const marked = async () => {
		const now = await (await api.get('/api/v1/lines/1/feeders')).json();
		return now.machines[0].feeders.find((f: { slot: number }) => f.slot === stands.slot).mark;
	};
	const scanned = async (by: APIRequestContext) => {
		const at = { slot: null, feeder: null };
		const first = await (
			await by.post('/api/v1/feeder-scans', { data: { lineId: 1, scan: `Line 1/${machine}/${stands.slot}`, ...at } })
		).json();
		return (await by.post('/api/v1/feeder-scans', { data: { lineId: 1, scan: stands.feeder, ...first.waits.context } })).json();
	};
	await setRule('slotCheck', { second: true });
	expect(await marked()).toBe('open');
	// Whoever scans it anew is the first; the same person once more is not the second.
	const other = await browser.newContext({ baseURL: process.env.BASE_URL! });
	const second = await other.newPage();
	await signIn(second, 'basil', '2002');
	await api.post('/api/v1/feeder-scans/out', { data: { stationId: 3, slot: stands.slot } });
	expect((await scanned(api)).ok).toBe(true);
	expect((await scanned(api)).what).not.toContain('seen by two');
	expect(await marked()).toBe('open');
	await page.goto(`/line/1/place/3?slot=${stands.slot}`);
	await expect(page.getByTestId('slot-scanned')).toContainText('a second one scans slot and feeder too');
	expect(await scanned(second.request)).toMatchObject({ ok: true, what: `Slot ${stands.slot}: right, seen by two` });
	expect(await marked()).toBe('right');
	await other.close();
});

test('another part stands for one only where it was approved for that customer; another footprint is refused', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	const api = page.request;
	const slots = await neededSlots();
	const slot = slots[0]!;
	const { machines } = await (await api.get('/api/v1/lines/1/feeders')).json();
	const first = machines.find((m: { name: string }) => m.name === slot.machine);
	const before = first.feeders.find((f: { slot: number }) => f.slot === slot.slot).feeder;
	const feeder = { code: 'E-ALT', tapeMm: slot.tapeMm, pitchMm: slot.pitchMm };
	expect((await api.post('/api/v1/feeders', { data: feeder })).status()).toBe(201);
	await receive(api, 'E-ALT-1', { ...slot, partNumber: 'STANDS-IN' });
	const at = { stationId: first.stationId, slot: slot.slot };
	const dock = async (code: string, context: object) =>
		(await api.post('/api/v1/feeder-scans', { data: { lineId: 1, scan: code, slot: at, feeder: null, ...context } })).json();
	const alternate = (customer: string | null, more: object = {}) =>
		api.post('/api/v1/alternates', {
			data: { partNumber: slot.partNumber, alternate: 'STANDS-IN', customer, note: 'same maker, newer series', ...more }
		});
	const inIt = async () => (await dock('E-ALT-1', { feeder: 'E-ALT' })).codes;
	expect(await inIt()).toEqual(['WRONG_PART']);
	await page.goto('/parts/short');
	const row = page.getByTestId('short').locator('tbody tr', { hasText: slot.partNumber }).first();
	await row.click();
	const form = page.getByRole('form', { name: `Alternate of ${slot.partNumber}` });
	const customers = await form.getByLabel('On whose boards').locator('option').allInnerTexts();
	// Line 1 builds the orchard frost sensor.
	const other = customers.find((c) => !c.includes('everybody') && c !== 'Hollin Bank Orchards')!;
	expect((await alternate(other)).status()).toBe(201);
	expect(await inIt()).toEqual(['ALTERNATE_NOT_APPROVED']);

	// Approved on its page, with what is not known of it.
	await form.getByLabel('Part that may stand for it').fill('STANDS-IN');
	await form.getByLabel('Why, for the record').fill('same maker, newer series');
	await form.getByRole('button', { name: 'Approve it' }).click();
	await expect(page.getByText('Know before it is loaded: nobody said yet which package STANDS-IN has.')).toBeVisible();
	await expect(row).toContainText('STANDS-IN: 4000');
	expect(await inIt()).toEqual(['OK_ALTERNATE']);

	// Taken back: what stands in the slot is wrong from then on.
	for (const customer of [null, other]) expect((await alternate(customer, { approved: false })).status()).toBe(201);
	expect((await alternate(null, { approved: false })).status()).toBe(422);
	const now = await (await api.get('/api/v1/lines/1/feeders')).json();
	const marked = now.machines
		.find((m: { name: string }) => m.name === slot.machine)
		.feeders.find((f: { slot: number }) => f.slot === slot.slot);
	expect(marked.mark).toBe('wrong');
	const bigger = slots.find((s) => s.tapeMm !== slot.tapeMm)!;
	const refused = await api.post('/api/v1/alternates', {
		data: { partNumber: slot.partNumber, alternate: bigger.partNumber, note: 'try' }
	});
	expect(refused.status()).toBe(422);
	expect(await refused.text()).toContain('has another footprint');
	await api.post('/api/v1/feeder-scans/out', { data: at });
	if (before) expect((await dock(before, {})).ok).toBe(true);
});

test('a faster program is looked for off the page, changed by hand and taken back, sent out as a file and read again, and released', async ({
	page
}) => {
	test.setTimeout(240_000);
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1/place/3/program');
	// A board that does not run here now.
	await page
		.getByLabel('Board', { exact: true })
		.selectOption({ label: (await page.locator('option', { hasText: 'Rowing' }).first().innerText()).trim() });
	await expect(page).toHaveURL(/side=/);
	const verdict = page.getByTestId('verdict');
	const secondsOf = async () => Number(/([\d.]+) s a panel/.exec(await verdict.innerText())![1]);
	await expect(verdict).toContainText(/s a panel at the slowest placer/);
	const before = await secondsOf();
	// The path is stepped through.
	await expect(page.getByTestId('cycle')).toContainText('cycle 1 of');
	await page.getByRole('button', { name: 'Next' }).click();
	await expect(page.getByTestId('cycle')).toContainText('cycle 2 of');
	await expect(page.getByTestId('steps').locator('tbody tr').first()).toContainText(/R|C|U/);

	await page.getByRole('button', { name: 'Look for a faster one' }).click();
	await expect(page.getByTestId('searching')).toContainText(/Step [2-9]/, { timeout: 60_000 });
	await page.getByRole('button', { name: 'Stop, keep the best so far' }).click();
	const changes = page.getByTestId('changes');
	await expect(changes).toContainText(/found: [\d.]+ to [\d.]+ s/);
	await expect(changes).toContainText(/above what no program can beat/);
	const found = await secondsOf();
	expect(found).toBeLessThan(0.95 * before);

	// A slot that the machine has not is refused in words; one that it has is a change of its own, and is taken back.
	await page.getByLabel('Slot', { exact: true }).fill('60');
	await page.getByRole('button', { name: 'Put it there' }).click();
	await expect(changes.getByRole('listitem')).toHaveCount(2);
	await page.getByRole('button', { name: 'Undo the last' }).click();
	await expect(changes.getByRole('listitem')).toHaveCount(1);

	// One placement: later in its cycle, then into another one; each a change of its own.
	const steps = page.getByTestId('steps').locator('tbody tr');
	const first = await steps.first().locator('td').nth(1).innerText();
	await steps.first().locator('td').nth(1).click();
	await page.getByRole('button', { name: 'Later', exact: true }).click();
	await expect(changes.getByRole('listitem').nth(1)).toContainText(`${first} of `);
	await expect(steps.nth(1)).toContainText(first);
	await page.getByLabel('Into cycle').fill('1');
	await page.getByRole('button', { name: 'Into this cycle' }).click();
	await expect(changes.getByRole('listitem').nth(2)).toContainText('to cycle 1');
	for (const left of [2, 1]) {
		await page.getByRole('button', { name: 'Undo the last' }).click();
		await expect(changes.getByRole('listitem')).toHaveCount(left);
	}
	expect(await secondsOf()).toBe(found);

	// Out as a file, and in again: the same; with one row less it is refused, and what stood stays.
	const saved = page.waitForEvent('download');
	await page.getByRole('button', { name: 'CSV', exact: true }).click();
	const csv = await (await saved).createReadStream().then(async (stream) => {
		const parts: Buffer[] = [];
		for await (const part of stream) parts.push(part as Buffer);
		return Buffer.concat(parts).toString();
	});
	const give = (name: string, text: string) =>
		page.locator('input[name="program"]').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
	await give('less.csv', csv.trim().split('\r\n').slice(0, -1).join('\r\n'));
	await expect(page.getByTestId('program-issues')).toContainText(/1 of \d+ placements are in no row that can be read/);
	await expect(changes.getByRole('listitem')).toHaveCount(1);
	await give('whole.csv', csv);
	await expect(changes.getByRole('listitem')).toHaveCount(2);
	await expect(changes.getByRole('listitem').nth(1)).toContainText('from whole.csv');
	expect(await secondsOf()).toBe(found);

	await changes.getByRole('button', { name: /^Release \d+$/ }).click();
	await expect(verdict).toContainText(/Program \d+: /);
	expect(await secondsOf()).toBe(found);
});

test('what the loader holds is said once: it is empty by the clock, in the same list as the slots, and the placer says so in time', async ({
	page
}) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/2/place/11/run-out');
	await expect(page.getByTestId('left-loader')).toHaveText('Nobody has said what the loader holds.');
	await page.getByLabel('Panels in the loader').fill('12,5');
	await page.getByRole('button', { name: 'Filled' }).click();
	await expect(page.getByTestId('left-loader')).toHaveText('Nobody has said what the loader holds.');
	await page.getByLabel('Panels in the loader').fill('30');
	await page.getByRole('button', { name: 'Filled' }).click();
	await expect(page.getByTestId('left-loader')).toContainText('of 30 since');
	await expect(page.getByTestId('run-out').getByRole('row', { name: /Loader empty/ })).toBeVisible();
	// None left by the count: the line stands for it, and the act stands beside the sentence.
	await page.getByLabel('Panels in the loader').fill('0');
	await page.getByRole('button', { name: 'Filled' }).click();
	await expect(page.getByTestId('verdict')).toContainText('The loader is empty by the count: the line stands for it.');
	await page.getByLabel('Panels in the loader').fill('400');
	await page.getByRole('button', { name: 'Filled' }).click();
	await expect(page.getByTestId('verdict')).not.toContainText('loader');
	await expect(page.getByTestId('run-out').getByRole('row', { name: /Loader empty/ })).toBeHidden();
});

test('faults that people see stand in a feeder’s history and make its care due; care counts them from none again', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	const code = 'E-FAULTY';
	expect((await page.request.post('/api/v1/feeders', { data: { code, tapeMm: 8, pitchMm: 4 } })).status()).toBe(201);
	await page.goto(`/parts/feeders?feeder=${code}`);
	const history = page.getByRole('list', { name: `History of ${code}` });
	const row = page.getByTestId('feeders').locator('tbody tr', { hasText: code });
	await expect(page.getByText('Nothing has been noted of it yet.')).toBeVisible();
	for (const [i, note] of ['cover tape tears', 'gear slips', 'cover tape tears again'].entries()) {
		await expect(row).not.toContainText('due');
		await page.getByLabel('What it did wrong').fill(note);
		await page.getByRole('button', { name: 'Note a fault' }).click();
		await expect(history.getByRole('listitem')).toHaveCount(i + 1);
		await expect(history.getByRole('listitem').first()).toContainText(`Fault: ${note}`);
	}
	await expect(row).toContainText('due');
	const care = await page.request.post(`/api/v1/feeders/${code}/care`, { data: { note: 'tape guide cleaned' } });
	expect(care.status()).toBe(200);
	await expect(history.getByRole('listitem').first()).toContainText('Cared for: tape guide cleaned');
	await expect(row).not.toContainText('due');
	// A thing that nobody knows has no history.
	expect((await page.request.post('/api/v1/feeders/E-NOBODY/faults', { data: { note: 'x' } })).status()).toBe(422);
});
