import { loadSlots } from '../../demo/src/feeders.ts';
import { expect, type Page } from './test.ts';

export async function signIn(page: Page, badge: string, pin: string): Promise<void> {
	await page.goto('/sign-in');
	await page.getByLabel('Badge').fill(badge);
	await page.getByLabel('PIN').fill(pin);
	await page.getByRole('button', { name: 'Sign in' }).click();
	await expect(page.getByTestId('next-up')).toBeVisible();
}

/** Lets the plant's clock run faster while something takes many panels. Whoever is signed in has to be a lead. */
export async function atRate(page: Page, rate: number, work: () => Promise<void>): Promise<void> {
	const set = async (to: number) => {
		const { now } = await (await page.request.get('/api/v1/clock')).json();
		expect((await page.request.put('/api/v1/clock', { data: { now, rate: to } })).status()).toBe(200);
	};
	const before = (await (await page.request.get('/api/v1/clock')).json()).rate as number;
	await set(rate);
	try {
		await work();
	} finally {
		await set(before);
	}
}

/** Waits for a run's first prints and releases it, as a technician does: until then its printer waits. A print that is not in order is followed by one more. */
export async function releaseFirstPrints(page: Page, runId: number): Promise<void> {
	const release = () => page.request.post(`/api/v1/runs/${runId}/first-print`);
	const MOST_MORE = 4;
	let refused = 0;
	let more = 0;
	await expect
		.poll(
			async () => {
				const answer = await release();
				if (answer.ok()) return 'released';
				const { message } = await answer.json();
				// A whole sentence about a panel: it was inspected and is not in order. The last prints count, so it may take more than one.
				const notInOrder = /^Not released\. \S+ (has|carries|is off|was not)/.test(message);
				if (notInOrder && refused++ % 5 === 0 && more++ < MOST_MORE)
					expect((await page.request.post(`/api/v1/runs/${runId}/first-print/more`)).status()).toBe(201);
				return message;
			},
			{ timeout: 120_000, intervals: [1000] }
		)
		.toBe('released');
}

/** Proves the set-up of a line's run as a technician does: what it asks to be scanned is scanned, and the first act of the reply is done; then it starts. */
export async function proveSetUp(page: Page, lineId: number): Promise<void> {
	const read = async () => (await page.request.get(`/api/v1/lines/${lineId}/ready`)).json();
	// Tests make hours of the plant pass: what lay on the stencil before may end in the middle of this run.
	await freshBead(page, lineId);
	await scanSlots(page, lineId);
	let ready = await read();
	for (let scans = 0; scans < 6 && ready.missing.length; scans++) {
		const item = ready.missing.find((i: { scan: string | null }) => i.scan) ?? ready.missing[0];
		const { scan, why, name } = item;
		expect(scan, `${name}: ${why}`).not.toBeNull();
		const found = await (await page.request.get(`/api/v1/find?code=${encodeURIComponent(scan)}&line=${lineId}`)).json();
		const [move] = found.moves;
		expect(move, `${found.what}: ${found.why}`).toBeDefined();
		expect((await page.request.post(move.path, { data: { ...move.body, ...(move.grams === null ? {} : { grams: 200 }) } })).ok()).toBe(
			true
		);
		ready = await read();
	}
	const started = await page.request.post(`/api/v1/runs/${ready.runId}/ready`);
	expect(started.status(), await started.text()).toBe(200);
}

/** Every slot that is not right is loaded by scans, with feeders and reels of its own; what is right stays. */
export async function scanSlots(page: Page, lineId: number): Promise<void> {
	const label = `X${Date.now().toString(36).slice(-6).toUpperCase()}`;
	let number = 0;
	const hands = {
		async send<T>(method: string, path: string, data?: object): Promise<T> {
			const answer = await page.request.fetch(path, { method, ...(data ? { data } : {}) });
			expect(answer.ok(), `${method} ${path}: ${await answer.text()}`).toBe(true);
			return (await answer.json()) as T;
		}
	};
	const labels = {
		feeder: () => `${label}-F${++number}`,
		reel: () => `${label}-R${++number}`,
		about: () => ({ makerLot: `Q2650-${label}`, place: 'rack X' })
	};
	const { wanted, loaded } = await loadSlots(hands, lineId, labels, { panels: 20 });
	expect(loaded).toBe(wanted);
}

/** What lies on the stencil is thrown away; a jar that was taken out in time is opened and goes on it. */
async function freshBead(page: Page, lineId: number): Promise<void> {
	const event = async (jar: string, data: object) => {
		const answer = await page.request.post(`/api/v1/jars/${jar}/events`, { data: { fact: true, ...data } });
		expect(answer.ok(), await answer.text()).toBe(true);
	};
	const { jars } = await (await page.request.get(`/api/v1/lines/${lineId}/bead`)).json();
	for (const jar of jars) await event(jar, { kind: 'scrape_off', lineId, grams: 0 });
	const { now } = await (await page.request.get('/api/v1/clock')).json();
	const before = (hours: number) => new Date(Date.parse(now) - hours * 3_600_000).toISOString();
	const id = `T-${Date.now() % 10_000_000}`;
	const received = await page.request.post('/api/v1/jars', {
		data: { id, pasteId: 1, lot: 'L26-300', expiry: '2027-12', grams: 500, received: before(48), fridgeId: 1 }
	});
	expect(received.status(), await received.text()).toBe(201);
	await event(id, { kind: 'store_cold', at: before(47) });
	await event(id, { kind: 'take_out', at: before(8) });
	await event(id, { kind: 'open', at: before(0.1), stirred: true });
	await event(id, { kind: 'load_stencil', lineId, grams: 200 });
}

/** Chooses how figures are read, as a person does; an empty choice is as the plant has it. */
export async function readAs(page: Page, numbers: string, units: string): Promise<void> {
	await page.getByRole('button', { name: 'Numbers and units' }).click();
	const dialog = page.getByRole('dialog', { name: 'Numbers and units' });
	await dialog.getByLabel('Numbers and dates').selectOption(numbers && { label: numbers });
	await dialog.getByLabel('Units').selectOption(units && { label: units });
	await dialog.getByRole('button', { name: 'Keep it so' }).click();
	await expect(dialog).toBeHidden();
}
