import { readFile } from 'node:fs/promises';
import exceljs from 'exceljs';
import { expect, test, type Page } from './test.ts';
import { signIn } from './people.ts';

const column = (page: Page, nth: number) => page.getByTestId('stencils').locator('tbody tr').locator(`td:nth-child(${nth})`);

test('a table is put in order, filtered, set and kept for its person, walked through by keys, and taken along as it is shown', async ({
	page,
	browser
}) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/line/1/print/stencil/library');
	const table = page.getByTestId('stencils');
	const header = (name: string) => table.getByRole('columnheader', { name });
	await expect(table.locator('tbody tr')).toHaveCount(7);

	// Figures by size, the largest first; pressed again, the smallest.
	await header('Prints').getByRole('button').click();
	await expect(header('Prints')).toHaveAttribute('aria-sort', 'descending');
	const prints = async () => (await column(page, 6).allInnerTexts()).map(Number);
	expect(await prints()).toEqual([...(await prints())].sort((a, b) => b - a));
	await header('Prints').getByRole('button').click();
	await expect(header('Prints')).toHaveAttribute('aria-sort', 'ascending');
	expect(await prints()).toEqual([...(await prints())].sort((a, b) => a - b));

	// A filter over all columns, or over one.
	const [number] = await column(page, 2).allInnerTexts();
	await table.getByRole('searchbox').fill(number!);
	await expect(table.locator('tbody tr')).toHaveCount(1);
	await expect(table.getByText('1 of 7')).toBeVisible();
	await table.getByLabel('Filter in').selectOption({ label: 'in Place' });
	await expect(table.getByText(`No row has “${number}” in Place.`)).toBeVisible();
	await table.getByLabel('Filter in').selectOption('');

	// What is shown is what is taken along.
	await table.getByText('Columns', { exact: true }).click();
	await table.getByRole('checkbox', { name: 'Side' }).uncheck();
	await expect(header('Side')).toBeHidden();
	const taken = async (name: 'CSV' | 'XLSX') => {
		const download = page.waitForEvent('download');
		await table.getByRole('button', { name }).click();
		return readFile((await (await download).path())!);
	};
	const csv = (await taken('CSV')).toString('utf8').replace('\ufeff', '').trim().split('\r\n');
	expect(csv[0]).toBe('Number,Board,"Foil, µm",Prints,Place,Cleaned');
	expect(csv).toHaveLength(2);
	expect(csv[1]).toContain(number);
	await table.getByRole('searchbox').fill('');
	const workbook = new exceljs.Workbook();
	await workbook.xlsx.load((await taken('XLSX')) as never);
	const sheet = workbook.worksheets[0]!;
	expect(sheet.rowCount).toBe(8);
	expect((sheet.getRow(1).values as string[]).slice(1)).toEqual(['Number', 'Board', 'Foil, µm', 'Prints', 'Place', 'Cleaned']);
	expect(sheet.getRow(2).getCell(4).value).toBe(Number((await column(page, 5).allInnerTexts())[0]));

	// By keys: down from row to row, Enter opens.
	await table.locator('tbody tr').first().focus();
	await page.keyboard.press('ArrowDown');
	await expect(table.locator('tbody tr').nth(1)).toBeFocused();
	const second = await table.locator('tbody tr').nth(1).getByRole('button').innerText();
	await page.keyboard.press('Enter');
	await expect(page.getByRole('heading', { name: second })).toBeVisible();

	// It is found again as it was left; for somebody else it stands as it comes.
	await page.goto('/line/1/print/stencil/library');
	await expect(header('Prints')).toHaveAttribute('aria-sort', 'ascending');
	await expect(header('Side')).toBeHidden();
	const other = await browser.newPage();
	await signIn(other, 'basil', '2002');
	await other.goto('/line/1/print/stencil/library');
	await expect(other.getByTestId('stencils').getByRole('columnheader', { name: 'Side' })).toBeVisible();
	await expect(other.getByTestId('stencils').getByRole('columnheader', { name: 'Prints' })).toHaveAttribute('aria-sort', 'none');
	await other.close();
	await table.getByText('Columns', { exact: true }).click();
	await table.getByRole('checkbox', { name: 'Side' }).check();
	await expect(header('Side')).toBeVisible();
});

test('of a long table only what is in sight is drawn, and all of it can be reached', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/panels');
	const table = page.getByTestId('panels');
	const list = table.getByRole('group', { name: 'Panels', exact: true });
	const serial = table.getByRole('columnheader', { name: 'Serial' });
	const sort = async (way: 'ascending' | 'descending') => {
		await expect(async () => {
			if ((await serial.getAttribute('aria-sort')) !== way) await serial.getByRole('button').click();
			await expect(serial).toHaveAttribute('aria-sort', way, { timeout: 500 });
		}).toPass();
	};
	// Panels are printed meanwhile, and the oldest leaves the list of the latest: both ends are read until they are of one list.
	await expect(async () => {
		await sort('ascending');
		await list.evaluate((rows) => rows.scrollTo(0, 0));
		await expect(table.locator('tbody tr[data-row]').first()).toHaveAttribute('data-row', '0', { timeout: 2000 });
		const first = await table.locator('tbody tr td a').first().innerText();
		await sort('descending');
		await list.evaluate((rows) => rows.scrollTo(0, rows.scrollHeight));
		const count = Number.parseInt(await table.getByText(/^\d+ rows$/).innerText());
		await expect(table.locator('tbody tr[data-row]').last()).toHaveAttribute('data-row', String(count - 1), { timeout: 2000 });
		expect(await table.locator('tbody tr[data-row]').count()).toBeLessThan(count);
		await expect(table.locator('tbody tr td a').last()).toHaveText(first, { timeout: 500 });
	}).toPass();
});
