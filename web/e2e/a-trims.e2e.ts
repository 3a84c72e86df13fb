import { expect, test } from './test.ts';
import { signIn } from './people.ts';

const LINE = 1;

// The demo's first placer picks off the middle at one of its slots.
test('what a slot feeds sits off: it is named, trimmed, obeyed by the machine, and said to be gone by what was placed since', async ({
	page
}) => {
	test.setTimeout(300_000);
	await signIn(page, 'basil', '2002');
	const api = page.request;
	const { machines } = await (await api.get(`/api/v1/lines/${LINE}/feeders`)).json();
	const { stationId } = machines[0];
	const read = async () => (await api.get(`/api/v1/stations/${stationId}/trims`)).json();
	await expect.poll(async () => (await read())?.asks?.[0]?.level, { timeout: 120_000 }).toBe('feeder');
	// From so many placements on an offset is taken away whole; before that a part of it is left on purpose.
	await expect.poll(async () => (await read()).report.causes[0]?.rows, { timeout: 120_000, intervals: [2000] }).toBeGreaterThanOrEqual(25);
	const { report, asks, sideId, verdict: said } = await read();
	const [cause] = report.causes;
	expect(cause).toMatchObject({ level: 'feeder', tied: [] });
	expect(said.level).toBe('act');
	expect(Math.abs(cause.dxUm + 55)).toBeLessThan(8);

	await page.goto(`/line/${LINE}/place/${stationId}/trims`);
	await expect(page.getByText(`What slot ${cause.name} feeds sits`).first()).toBeVisible();
	await expect(page.getByTestId('offset-causes').locator('tbody tr').first()).toContainText(`What slot ${cause.name} feeds`);
	await expect(page.getByTestId('offset-map').getByRole('img')).toBeVisible();
	// Nothing is trimmed that is not measured, nor by another figure than was read, nor twice.
	const trim = { sideId, ...asks[0], startedFrom: null };
	const send = (data: object) => api.post(`/api/v1/stations/${stationId}/trims`, { data });
	const other = await send({ ...trim, name: '399' });
	expect(other.status()).toBe(422);
	expect((await other.json()).message).toContain('does not ask for a trim of What slot 399 feeds');
	expect((await send({ ...trim, dxUm: trim.dxUm + 40 })).status()).toBe(422);
	await page
		.getByTestId('trim-act')
		.getByRole('button', { name: `Trim slot ${cause.name}: ` })
		.click();
	const trims = page.getByTestId('trims').getByRole('listitem');
	await expect(trims).toHaveCount(1);
	await expect(trims.first()).toContainText(`1: slot ${cause.name} `);
	const again = await send(trim);
	expect(again.status()).toBe(409);

	// The machine adds it from the next panel on; what was placed before is of no account.
	await expect.poll(async () => (await read()).trims[0].effect.state, { timeout: 180_000, intervals: [2000] }).toBe('gone');
	await expect(trims.first()).toContainText('gone: ', { timeout: 20_000 });
	const now = await read();
	expect(now.report.causes.map((c: { level: string; name: string }) => `${c.level} ${c.name}`)).not.toContain(`feeder ${cause.name}`);
	expect(Math.abs(now.trims[0].effect.dxUm)).toBeLessThanOrEqual(15);

	// Taken back, the offset is there again.
	await trims.first().getByRole('button', { name: 'Take back' }).click();
	await expect(trims.first()).toContainText('taken back');
	await expect.poll(async () => (await read()).report.causes[0]?.name, { timeout: 120_000, intervals: [2000] }).toBe(cause.name);
});
