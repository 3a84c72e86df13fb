import { expect, test, type APIResponse } from './test.ts';
import pg from 'pg';
import { signIn } from './people.ts';

const created = async (response: APIResponse) => {
	expect(response.status(), await response.text()).toBe(201);
	return response.json();
};

test('a line that was changed after its program and recipe were released says so, starts no run with them, and offers new ones', async ({
	page
}) => {
	await signIn(page, 'dessa', '200468');
	const db = new pg.Client({ connectionString: process.env.DATABASE_URL });
	await db.connect();
	const [kept] = (
		await db.query(
			`select recipe, paste_id as "pasteId", board_side_id as "sideId" from oven_recipe where line_id = 1 and status = 'released' order by id limit 1`
		)
	).rows;
	const sideId = kept.sideId as number;
	const [{ revisionId }] = (await db.query('select board_revision_id as "revisionId" from board_side where id = $1', [sideId])).rows;
	await db.end();

	// The same machines as Line 1 has, on a line of its own.
	const setUp = await (await page.request.get('/api/v1/plant/set-up')).json();
	const stations = [
		...setUp.lines[0].stations.filter((s: { role: string }) => ['print', 'place', 'oven'].includes(s.role)),
		{ role: 'optical', name: 'Small', spec: { cycleS: 18, longestMm: 60, widestMm: 50 } }
	];
	const { id: lineId } = await created(
		await page.request.post('/api/v1/lines', { data: { name: `Moved ${Date.now() % 100_000}`, purpose: 'surfaceMount', stations } })
	);
	await created(await page.request.post('/api/v1/programs', { data: { sideId, lineId } }));
	await created(await page.request.post('/api/v1/recipes', { data: { sideId, lineId, pasteId: kept.pasteId, ...kept.recipe } }));
	const job = { number: `J-C${Date.now() % 100_000}`, boardRevisionId: revisionId, panels: 5 };
	const { id: jobId } = await created(await page.request.post('/api/v1/jobs', { data: job }));
	const refusal = async () => {
		const answer = await page.request.post('/api/v1/runs', { data: { jobId, sideId, lineId } });
		const { id, issues } = await answer.json();
		if (answer.ok()) expect((await page.request.post(`/api/v1/runs/${id}/end`)).status()).toBe(200);
		return issues?.map((issue: { message: string }) => issue.message).join(' ') ?? '';
	};
	// An inspection machine that the panel does not go into.
	const first = await refusal();
	expect(first).toMatch(/a station for panels of [\d.]+ × [\d.]+ mm \(Small takes 60 × 50 mm\)/);
	expect(first).not.toMatch(/these placers|this oven/);

	await page.goto(`/plant/set-up/lines?line=${lineId}`);
	const row = (name: string) =>
		page
			.getByTestId('line-stations')
			.getByRole('listitem')
			.filter({ has: page.getByText(name, { exact: true }) });
	await row('Small').getByRole('button', { name: 'Out of use' }).click();
	await expect(page.getByTestId('out-of-use')).toContainText('Small');
	expect(await refusal()).not.toContain('a station for panels');
	await row('Place 1').getByRole('button', { name: 'Machine data' }).click();
	await page.getByRole('button', { name: 'Keep as revision 2' }).click();
	await expect(row('Place 1')).toContainText('data revision 2');
	await page.goto(`/line/${lineId}`);
	await page.getByTestId('tile-Place 1').click();
	await page.waitForURL(/\/place\/\d+/);
	await page.goto(`${new URL(page.url()).pathname}?side=${sideId}`);
	await expect(page.getByTestId('old')).toHaveText(/Machine data of Place 1 were corrected after program 1\. Release it anew/);
	await page.getByRole('button', { name: 'Release program 2' }).click();
	await expect(page.getByRole('button', { name: 'Program 2 is released' })).toBeDisabled();
	await expect(page.getByTestId('old')).toBeHidden();

	const placing = page.url();
	await page.goto(`/plant/set-up/lines?line=${lineId}`);
	await row('Place 2').getByRole('button', { name: 'Out of use' }).click();
	await expect(page.getByTestId('out-of-use')).toContainText('Place 2');
	expect(await refusal()).toContain('a placement program for these placers (it counts on Place 2, which is not in use)');
	await page.goto(placing);
	await expect(page.getByTestId('old')).toContainText('Program 2 cannot be built here any more');
	await page.getByRole('button', { name: 'Release program 3' }).click();
	await expect(page.getByRole('button', { name: 'Program 3 is released' })).toBeVisible();
	expect(await refusal()).not.toMatch(/these placers/);

	// One zone less: the recipe is for another oven.
	await page.goto(`/plant/set-up/lines?line=${lineId}`);
	await row('Oven').getByRole('button', { name: 'Machine data' }).click();
	const zones = page.getByLabel(/^Heated zones, length of each/);
	const lengths = (await zones.inputValue()).split(' ');
	await zones.fill(lengths.slice(1).join(' '));
	await page.getByRole('button', { name: 'Keep as revision 2' }).click();
	await expect(row('Oven')).toContainText('data revision 2');
	const why = `it is for an oven of ${lengths.length} zones, this one has ${lengths.length - 1}`;
	expect(await refusal()).toContain(`an oven recipe for this oven (${why})`);
	await page.goto(`/line/${lineId}/oven?side=${sideId}`);
	await expect(page.getByTestId('old')).toContainText(why);
	await expect(page.getByLabel(`Zone ${lengths.length - 1}, °C`)).toBeVisible();
	await expect(page.getByRole('button', { name: 'Release recipe' })).toBeVisible();
	await page.request.put(`/api/v1/lines/${lineId}/use`, { data: { inUse: false } });
});
