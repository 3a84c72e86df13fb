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
