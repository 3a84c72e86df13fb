import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, request, test, type Page } from './test.ts';
import type axe from 'axe-core';
import { SCANNER_TEST_CODE } from '@keen-relay/core/trace';
import { misfits } from './fits.ts';
import { signIn } from './people.ts';

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const verdict = (page: Page) => page.getByTestId('verdict');

const PAGES = [
	'/line/1',
	'/line/1/hours',
	'/line/1/stops',
	'/line/1/paste',
	'/line/1/print',
	'/line/1/print/set-up',
	'/line/1/print/alignment',
	'/line/1/print/stencil',
	'/line/1/print/openings',
	'/line/1/print/stencil/library',
	'/line/1/paste-check',
	'/line/1/paste-check/causes',
	'/line/1/paste-check/classes',
	'/line/1/paste-check/limits',
	'/line/1/paste-check/files',
	'/line/1/paste-check/files/study',
	'/line/1/paste-check/limits/consequences',
	'/line/1/paste-check/unit',
	'/line/1/paste-check/causes/thresholds',
	'/line/1/print/trial',
	'/line/1/paste/plan',
	'/line/1/paste/pastes',
	'/line/1/paste/air',
	'/line/1/place/3',
	'/line/1/place/4',
	'/line/1/place/3/run-out',
	'/line/1/place/3/trims',
	'/line/1/place/3/picks',
	'/line/1/place/3/program',
	'/line/1/oven',
	'/line/1/optical',
	'/line/1/optical/files',
	'/line/1/in-circuit',
	'/line/1/in-circuit/files',
	'/boards',
	'/boards/new',
	'/boards/1',
	'/boards/revisions?side=1',
	'/boards/differences?side=1',
	'/parts',
	'/parts/reels',
	'/parts/moisture',
	'/parts/short',
	'/parts/feeders',
	'/runs',
	'/runs/first',
	'/panels',
	'/panels/J-2411-0002',
	'/shift',
	'/shift/lost-time',
	'/shift/changes',
	'/shift/hand-over',
	'/plant/set-up',
	'/plant/set-up/plant',
	'/plant/set-up/lines',
	'/plant/set-up/lines?line=new',
	'/plant/set-up/copy',
	'/plant/rules',
	'/plant/machines/first',
	'/plant/machines/scanner',
	'/plant/log/said',
	'/panels/holds',
	'/runs/ready',
	'/line/1/report/2',
	'/plant/log',
	'/boards/packages',
	'/plant',
	'/plant/machines',
	'/plant/people',
	'/plant/machines/clock',
	'/plant/machines/api'
];

test('every page opens without an error, says one main thing, and never scrolls sideways', async ({ page }) => {
	const errors: string[] = [];
	page.on('pageerror', (error) => errors.push(error.message));
	page.on('console', (entry) => entry.type() === 'error' && errors.push(entry.text()));
	await signIn(page, 'basil', '2002');
	for (const path of PAGES) {
		await page.goto(path);
		await expect(page.locator('main h1, form h1').first(), path).toBeVisible();
		await expect(page.getByTestId('next-up'), path).toBeInViewport();
		const size = await page.evaluate(() => [document.documentElement.scrollWidth, document.documentElement.scrollHeight]);
		expect(size[0], path).toBeLessThanOrEqual(1280);
		expect(size[1], path).toBeLessThanOrEqual(800);
	}
	expect(errors).toEqual([]);
});

// A tablet; a panel PC at 150 %; a large screen.
for (const [width, height] of [
	[1024, 768],
	[853, 533],
	[1920, 1080]
] as const)
	test(`everything fits a screen of ${width} by ${height}`, async ({ page }) => {
		test.setTimeout(300_000);
		await signIn(page, 'basil', '2002');
		await page.setViewportSize({ width, height });
		// A wall hangs on a wall.
		for (const path of [...PAGES, ...(width < 1280 ? [] : ['/line/1/wall', '/plant/wall'])]) {
			await page.goto(path);
			await expect(page.locator('main h1, form h1').first()).toBeVisible();
			await expect.poll(() => misfits(page), { message: path, timeout: 5000 }).toEqual([]);
		}
	});

for (const theme of ['day', 'night'])
	test(`no accessibility fault by ${theme} (WCAG 2.2, A and AA)`, async ({ page }) => {
		await signIn(page, 'basil', '2002');
		await page.evaluate((name) => localStorage.setItem('theme', name), theme);
		for (const path of PAGES) {
			await page.goto(path);
			await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
			await expect(page.locator('main h1, form h1').first()).toBeVisible();
			// Not as a script of the page: its policy would not let it in.
			await page.evaluate(axeSource);
			const faults = await page.evaluate(async () => {
				const result = await (window as unknown as { axe: typeof axe }).axe.run(document, {
					runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']
				});
				return result.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 120)).join(' | ')}`);
			});
			expect(faults, `${path}, ${theme}`).toEqual([]);
		}
	});

test('on the floor sizes hold: verdict 28 px, key figure 44 px, actions 64 px high', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	for (const path of ['/line/1/print', '/line/1/oven', '/line/1/paste-check', '/line/1/optical', '/line/1/place/3']) {
		await page.goto(path);
		const px = (selector: string) =>
			page
				.locator(selector)
				.first()
				.evaluate((node) => parseFloat(getComputedStyle(node).fontSize));
		expect(await px('[data-testid="verdict"] h1'), path).toBeGreaterThanOrEqual(28);
		expect(await px('[data-testid="key-figure"]'), path).toBeGreaterThanOrEqual(44);
	}
	await page.goto('/line/1/oven');
	for (const name of ['Tune', /Recipe 1 released|Release recipe/]) {
		const box = await page.getByRole('button', { name }).boundingBox();
		expect(box!.height).toBeGreaterThanOrEqual(64);
	}
});

test('a level is a shape and a word, not only a colour', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/paste-check');
	const level = await verdict(page).getAttribute('data-level');
	const words: Record<string, string> = { good: 'Good', watch: 'Watch', act: 'Act', stopped: 'Stopped', noData: 'No data' };
	await expect(verdict(page).locator('h1')).toHaveText(new RegExp(`^\\s*${words[level!]}\\.`));
	await expect(verdict(page).getByRole('img', { name: words[level!] })).toBeVisible();
	for (const mark of await page.locator('nav svg[role="img"]').all()) {
		const box = await mark.boundingBox();
		expect(box!.width).toBeGreaterThanOrEqual(20);
	}
});

test('the keys: arrows walk the strip, g goes, w shows the working, ? lists them, letters in a field are letters', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/optical');
	await page.getByTestId('tile-Print').focus();
	await page.keyboard.press('ArrowRight');
	await expect(page.getByTestId('tile-Paste check')).toBeFocused();
	await page.keyboard.press('ArrowLeft');
	await expect(page.getByTestId('tile-Print')).toBeFocused();
	await page.locator('h1').first().click();
	await page.keyboard.press('w');
	await expect(page.getByRole('dialog', { name: 'Working' })).toContainText('interval by Wilson, 95 %');
	await page.keyboard.press('Escape');
	await expect(page.getByRole('dialog', { name: 'Working' })).toBeHidden();
	await page.keyboard.press('?');
	await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
	await page.keyboard.press('Escape');
	// As people press keys: faster than this it is a scanner.
	await page.keyboard.press('g', { delay: 150 });
	await page.keyboard.press('b');
	await expect(page).toHaveURL(/\/boards$/);
	await page.keyboard.press('/');
	await expect(page.getByLabel('Scan or type any code')).toBeFocused();
	await page.keyboard.press('n');
	// What is typed into a field is no key of the page: by the time it stands there, the dialog would be open.
	await expect(page.getByLabel('Scan or type any code')).toHaveValue('n');
	await expect(page.getByRole('dialog', { name: 'Next up' })).toBeHidden();
});

test('an unknown code is a clear no, large enough to read from afar', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.getByLabel('Scan or type any code').fill('ZZ-404');
	await page.getByLabel('Scan or type any code').press('Enter');
	const reply = page.getByTestId('scan-reply');
	await expect(reply).toContainText('No: ZZ-404 is not known');
	expect(
		await reply
			.locator('p')
			.first()
			.evaluate((node) => parseFloat(getComputedStyle(node).fontSize))
	).toBeGreaterThanOrEqual(84);
	expect((await reply.boundingBox())!.width).toBeGreaterThanOrEqual(1280);
	await reply.getByRole('button', { name: 'Close' }).click();
	await expect(reply).toBeHidden();
});

test('codes of jobs, reels and badges answer what they are', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	const field = page.getByLabel('Scan or type any code');
	const reply = page.getByTestId('scan-reply');
	for (const [code, answer] of [
		['J-2412', /Job J-2412/],
		['corin', /C\. Fell/],
		['[)>\u001e06\u001dSJ-2411-0003\u001e\u0004', /Panel J-2411-0003/]
	] as const) {
		await field.fill(code);
		await field.press('Enter');
		await expect(reply).toContainText(answer);
		await reply.getByRole('button', { name: 'Close' }).click();
	}
	await page.goto('/panels/J-2411-0002');
	const reel = await page
		.getByText(/^RL-?\d+$/)
		.first()
		.innerText();
	await field.fill(reel);
	await field.press('Enter');
	await expect(reply).toContainText('Reel of FB-');
	await reply.getByRole('link', { name: 'Its page' }).click();
	await expect(page).toHaveURL(/\/place\/\d+\?slot=\d+|\/parts\/reels\?reel=RL-/);
});

test('a page that is not there says so and leaves the strip', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	for (const [path, says] of [
		['/panels/NO-SUCH', 'Not found.'],
		['/boards/9999', 'Not found.'],
		['/line/1/place/99', 'Not there yet. This line has no such station.'],
		['/boards/abc', 'Not found.']
	] as const) {
		await page.goto(path);
		await expect(page.getByRole('alert')).toContainText(says);
		await expect(page.getByTestId('tile-Print')).toBeVisible();
	}
});

test('a wrong PIN is refused without saying which of the two was wrong; signing out closes the pages', async ({ page }) => {
	await page.goto('/boards');
	await expect(page).toHaveURL(/\/sign-in\?to=%2Fboards/);
	await expect(page.getByTestId('demo-people')).toContainText('anwen');
	for (const [badge, pin] of [
		['anwen', '9999'],
		['nobody', '2001']
	] as const) {
		await page.getByLabel('Badge').fill(badge);
		await page.getByLabel('PIN').fill(pin);
		await page.getByRole('button', { name: 'Sign in' }).click();
		await expect(page.getByRole('alert')).toHaveText('This badge and PIN do not go together.');
	}
	await page.getByLabel('Badge').fill('anwen');
	// Three tries in a row are slowed down, the right ones too: a moment later it works.
	await expect(async () => {
		await page.getByLabel('PIN').fill('2001');
		await page.getByRole('button', { name: 'Sign in' }).click();
		await expect(page).toHaveURL(/\/boards$/, { timeout: 3000 });
	}).toPass({ timeout: 60_000 });
	await page.getByRole('button', { name: 'Sign out' }).click();
	await expect(page).toHaveURL(/\/sign-in/);
	await page.goto('/runs');
	await expect(page).toHaveURL(/\/sign-in/);
});

test('past shifts show what they did and who took over; their sheet stands', async ({ page }) => {
	await signIn(page, 'corin', '2003');
	await page.goto('/shift');
	const rows = page.getByTestId('shifts').locator('tbody tr');
	await expect(rows).toHaveCount(8);
	// The shift that runs may be handed over already: a past one is the last of them.
	await rows.filter({ hasText: 'F. Larch' }).last().getByRole('link').click();
	await expect(page).toHaveURL(/\?of=/);
	await expect(verdict(page)).toContainText('handed over by A. Tarn to F. Larch');
	await page.getByRole('link', { name: 'Hand over this shift' }).click();
	await expect(page.getByTestId('hand-over')).toContainText(/\d+ panels printed, \d+ finished/);
	// Every block of the sheet can be reached, the last one too.
	const changed = page.getByTestId('hand-over').getByText(/run started: J-24\d+/);
	await changed.scrollIntoViewIfNeeded();
	await expect(changed).toBeInViewport();
	await expect(page.getByText('The sheet stands as it was signed.')).toBeVisible();
	await expect(page.getByLabel('Note to the next shift')).toBeDisabled();
});

test('a board’s page: the drawing answers a click, the panel that was built stands', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/boards');
	await page.getByRole('link', { name: 'Tram-door controller' }).click();
	await expect(page.getByText('parts-list.xlsx')).toBeVisible();
	await expect(page.getByText(/C\d+ \(line \d+\) is not fitted, yet its pads get paste/).first()).toBeVisible();
	await expect(page.getByRole('button', { name: 'The panel has been built: it stands' })).toBeDisabled();
	const drawing = page.getByTestId('board-drawing');
	const box = (await drawing.boundingBox())!;
	// The controller's body stands in the middle of this board: its pads are all around the centre.
	for (let dx = 0; dx < 80; dx += 8) {
		await drawing.click({ position: { x: box.width / 2 + dx, y: box.height / 2 } });
		if (await page.getByRole('heading', { name: /, opening \d+/ }).isVisible()) break;
	}
	await expect(page.getByRole('heading', { name: /, opening \d+, pin unknown/ })).toBeVisible();
	await page.getByRole('button', { name: 'Panel', exact: true }).click();
	await expect(page.getByText('112.0 × 145.0 mm')).toBeVisible();
});

test('the panel is shaded by a quantity, one panel or the strokes of one blade', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	const shown = page.waitForResponse((r) => /\/api\/v1\/panels\/.+\/paste$/.test(r.url()));
	await page.goto('/line/1/paste-check');
	const one = (await (await shown).json()) as { volumePct: number[] };
	const drawing = page.getByTestId('board-drawing');
	await expect(drawing).toBeVisible();
	const picture = () => drawing.evaluate((canvas: HTMLCanvasElement) => canvas.toDataURL());
	const byVerdict = await picture();
	await page.getByLabel('Shaded by').selectOption('volume');
	await expect(page.getByTestId('shades')).toHaveText(/50\s*150\s*%/);
	await expect.poll(picture).not.toBe(byVerdict);
	const asked = page.waitForResponse((r) => r.url().includes('/pads?stroke=R'));
	await page.getByLabel('What is drawn').selectOption('R');
	const rear = (await (await asked).json()) as { panels: number; volumePct: number[] };
	expect(rear.panels).toBeGreaterThan(1);
	// As many pads as the panel itself has, whichever board is on the line.
	expect(rear.volumePct).toHaveLength(one.volumePct.length);
	await expect(page.getByText('each pad’s middle over the rear strokes')).toBeVisible();
	expect((await page.request.get('/api/v1/runs/1/pads?stroke=X')).status()).toBe(422);
});

test('one pad’s history opens from the panel’s picture', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/paste-check');
	const drawing = page.getByTestId('board-drawing');
	await expect(drawing).toBeVisible({ timeout: 60_000 });
	const box = (await drawing.boundingBox())!;
	// Wherever the pads of this board lie: a click near one takes it.
	search: for (let y = 0.25; y < 0.8; y += 0.08)
		for (let x = 0.3; x < 0.7; x += 0.03) {
			await drawing.click({ position: { x: box.width * x, y: box.height * y } });
			if (await page.getByTestId('pad').isVisible()) break search;
		}
	await expect(page.getByTestId('pad')).toContainText('volume, %');
	await expect(page.getByTestId('pad').getByRole('img', { name: 'Volume of this pad through the run' })).toBeVisible();
	await page.getByRole('button', { name: 'All pads' }).click();
	await expect(page.getByTestId('pad')).toBeHidden();
});

test('what somebody is typing survives news from the line', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1/oven');
	await page.getByLabel('Zone 2, °C').fill('133');
	// Twice the oven says what it does, and the page reads its data again.
	const machine = await request.newContext({
		baseURL: process.env.BASE_URL!,
		extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}`, 'content-type': 'application/x-ndjson' }
	});
	const bootId = randomUUID();
	for (const number of [0, 1]) {
		const { now } = (await (await machine.get('/api/v1/clock')).json()) as { now: string };
		const again = page.waitForResponse((response) => response.url().includes('__data.json') && response.ok());
		const message = { source: 'Line 1/Oven', bootId, number, at: now, type: 'state', state: 'running' };
		expect((await machine.post('/api/v1/messages', { data: JSON.stringify(message) })).status()).toBe(200);
		await again;
	}
	await expect(page.getByLabel('Zone 2, °C')).toHaveValue('133');
	await expect(verdict(page)).toContainText('Edited; recipe');
});

test('what is pressed and chosen before the page has come alive is done once it has', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	// The page is shown at once; its script comes late.
	let letThrough = () => {};
	const late = new Promise<void>((done) => (letThrough = done));
	await page.route('**/_app/**/*.js', async (route) => {
		await late;
		await route.continue();
	});
	await page.goto('/line/1/paste-check/classes', { waitUntil: 'commit' });
	const cost = page.getByTestId('wipe-cost');
	await cost.getByLabel('a defect costs').fill('321');
	await cost.getByRole('button', { name: 'Work it out with these costs' }).click();
	letThrough();
	await expect(page).toHaveURL(/defect=321/);
});

test('a scanner is tried out on its page: what it does wrong is named, and no code is looked up meanwhile', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/plant/machines/scanner');
	await expect(verdict(page)).toContainText('Nothing was read');
	const scan = async (text: string) => {
		await page.evaluate((code) => {
			for (const key of [...code, 'Enter']) window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
		}, text);
	};
	await scan(SCANNER_TEST_CODE);
	await expect(verdict(page)).toContainText('It reads right, ends with Enter, and is fast enough.');
	await scan([...SCANNER_TEST_CODE].map((c) => ({ y: 'z', z: 'y', Y: 'Z', Z: 'Y' })[c] ?? c).join(''));
	await expect(verdict(page)).toContainText('y comes as z, z comes as y');
	await expect(page.getByTestId('scan-reply')).toHaveCount(0);
	// Elsewhere the same is a code again.
	await page.getByRole('link', { name: 'API' }).click();
	await expect(page.getByRole('heading', { name: 'The API' })).toBeVisible();
	await scan(SCANNER_TEST_CODE);
	await expect(page.getByTestId('scan-reply')).toContainText(SCANNER_TEST_CODE);
});

test('a message that was gone too soon is read again in the log', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/plant/people');
	await page.getByLabel('My PIN now').fill('0000');
	await page.getByLabel('My new PIN').fill('730914');
	await page.getByRole('form', { name: 'My PIN' }).getByRole('button', { name: 'Change' }).click();
	await expect(page.getByRole('form', { name: 'My PIN' }).getByText('This is not your PIN.')).toBeVisible();
	await page.goto('/plant/log/said');
	await expect(page.getByTestId('said')).toContainText('This is not your PIN.');
});

test('a word of the trade opens its meaning where it stands; the list of keys has all of the page', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1');
	const dotted = () =>
		page.evaluate(() => {
			const [range] = (CSS.highlights.get('term') ?? []) as Iterable<Range>;
			const box = range?.getBoundingClientRect();
			return box && { word: range!.toString(), x: box.left + box.width / 2, y: box.top + box.height / 2 };
		});
	await expect.poll(async () => (await dotted())?.word).toMatch(/\w/);
	const { word, x, y } = (await dotted())!;
	await page.mouse.click(x, y);
	await expect(page.getByTestId('meaning')).toContainText(new RegExp(word.replace(/s$/, ''), 'i'));
	await expect(page.getByTestId('meaning')).toContainText(/: \w.+\./);
	await page.keyboard.press('Escape');
	await expect(page.getByTestId('meaning')).toBeHidden();
	await page.keyboard.press('?');
	await expect(page.getByTestId('words')).toContainText(new RegExp(word.replace(/s$/, ''), 'i'));
});

test('what takes longer than a second is shown, and can be stopped', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1');
	let answer = () => {};
	await page.route('**/api/v1/find?*', async (route) => {
		await new Promise<void>((resolve) => (answer = resolve));
		await route.continue().catch(() => {});
	});
	const field = page.getByLabel('Scan or type any code');
	await field.fill('J-0001');
	await field.press('Enter');
	const bar = page.getByTestId('works');
	await expect(bar).toContainText(/Looking it up\s+\d s/);
	await bar.getByRole('button', { name: 'Stop' }).click();
	await expect(bar).toBeHidden();
	await expect(page.getByText('Stopped. Nothing was changed.')).toBeVisible();
	answer();
});
