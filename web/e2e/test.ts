import { test as base, expect, type Page } from '@playwright/test';

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

interface Fixtures {
	/** Sets a rule of the plant through the page's own sign-in, as often as wanted; after the test it is as it was. */
	setRule: (name: string, value: object) => Promise<void>;
}

export const test = base.extend<Fixtures>({
	page: ({ page }, use) => use(waitsUntilAlive(page)),
	setRule: async ({ page }, use) => {
		const before = new Map<string, object>();
		const setRule = async (name: string, value: object) => {
			const stands = await (await page.request.get(`/api/v1/rules/${name}`)).json();
			if (!before.has(name)) before.set(name, stands.value);
			const data = { value, startedFrom: stands.set?.revision ?? null };
			const put = await page.request.put(`/api/v1/rules/${name}`, { data });
			expect(put.status(), await put.text()).toBe(200);
		};
		await use(setRule);
		for (const [name, value] of before) await setRule(name, value);
	}
});
