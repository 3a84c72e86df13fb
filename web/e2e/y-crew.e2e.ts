import { expect, request, test } from './test.ts';
import { signIn } from './people.ts';

const LINE = 2;

// Late among the files: it ends what line 2 builds.
test('the demo’s crew proves a set-up, loads the slots and releases the first prints; what is built asks for what follows', async ({
	page,
	setRule
}) => {
	test.setTimeout(400_000);
	const machine = await request.newContext({
		baseURL: process.env.BASE_URL!,
		extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}` }
	});
	const workNow = async () => (await (await machine.get(`/api/v1/lines/${LINE}/work`)).json()).work;
	await signIn(page, 'dessa', '200468');
	// The plant holds every first board: nobody but the crew looks and releases.
	await setRule('firstBoard', { policy: 'hold' });
	const before = await workNow();
	if (before && !before.ended) await page.request.post(`/api/v1/runs/${before.runId}/end`);
	const number = `J-98${Date.now() % 10_000}`;
	const job = await page.request.post('/api/v1/jobs', { data: { number, boardRevisionId: 1, panels: 5 } });
	const started = await page.request.post('/api/v1/runs', { data: { jobId: (await job.json()).id, sideId: 1, lineId: LINE } });
	expect(started.status(), await started.text()).toBe(201);
	const { id: runId } = await started.json();

	// Nobody of this test scans, loads or releases anything.
	const ready = async () => (await page.request.get(`/api/v1/lines/${LINE}/ready`)).json();
	await expect.poll(async () => (await ready())?.started, { timeout: 120_000 }).toBe(true);
	const { items } = await ready();
	expect(items.map((item: { mark: string }) => item.mark)).toEqual(Array(9).fill('proven'));
	const stands = async () => {
		const [work, { missing, held }] = await Promise.all([workNow(), ready()]);
		return { printed: work?.printed, held, missing, mayPrint: work?.mayPrint };
	};
	// Nobody has looked at what a panel has not been through yet.
	await expect.poll(async () => (await stands()).printed, { timeout: 60_000 }).toBeGreaterThan(0);
	const early = await page.request.post(`/api/v1/runs/${runId}/first-board/checks`, {
		data: { keys: ['oven'], right: true, panel: `${number}-0001` }
	});
	expect(early.status()).toBe(422);
	expect((await early.json()).message).toContain(`${number}-0001 has not been through Oven yet`);
	await expect.poll(stands, { timeout: 180_000 }).toMatchObject({ printed: 5 });
	const { machines } = await (await page.request.get(`/api/v1/lines/${LINE}/feeders`)).json();
	for (const { feeders } of machines)
		for (const { left, mark, feeder } of feeders) {
			expect(left).toBeGreaterThan(0);
			expect([mark, feeder]).toEqual(['right', expect.any(String)]);
		}
	// What was printed before the first board was released says so; what came after does not.
	const first = await (await page.request.get(`/api/v1/runs/${runId}/first-board`)).json();
	expect(first).toMatchObject({ mode: 'hold', why: ['the plant holds every first board'], released: { by: expect.any(String) } });
	expect(first.before).toBeLessThan(5);
	const [panel] = first.panels;
	await page.goto(`/panels/${panel}`);
	await expect(page.getByText('Printed before the first board of its run was released.')).toBeVisible();
	await page.goto(`/panels/${first.panels.at(-1)}`);
	await expect(page.getByTestId('story')).toBeVisible();
	await expect(page.getByText('Printed before the first board of its run was released.')).toBeHidden();
	// A line that is found wrong asks for an act, says what it is, and stands until somebody has looked again.
	await page.goto(`/line/${LINE}`);
	await page.goto('/runs/first');
	const verdict = page.getByTestId('verdict');
	await expect(verdict).toContainText(`The first board of ${number} is released by`);
	const row = page.getByTestId('first-board').locator('tbody tr').nth(1);
	await row.click();
	const look = page.getByTestId('look');
	await look.getByRole('button', { name: 'Wrong', exact: true }).click();
	await expect(look.getByLabel('What is wrong, where it is')).toHaveAccessibleDescription('Say what is wrong with it.');
	await look.getByLabel('What is wrong, where it is').fill('turned by 90° on circuit 2');
	await look.getByRole('button', { name: 'Wrong', exact: true }).click();
	await expect(verdict).toContainText(`is wrong on the first board of ${number}`);
	await expect(row).toContainText('turned by 90° on circuit 2');
	await row.click();
	await look.getByRole('button', { name: 'Right', exact: true }).click();
	await expect(verdict).toContainText(`The first board of ${number} is released by`);
	// Who did it stands in the log, by name.
	await page.goto('/plant/log');
	await expect(page.getByText('G. Heron').first()).toBeVisible();

	// Panels that were held and washed are among the five; all of them come off in the end.
	await page.goto(`/line/${LINE}`);
	await page.goto('/runs');
	const follows = page.getByTestId('follows');
	await expect(follows).toContainText(`What follows ${number}`, { timeout: 240_000 });
	await expect(page.getByTestId('verdict')).toContainText(`${number} is done: 5 of 5 panels finished.`);
	// The strip shows what is due first; the rest stands behind it.
	await page.getByTestId('next-up').getByRole('button').click();
	const due = page.getByRole('dialog', { name: 'Next up' });
	await expect(due.locator('tbody')).toContainText(`End ${number}`);
	await due.getByRole('button', { name: 'Close' }).first().click();
	await follows.getByRole('button', { name: 'End the run' }).click();
	await expect(page.getByTestId('verdict')).toContainText('is idle');
	await follows.getByRole('button', { name: /^Bead is off: \d+ g of/ }).click();
	await expect(follows.getByRole('button', { name: /^Bead is off/ })).toBeHidden();
	await follows.getByRole('button', { name: /^S-\d+ is out and washed$/ }).click();
	await expect(page.getByRole('button', { name: /is out and washed$/ })).toBeHidden();
	expect((await (await page.request.get('/api/v1/lines')).json()).length).toBeGreaterThan(2);
	expect((await page.request.post(`/api/v1/runs/${runId}/ready`)).status()).toBe(422);
});
