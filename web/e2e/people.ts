import { expect, type Page } from '@playwright/test';

export async function signIn(page: Page, badge: string, pin: string): Promise<void> {
	await page.goto('/sign-in');
	await page.getByLabel('Badge').fill(badge);
	await page.getByLabel('PIN').fill(pin);
	await page.getByRole('button', { name: 'Sign in' }).click();
	await expect(page.getByTestId('next-up')).toBeVisible();
}
