import { expect, type Page } from '@playwright/test';

export async function signIn(page: Page, badge: string, pin: string): Promise<void> {
	await page.goto('/sign-in');
	await page.getByLabel('Badge').fill(badge);
	await page.getByLabel('PIN').fill(pin);
	await page.getByRole('button', { name: 'Sign in' }).click();
	await expect(page.getByTestId('next-up')).toBeVisible();
}

/** Waits for a run's first prints and releases it, as a technician does: until then its printer waits. */
export async function releaseFirstPrints(page: Page, runId: number): Promise<void> {
	await expect
		.poll(async () => (await page.request.post(`/api/v1/runs/${runId}/first-print`)).status(), { timeout: 120_000, intervals: [1000] })
		.toBe(200);
}

/** Proves the set-up of a line's run as a technician does: what it asks to be scanned is scanned, and the first act of the reply is done; then it starts. */
export async function proveSetUp(page: Page, lineId: number): Promise<void> {
	const read = async () => (await page.request.get(`/api/v1/lines/${lineId}/ready`)).json();
	let ready = await read();
	for (let scans = 0; scans < 6 && ready.missing.length; scans++) {
		const { scan, why, name } = ready.missing.find((item: { scan: string | null }) => item.scan) ?? ready.missing[0];
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
