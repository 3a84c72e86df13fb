import { test as base, type Page } from '@playwright/test';

export * from '@playwright/test';

/** A page that is opened has come alive when `goto` returns: what is pressed or scanned before that is nobody's. Whoever waits for its first byte only (`commit`) is about that very time. */
function waitsUntilAlive(page: Page): Page {
	const goto = page.goto.bind(page);
	page.goto = async (url, options) => {
		const response = await goto(url, options);
		const html = response?.headers()['content-type']?.startsWith('text/html');
		if (html && options?.waitUntil !== 'commit') await page.waitForFunction(() => document.documentElement.dataset.alive === 'yes');
		return response;
	};
	return page;
}

export const test = base.extend({ page: ({ page }, use) => use(waitsUntilAlive(page)) });
