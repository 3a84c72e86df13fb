import { expect, request, test } from './test.ts';
import { signIn } from './people.ts';

test('a line of any kinds is entered on forms made from their machine data; a bench on it takes what a person reports', async ({
	page
}) => {
	await signIn(page, 'dessa', '200468');
	await page.goto('/plant/set-up/lines?line=new');
	const form = page.getByRole('form', { name: 'New line' });
	await form.getByLabel('Name', { exact: true }).fill('Finishing');
	await form.getByLabel('For').selectOption('finishing');
	const add = page.getByRole('group', { name: 'Add a station' });
	await expect(add.getByRole('button', { name: '+ Print' })).toHaveCount(0);
	await add.getByRole('button', { name: '+ Bench' }).click();
	await form.getByLabel('Cycle, s a panel').fill('45');
	await add.getByRole('button', { name: '+ Bench' }).click();
	await form.getByRole('button', { name: 'Enter this line' }).click();
	await expect(page.getByTestId('entered')).toContainText('Bench → Bench 2');
	await page.getByRole('link', { name: 'Its page' }).click();
	await expect(page.getByTestId('stations')).toContainText('Bench');

	// A panel that another line has printed comes to the bench.
	const api = await request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { origin: process.env.BASE_URL! } });
	await api.post('/api/auth/sign-in/username', { data: { username: 'anwen', password: '2001' } });
	await page.getByTestId('stations').getByRole('link', { name: 'Bench', exact: true }).click();
	const inspect = page.getByRole('form', { name: 'Inspect' });
	await inspect.getByLabel('Panel').fill('J-2411-0002');
	await inspect.getByRole('button', { name: 'Fail, with place and reason' }).click();
	await expect(inspect.getByLabel('Place')).toHaveAccessibleDescription('Say where it fails.');
	await expect(inspect.getByLabel('Reason')).toHaveAccessibleDescription('Say why it fails.');
	await inspect.getByLabel('Place').fill('R7');
	await inspect.getByLabel('Reason').fill('lifted lead');
	await inspect.getByRole('button', { name: 'Fail, with place and reason' }).click();
	await expect(page.getByText('J-2411-0002, circuit 1: fail')).toBeVisible();
	await inspect.getByLabel('Attempt').fill('1');
	await inspect.getByRole('button', { name: 'Pass' }).click();
	await expect(page.getByText('circuit 0 of panel J-2411-0002 has an attempt 1 already')).toBeVisible();

	// The panel's story has a line of the bench's own.
	await page.goto('/panels/J-2411-0002');
	await expect(page.getByRole('row', { name: /Bench.*circuit 1: fail, R7 lifted lead/ })).toBeVisible();
	// What was typed counts as received, and who typed it is on the log.
	await page.goto('/plant/log');
	await expect(page.getByRole('row', { name: /report typed.*Finishing\/Bench/ })).toBeVisible();
});
