import { expect, test } from './test.ts';
import { readAs, signIn } from './people.ts';

test('each person reads and types figures in their own way; what is stored is one and the same', async ({ page, browser }) => {
	await signIn(page, 'dessa', '200468');
	await readAs(page, '', '');
	await page.goto('/boards');
	const size = page.locator('tbody tr').first().locator('td').nth(4);
	const metric = /^\d+\.\d$/.exec(await size.innerText())!;
	await expect(page.getByRole('columnheader', { name: 'Width, mm' })).toBeVisible();

	await readAs(page, 'Germany: 0,25 · 27.11.2026', 'metric: mm, µm, °C, g');
	await expect(size).toHaveText(metric[0].replace('.', ','));
	// A shift's date, a foil, a field: day first and with a comma, and the field takes both signs and units.
	await page.goto('/shift');
	await expect(page.getByTestId('verdict')).toContainText(/\d\d\.\d\d\.\d{4}, \d\d:\d\d to \d\d:\d\d/);
	await page.goto('/line/1/print/set-up');
	const gap = page.getByLabel('Print gap, mm');
	await gap.fill('20 mil');
	await expect(page.getByText('= 0,508 mm')).toBeVisible();
	await gap.blur();
	await expect(gap).toHaveValue('0,508');
	await gap.fill('');
	await gap.pressSequentially('0.5');
	await expect(gap).toHaveValue('0,5');
	await gap.fill('5 °C');
	await expect(page.getByText('“°C” does not measure this: it is in mm.')).toBeVisible();

	// Somebody else at another screen reads inches of the same board; the first still reads millimetres.
	const other = await browser.newPage();
	await signIn(other, 'basil', '2002');
	await readAs(other, 'United States: 0.25 · 11/27/2026', 'customary: in, mil, °F, oz');
	await other.goto('/boards');
	await expect(other.getByRole('columnheader', { name: 'Width, in' })).toBeVisible();
	const inches = (mm: string) => (Number(mm) / 25.4).toFixed(2);
	await expect(other.locator('tbody tr').first().locator('td').nth(4)).toHaveText(inches(metric[0]));
	await other.goto('/line/1/print/stencil');
	await expect(other.getByLabel('Foil, mil')).toHaveValue(/^\d\.\d+$|^\d$/);
	await other.goto('/shift');
	await expect(other.getByTestId('verdict')).toContainText(/\d\d\/\d\d\/\d{4}, /);
	await other.goto('/line/1/oven');
	await expect(other.getByLabel('Zone 1, °F')).toHaveValue(/^[23]\d\d(\.\d+)?$/);
	await page.goto('/boards');
	await expect(size).toHaveText(metric[0].replace('.', ','));
	// Back to the plant's own.
	for (const p of [page, other]) await readAs(p, '', '');
	await expect(size).toHaveText(metric[0]);
	await other.close();
});
