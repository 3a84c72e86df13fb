import { expect, test, type Page } from './test.ts';
import { signIn } from './people.ts';

/** What tile and head say at the same instant. */
const said = (page: Page) =>
	page.evaluate(() => {
		const tile = document.querySelector<HTMLElement>('nav[aria-label="Line"] a[aria-current="page"]');
		const head = document.querySelector<HTMLElement>('[data-testid="verdict"]');
		return {
			tile: tile?.dataset.level ?? null,
			head: head?.dataset.level ?? null,
			words: head?.querySelector('h1')?.textContent?.trim() ?? ''
		};
	});

test('a station says one thing: its tile, the head of its page and the shift’s sheet agree', async ({ page }) => {
	test.setTimeout(180_000);
	await signIn(page, 'dessa', '200468');
	await page.goto('/line/1');
	const tiles = await page
		.locator('nav[aria-label="Line"] a[data-testid^="tile-"]')
		.evaluateAll((links) => links.map((link) => ({ name: link.dataset.testid!.slice(5), href: link.getAttribute('href')! })));
	expect(tiles.length).toBeGreaterThanOrEqual(6);
	for (const { name, href } of tiles)
		await expect(async () => {
			await page.goto(href);
			const { tile, head, words } = await said(page);
			expect(tile, `${name}: a tile of its page`).not.toBeNull();
			// Several stations behind one tile: the tile says the worst of them, their pages each their own.
			if (!/\(\d+\)/.test(name)) expect(head, `${name}: head and tile`).toBe(tile);
			expect(words).toMatch(/^(Good|Watch|Act|Stopped|No data)\. \S/);
		}).toPass({ timeout: 60_000 });

	await expect(async () => {
		await page.goto('/shift');
		const lines = await page.getByTestId('shift-facts').locator('li').allInnerTexts();
		const stations = lines.flatMap((line) => {
			const tile = tiles.find(({ name }) => line.startsWith(`${name}: `));
			return tile && /: (Watch|Act|Stopped)\. /.test(line) ? [{ ...tile, line }] : [];
		});
		for (const { name, href, line } of stations) {
			await page.goto(href);
			expect(line.startsWith(`${name}: ${(await said(page)).words.replace(/\s+/g, ' ')}`), `${name}: head and sheet: ${line}`).toBe(true);
		}
	}).toPass({ timeout: 60_000 });
});

test('what is next opens the place where it is done', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/line/1');
	await page
		.getByTestId('next-up')
		.getByRole('button', { name: /all \d/ })
		.click();
	const due = page.getByRole('dialog', { name: 'Next up' }).locator('tbody tr');
	await expect(due.first()).toBeVisible();
	const links = await due.getByRole('link').evaluateAll((all) => all.map((link) => link.getAttribute('href')!));
	expect(links.length).toBeGreaterThan(0);
	for (const href of new Set(links)) {
		const response = await page.goto(href);
		expect(response!.status(), href).toBe(200);
		await expect(page.getByRole('main')).toBeVisible();
	}
});

test('a wall shows every station without scrolling: what asks for something with its sentence, the others by name', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	await page.setViewportSize({ width: 1280, height: 800 });
	await page.goto('/line/1');
	const names = await page.getByTestId('stations').locator('li > a').allInnerTexts();
	expect(names.length).toBeGreaterThanOrEqual(8);
	await page.goto('/line/1/wall');
	const main = page.getByRole('main');
	for (const name of names) await expect(main.getByText(new RegExp(`^${name}\\.?$`)).first(), name).toBeInViewport({ ratio: 1 });
	const cut = await page.getByTestId('stations').evaluate((list) => list.scrollHeight - list.clientHeight);
	expect(cut).toBeLessThanOrEqual(0);
	await page.goto('/plant/wall');
	for (const line of await page.getByTestId('lines').locator('> li').all()) await expect(line).toBeInViewport({ ratio: 1 });
});
