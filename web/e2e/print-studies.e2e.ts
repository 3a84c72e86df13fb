import { expect, request, test, type Page } from './test.ts';
import { atRate, proveSetUp, releaseFirstPrints, signIn } from './people.ts';

const verdict = (page: Page) => page.getByTestId('verdict');

/** A run of line 1 that is long enough for a study. */
async function freshRun(page: Page, number: string): Promise<number> {
	const machine = await request.newContext({
		baseURL: process.env.BASE_URL!,
		extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}` }
	});
	const { work } = await (await machine.get('/api/v1/lines/1/work')).json();
	if (work && !work.ended) await page.request.post(`/api/v1/runs/${work.runId}/end`);
	const { id: jobId } = await (await page.request.post('/api/v1/jobs', { data: { number, boardRevisionId: 1, panels: 400 } })).json();
	const started = await page.request.post('/api/v1/runs', { data: { jobId, sideId: 1, lineId: 1 } });
	expect(started.status()).toBe(201);
	const { id } = await started.json();
	await proveSetUp(page, 1);
	await releaseFirstPrints(page, id);
	return id;
}

test('the fridge plan says which jar leaves the fridge when, for the jobs ahead', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/paste');
	await page.getByRole('link', { name: 'Fridge plan' }).click();
	await expect(verdict(page)).toContainText(/serves the jobs ahead|leaves the fridge by|are missing/);
	await expect(page.getByRole('img', { name: 'Jobs ahead and the jars that serve them' })).toBeVisible();
	const jars = page.getByTestId('plan').locator('tbody tr');
	await expect(jars.filter({ hasText: /J-00\d\d/ }).first()).toBeVisible();
	// Another paste is never in it, and says why.
	await expect(page.getByTestId('plan')).not.toContainText('J-0031');
	await expect(page.getByText('is Fernbrook water-soluble SAC305')).toBeVisible();
});

test('a job that waits gets a time: the plan goes by it, and a time that is past is refused', async ({ page }) => {
	await signIn(page, 'dessa', '200468');
	const number = `J-97${Date.now() % 100_000}`;
	const job = await page.request.post('/api/v1/jobs', { data: { number, boardRevisionId: 1, panels: 30 } });
	const { id } = await job.json();
	await page.goto('/line/1/paste/plan');
	const row = page.getByTestId('ahead').getByRole('listitem').filter({ hasText: number }).first();
	const wanted = row.getByLabel(/is wanted from/);
	await expect(wanted).toBeVisible();
	const { now } = await page.request.get('/api/v1/clock').then((r) => r.json());
	const tomorrow = new Date(Date.parse(now) + 24 * 3_600_000).toISOString().slice(0, 10);
	await wanted.fill(`${tomorrow}T14:00`);
	await wanted.blur();
	await expect(row).toContainText(/14:00|late/);
	const past = await page.request.put(`/api/v1/jobs/${id}/start`, {
		data: { lineId: 1, startsAt: new Date(Date.parse(now) - 3_600_000).toISOString() }
	});
	expect(past.status()).toBe(422);
	expect((await past.json()).message).toContain('That time is past');
	await wanted.fill('');
	await wanted.blur();
	await expect(row).not.toContainText(/14:00|late/);
});

test('the inspection unit: repeatability of one panel measured ten times, and factors that are learned', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1/paste-check/unit');
	await expect(page.getByText(/10 measurements without a print\s+between/)).toBeVisible();
	const chips = page.getByTestId('gauge').getByRole('row', { name: /chip from 0402/ });
	// The simulated unit reads each pad with a spread of one per cent.
	const sigma = Number(await chips.locator('td').nth(3).innerText());
	expect(sigma).toBeGreaterThan(0.6);
	expect(sigma).toBeLessThan(1.4);
	await page.getByRole('button', { name: /Learn the factors/ }).click();
	await expect(page.getByTestId('factors')).toContainText('B. Rook');
	await expect(verdict(page)).toContainText('Volume, area and height agree');
});

test('thresholds of the causes are edited with revisions; a run becomes the baseline of its side', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1/paste-check/causes/thresholds');
	const tilt = page.getByLabel('end to end from');
	await tilt.fill('500');
	await expect(verdict(page)).toContainText('tiltLp');
	await expect(page.getByRole('button', { name: 'Keep these thresholds' })).toBeDisabled();
	await tilt.fill('14');
	await page.getByLabel('Why, for the record').fill('the rails of line 1 are old');
	await page.getByRole('button', { name: 'Keep these thresholds' }).click();
	await expect(verdict(page)).toContainText(/Revision \d+ names the causes: 1 of its thresholds differ/);
	await expect(page.getByText('the rails of line 1 are old')).toBeVisible();
	await page.reload();
	await expect(tilt).toHaveValue('14');

	// A run of six panels is too short to be a baseline, and says so.
	const short = await page.request.post('/api/v1/runs/1/baseline');
	expect(short.status()).toBe(422);
	expect((await short.json()).message).toContain('A baseline needs 12 panels that passed');
});

test('a trial of force, speed and separation is gone through setting by setting and read for each stroke', async ({ page }) => {
	test.setTimeout(420_000);
	await signIn(page, 'dessa', '200468');
	const runId = await freshRun(page, 'J-9820');
	await page.goto('/line/1/print/trial');
	await page.getByLabel('Panels a setting, an even number').fill('2');
	await page.getByLabel('speed low').fill('90');
	await page.getByRole('button', { name: 'Begin a trial of 22 panels' }).click();
	await expect(page.getByText(/speed\.high: expected more than the low setting/)).toBeVisible();
	await page.getByLabel('speed low').fill('30');
	await page.getByRole('button', { name: 'Begin a trial of 22 panels' }).click();
	await expect(page.getByTestId('settings').locator('tbody tr')).toHaveCount(11);
	await expect(page.getByTestId('settings').locator('tbody tr').first()).toContainText('0.22');
	// A setting waits until the one before it has its panels.
	await page.getByRole('button', { name: 'Setting 1 is set', exact: true }).click();
	await expect(page.getByRole('button', { name: 'Setting 2 is set', exact: true })).toBeDisabled();
	await atRate(page, 60, async () => {
		for (let setting = 2; setting <= 11; setting++) {
			const button = page.getByRole('button', { name: `Setting ${setting} is set`, exact: true });
			await expect(button).toBeEnabled({ timeout: 60_000 });
			await button.click();
		}
		// Every setting has its panels: the effects stand there with their intervals, front and rear apart.
		await expect(page.getByRole('img', { name: 'Effects with their intervals' })).toBeVisible({ timeout: 60_000 });
	});
	await expect(page.getByText(/Front stroke, \d+ panels/)).toBeVisible();
	await expect(page.getByText(/Rear stroke, \d+ panels/)).toBeVisible();
	await page.getByRole('button', { name: 'End the trial' }).click();
	await expect(page.getByRole('button', { name: /^Begin a trial of \d+ panels$/ })).toBeVisible();
	// By now a dozen panels have passed: they make a baseline, which is then gone back on.
	await expect.poll(async () => (await page.request.post(`/api/v1/runs/${runId}/baseline`)).status(), { timeout: 120_000 }).toBe(201);
	await page.goto('/line/1/paste-check/causes/thresholds');
	await expect(page.getByTestId('golden')).toContainText(/An approved baseline of this side at 8[01] µm: \d+ panels, D. Quill/);
	await page.getByRole('button', { name: 'Back to the transfer curve' }).click();
	await expect(page.getByTestId('golden')).toContainText('The plant’s transfer curve');
});

test('openings: the curve is fitted to a run, its shapes have their factors, every foil and wall is compared', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1/print/openings');
	await page.getByLabel('Shown').selectOption('alternatives');
	const table = page.getByTestId('alternatives');
	await expect(table.getByRole('row')).toHaveCount(6);
	await expect(table.getByRole('row', { name: /nano-coated/ })).toContainText(/\d/);
	await page.getByRole('button', { name: 'Fit the curve to this run' }).click();
	await expect(page.getByTestId('factors').getByRole('row', { name: /rectangle \d\.\d{3}/ })).toBeVisible();
	await page.getByLabel('Shown').selectOption('foil');
	await expect(page.getByRole('img', { name: /over the thickness of the foil/ })).toBeVisible();
});

test('limits from consequences: defects are joined to their deposits, and few of them widen nothing', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1/paste-check/limits/consequences');
	const classes = page.getByTestId('classes').locator('tbody tr');
	await expect(page.getByTestId('classes').getByRole('columnheader', { name: 'defects' })).toBeVisible();
	await expect(classes.first().locator('td').nth(2)).toHaveText(/^\d+$/);
	await expect(page.getByText(/\d+ defects on [\d,]+ deposits that were looked at after\s+the oven/)).toBeVisible();
	await page.getByLabel('A defect that goes on costs').fill('40');
	await page.getByRole('button', { name: 'Work it out with these costs' }).click();
	await expect(page).toHaveURL(/defect=40/);
	await expect(page.getByLabel('A defect that goes on costs')).toHaveValue('40');
});

test('the limits of the charts stand on a baseline, and move only when somebody takes it anew', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/line/1/paste-check/classes');
	const baseline = page.getByTestId('chart-baseline');
	const take = baseline.getByRole('button', { name: 'Take the latest 25 as baseline' });
	await expect(baseline).toContainText(/Limits by|panels so far/);
	// A run that has only begun cannot take one yet: what it says is enough then.
	if (await take.isDisabled()) return void (await expect(baseline).toContainText('from 25 on they stand'));
	await take.click();
	await expect(baseline).toContainText(/Limits by baseline \d+: 25 panels from .+, taken by B\. Rook/);
	const revision = Number(/baseline (\d+)/.exec(await baseline.innerText())![1]);
	await page.reload();
	await expect(baseline).toContainText(`Limits by baseline ${revision}`);
	await page.goto('/line/1/paste-check');
	await expect(page.getByLabel('Control chart of the mean paste volume by panel')).toBeVisible();
});

test('what a wipe costs and saves is worked out with the plant’s own costs; offsets are fed back damped', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/paste-check/classes');
	const cost = page.getByTestId('wipe-cost');
	await expect(cost.locator('.facts > div', { hasText: /interval now/ })).toContainText('10 prints');
	const best = async () =>
		Number(/(\d+) prints/.exec(await cost.locator('.facts > div', { hasText: /cheapest interval/ }).innerText())![1]);
	const cheap = await best();
	await cost.getByLabel('a defect costs').fill('500');
	await cost.getByRole('button', { name: 'Work it out with these costs' }).click();
	await expect(page).toHaveURL(/defect=500/);
	await expect.poll(best).toBeLessThanOrEqual(cheap);
	await page.goto('/line/1/print/alignment');
	const feedback = page.getByTestId('feedback');
	await expect(feedback.locator('tbody tr')).toHaveCount(2);
	await expect(feedback.locator('tbody tr').first().locator('td').nth(1)).toHaveText(/^-?\d+\.\d$/);
	await expect(feedback).toContainText('widens the spread by 8 %');
});

test('a misprint is washed step by step; a later step is not taken before an earlier one', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	// A panel that has just been printed: as soon as parts stand on it a wash needs an engineer.
	let serial = '';
	await expect
		.poll(
			async () => {
				await page.goto('/line/1/print/alignment');
				serial = await page.locator('a[href^="/panels/"]').first().innerText();
				const response = await page.request.post(`/api/v1/panels/${serial}/misprint`, { data: {} });
				return response.ok() ? (await response.json()).decision : (await response.json()).message;
			},
			{ timeout: 90_000 }
		)
		.toBe('wash_and_reprint');
	await page.goto(`/panels/${serial}`);
	const wash = page.getByTestId('wash').last().getByRole('listitem');
	await expect(wash).toHaveCount(5);
	await expect(wash.nth(1).getByRole('button')).toBeDisabled();
	await wash.nth(0).getByRole('button', { name: 'Done' }).click();
	await expect(wash.nth(0)).toContainText('A. Tarn');
	await expect(wash.nth(1).getByRole('button', { name: 'Done' })).toBeEnabled();
	await page.reload();
	await expect(wash.nth(0)).toContainText('A. Tarn');
});
