import { expect, test, type Page } from './test.ts';
import { scanSlots, signIn } from './people.ts';
import { file, PARTS_LIST, PASTE, POSITIONS } from './stranger.ts';

const choose = async (page: Page, files: Record<string, ReturnType<typeof file>>) => {
	for (const [name, chosen] of Object.entries(files)) await page.locator(`input[name="${name}"]`).setInputFiles(chosen);
};
const verdict = (page: Page) => page.getByTestId('verdict');
/** A scanner types a burst, a key every 5 ms however busy the machine is, and ends it with Enter. */
const scanWhereTheFocusIs = (page: Page, code: string) =>
	page.evaluate((keys) => {
		const field = document.activeElement as HTMLInputElement;
		const start = performance.now();
		[...keys, 'Enter'].forEach((key, i) => {
			const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
			Object.defineProperty(event, 'timeStamp', { value: start + 5 * i });
			if (!field.dispatchEvent(event) || key.length > 1) return;
			field.value += key;
			field.dispatchEvent(new Event('input', { bubbles: true }));
		});
	}, code);

test('from a stranger’s files to a signed hand-over', async ({ page }) => {
	await signIn(page, 'basil', '2002');

	await test.step('the strip is the menu: stations in line order with level, number and unit', async () => {
		const tiles = page.locator('nav[aria-label="Line"] a[data-testid^="tile-"]');
		await expect(tiles).toHaveText([/Paste/, /Print/, /Paste check/, /Place \(2\)/, /Pre-oven/, /Oven/, /Optical/, /In-circuit/]);
		await tiles.nth(5).click();
		await expect(page).toHaveURL(/\/oven$/);
	});

	await test.step('wrong files are refused in words, with line, field and value', async () => {
		await page.goto('/boards/new');
		await page.getByLabel('Width, mm').fill('40');
		await page.getByLabel('Height, mm').fill('30');
		const good = { positions: file('xy.csv', POSITIONS), bom: file('bom.csv', PARTS_LIST) };
		const issues = page.getByTestId('issues');
		await choose(page, { ...good, paste: file('photo.png', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 1, 2, 3])) });
		await expect(issues).toContainText('This is a binary file');
		await choose(page, { paste: file('empty.gbr', '') });
		await expect(issues).toContainText('The file is empty');
		await choose(page, { paste: file('cut.gbr', PASTE.slice(0, PASTE.indexOf('D11*') - 40)) });
		await expect(issues).toContainText('without M02: it was cut short');
		await expect(page.getByRole('button', { name: 'Keep as board revision' })).toBeDisabled();
		await choose(page, { paste: file('paste.gbr', PASTE), positions: file('xy.csv', POSITIONS.replace('R3;15,0;', 'R3;15,o;')) });
		await expect(issues).toContainText('Line 4, field X: "15,o" is not a number');
		await expect(issues).toContainText('R3 (line 2) is in the parts list but has no position');
		await choose(page, { ...good, bom: file('bom.xlsx', Buffer.from('PK\u0003\u0004 not really a sheet')) });
		await expect(issues).toContainText('cannot be opened as a spreadsheet');
	});

	await test.step('what a file does not say is asked where it is seen, and the answer goes at once', async () => {
		const bare = POSITIONS.replace('Side;', '').replaceAll(';T;', ';').replaceAll('[mm]', '');
		await choose(page, {
			paste: file('paste.gbr', PASTE.replace('%MOMM*%\n', '')),
			positions: file('xy.csv', bare),
			bom: file('bom.csv', PARTS_LIST)
		});
		const unit = page.getByTestId('question-layerUnit');
		await expect(unit).toContainText('does not say whether its numbers are mm or inch');
		await expect(page.getByTestId('in-units')).toContainText(
			/In mm: 26\.5 × 21\.6 mm, narrowest opening\s+0\.500 mm.*In inch: 672\.1 × 549\.1 mm/s
		);
		await expect(page.getByTestId('issues')).not.toContainText('no paste lies under it');
		await unit.getByRole('button', { name: 'mm' }).click();
		await expect(unit).toBeHidden();
		const side = page.getByTestId('question-positionsSide');
		await expect(side).toContainText('No column says on which side a part is');
		await side.getByRole('button', { name: 'all top' }).click();
		await expect(page.getByTestId('read-summary')).toContainText('32 openings, 13 parts');
		await expect(page.getByTestId('issues')).toContainText('in mm 13 of 13 parts lie on their pads');
	});

	await test.step('what was chosen and typed is there again after looking elsewhere and coming back', async () => {
		await page.getByLabel('Board', { exact: true }).fill('Half typed');
		await page.getByRole('link', { name: 'Packages' }).click();
		await expect(page).toHaveURL(/packages/);
		await page.goBack();
		await expect(page.getByLabel('Board', { exact: true })).toHaveValue('Half typed');
		await expect(page.getByLabel('Width, mm')).toHaveValue('40');
		await expect(page.getByTestId('read-summary')).toContainText('32 openings, 13 parts');
		for (const field of ['Positions in', 'Decimal sign', 'Side of the parts in the file'])
			await page.getByLabel(field, { exact: true }).selectOption('as the file says');
	});

	await test.step('the board is read, drawn, reconciled and kept', async () => {
		await choose(page, { paste: file('paste.gbr', PASTE), positions: file('xy.csv', POSITIONS), bom: file('bom.csv', PARTS_LIST) });
		await expect(page.getByTestId('read-summary')).toHaveText('32 openings, 13 parts, 2 lines of the parts list. The files agree.');
		await expect(page.getByTestId('board-drawing')).toBeVisible();
		await page.getByLabel('Board', { exact: true }).fill('Humidity controller');
		await page.getByLabel('Customer', { exact: true }).fill('Cellar Caps');
		await page.getByLabel('Revision', { exact: true }).fill('A');
		await page.getByRole('button', { name: 'Keep as board revision' }).click();
		await expect(page.getByRole('heading', { name: /Humidity controller A, top/ })).toBeVisible();
		await page.getByLabel('Columns', { exact: true }).fill('2');
		await page.getByLabel('Pitch x, mm').fill('30');
		await expect(page.getByRole('alert')).toContainText("at least the board's width, 40 mm");
		await page.getByLabel('Pitch x, mm').fill('42');
		await expect(page.getByText('92.0 × 40.0 mm')).toBeVisible();
		await page.getByRole('button', { name: 'Set the panel' }).click();
		await expect(page.getByText('Panel set', { exact: true })).toBeVisible();
	});

	const side = new URL(page.url()).pathname.split('/').at(-1);

	await test.step('the foil: changing it redraws and judges at once', async () => {
		await page.goto(`/line/1/print/stencil?side=${side}`);
		await expect(verdict(page)).toContainText('100 µm works for all 32 openings');
		await page.getByLabel('Foil, µm').fill('250');
		await expect(verdict(page)).toHaveAttribute('data-level', 'act');
		await expect(verdict(page)).toContainText('250 µm does not work');
		await expect(page.getByTestId('worst-openings').locator('tbody tr')).toHaveCount(10);
		await page.keyboard.press('w');
		await page.getByLabel('Foil, µm').blur();
		await page.getByRole('button', { name: /Working/ }).click();
		await expect(page.getByRole('dialog', { name: 'Working' })).toContainText('IPC-7525 (value from memory)');
		await page.getByRole('dialog', { name: 'Working' }).getByRole('button', { name: 'Close' }).first().click();
		await page.getByLabel('Foil, µm').fill('120');
		// Walls that taper hold more; what cannot be a taper is refused in words.
		const heldNl = async () =>
			Number(await page.getByTestId('worst-openings').locator('tbody tr').first().locator('td').nth(3).textContent());
		const straightNl = await heldNl();
		await page.getByLabel('Taper, µm').fill('80');
		await expect(verdict(page)).toContainText('A taper of 80 µm is no taper: 0 to 30 µm, or leave it empty.');
		await page.getByLabel('Taper, µm').fill('8');
		await expect.poll(heldNl).toBeGreaterThan(straightNl);
		await page.getByRole('button', { name: 'Release 120 µm' }).click();
		await expect(page.getByRole('button', { name: 'Stencil 1 is released' })).toBeVisible();
		await page.reload();
		await expect(page.getByLabel('Taper, µm')).toHaveValue('8');
	});

	await test.step('the print recipe is released', async () => {
		await page.goto(`/line/1/print/set-up?side=${side}`);
		await page.getByRole('button', { name: 'Release this recipe' }).click();
		await expect(page.getByText('Print recipe 1 is released for this board on this line.')).toBeVisible();
	});

	await test.step('the parts are dealt, the load list stands in slot order, the program is released', async () => {
		await page.getByTestId('tile-Place (2)').click();
		await expect(page).toHaveURL(/\/place\//);
		await page.getByLabel('Board').selectOption({ label: 'Humidity controller A, top' });
		await expect(verdict(page)).toContainText(/One panel every \d+\.\d s/);
		await expect(page.getByTestId('load-list')).toContainText(/HU-(R-10K|U-1)/);
		await page.getByRole('button', { name: 'Release the program' }).click();
		await expect(page.getByRole('button', { name: 'Program 1 is released' })).toBeVisible();
	});

	await test.step('the oven: a bad recipe says do not run, tuning brings it inside, releasing keeps it', async () => {
		await page.goto(`/line/1/oven?side=${side}`);
		await page.getByLabel('Belt, cm/min').fill('130');
		await expect(verdict(page)).toContainText('Do not run');
		await page.getByLabel('Zone 3, °C').fill('900');
		await expect(verdict(page)).toContainText('The oven cannot do this: zone 3');
		await page.getByLabel('Zone 3, °C').fill('140');
		await page.getByLabel('Belt, cm/min').fill('75');
		await page.getByRole('button', { name: 'Tune' }).click();
		await expect(page.getByRole('button', { name: 'Tune' })).toBeVisible({ timeout: 60_000 });
		await expect(verdict(page)).not.toHaveAttribute('data-level', 'act');
		await page.getByRole('button', { name: 'Release recipe' }).click();
		await expect(page.getByRole('button', { name: 'Recipe 1 released' })).toBeVisible();
	});

	await test.step('the job is entered; the line finishes the old run and sets it up', async () => {
		await page.goto('/runs');
		await page.getByLabel('Job number').fill('J-9001');
		await page.getByLabel('Board of the job').selectOption({ label: 'Humidity controller A' });
		await page.getByLabel('Panels', { exact: true }).fill('40');
		await page.getByRole('button', { name: 'Enter the job' }).click();
		await expect(page.getByTestId('jobs')).toContainText('J-9001');
		await page.getByRole('button', { name: 'End the run' }).click();
		await expect(verdict(page)).toContainText('is idle');
		await page
			.getByRole('row', { name: /J-9001/ })
			.getByRole('button', { name: 'Set up' })
			.click();
		await expect(page).toHaveURL(/\/runs\/ready/);
	});

	await test.step('nothing is printed before its set-up is proven: what nobody scanned is open, with what to do next', async () => {
		await expect(verdict(page)).toContainText('J-9001 is not ready');
		await expect(page.getByTestId('ready-stencil').locator('[data-mark]')).toHaveAttribute('data-mark', 'open');
		await expect(page.getByTestId('ready-stencil')).toContainText('No stencil was scanned for this run.');
		// The panel is small enough to print level on its rails alone.
		await expect(page.getByTestId('ready-support').locator('[data-mark]')).toHaveAttribute('data-mark', 'proven');
		await expect(page.getByTestId('ready-blades').locator('[data-mark]')).toHaveAttribute('data-mark', 'proven');
		await expect(page.getByTestId('ready-printRecipe').locator('[data-mark]')).toHaveAttribute('data-mark', 'proven');
		// What the job before has left in the slots is another board's.
		await expect(page.getByTestId('ready-feeders').locator('[data-mark]')).toHaveAttribute('data-mark', 'wrong');
		await expect(page.getByTestId('ready-feeders')).toContainText(/wants HU-|not in \d+/);
		await expect(page.getByRole('button', { name: 'Start printing' })).toBeDisabled();
		const { runId } = await (await page.request.get('/api/v1/lines/1/ready')).json();
		const refused = await page.request.post(`/api/v1/runs/${runId}/ready`);
		expect(refused.status()).toBe(422);
		expect((await refused.json()).issues[0]).toMatchObject({ field: 'stencil', value: 'open' });
		await page.goto('/line/1/print');
		await expect(verdict(page)).toContainText('J-9001 is not ready');
		await expect(page.getByTestId('tile-Print')).toContainText('points ready');
	});

	await test.step('what is to be scanned is scanned; a lead lets it print without the rest, with a reason', async () => {
		const { missing } = await (await page.request.get('/api/v1/lines/1/ready')).json();
		const jar = missing.find((item: { code: string }) => item.code === 'paste')?.scan;
		if (jar) {
			const { moves } = await (await page.request.get(`/api/v1/find?code=${jar}&line=1`)).json();
			expect((await page.request.post(moves[0].path, { data: { ...moves[0].body, grams: 200 } })).ok()).toBe(true);
		}
		await scanSlots(page, 1);
		await page.goto('/runs/ready');
		await expect(page.getByTestId('ready-feeders').locator('[data-mark]')).toHaveAttribute('data-mark', 'proven');
		await expect(page.getByTestId('override')).toContainText(
			'A lead may; never for a wrong stencil, paste or part, or a life that is past.'
		);
		const lead = await (await page.context().browser()!.newContext({ baseURL: process.env.BASE_URL! })).newPage();
		await signIn(lead, 'dessa', '200468');
		await lead.goto('/runs/ready');
		const override = lead.getByTestId('override');
		await override.getByLabel('Stencil').check();
		await override.getByLabel('Reason of the override').fill('its label came off, read by eye');
		await override.getByLabel('this run').check();
		await override.getByRole('button', { name: 'Print without it' }).click();
		await expect(page.getByTestId('ready-stencil')).toContainText('D. Quill, for this run: its label came off, read by eye');
		await lead.context().close();
		await expect(verdict(page)).toContainText('J-9001 may start under an override: stencil.');
		await page.getByRole('button', { name: 'Start printing' }).click();
		await expect(verdict(page)).toContainText('J-9001 prints under an override: stencil.');
		await page.goto('/runs');
		await expect(verdict(page)).toContainText('J-9001 is running');
	});

	await test.step('the printer waits after two prints until they are looked at and the run is released', async () => {
		await page.goto('/line/1/print');
		await expect(verdict(page)).toContainText(/The printer waits/, { timeout: 120_000 });
		await page.goto('/line/1/print/set-up');
		await expect(page.getByTestId('first-prints')).toContainText('The first 2 prints are in order', { timeout: 60_000 });
		await page.getByRole('button', { name: 'Release the run' }).click();
		await expect(page.getByRole('button', { name: 'The run is released' })).toBeVisible();
	});

	await test.step('strip and pages follow live, without a reload', async () => {
		await page.getByTestId('tile-Paste check').click();
		await expect(verdict(page)).toContainText(/Panel J-9001-0\d+/, { timeout: 120_000 });
		const shown = verdict(page).getByRole('link');
		const before = await shown.innerText();
		await expect(shown).not.toHaveText(before, { timeout: 60_000 });
		await page.getByTestId('board-drawing').click({ position: { x: 340, y: 120 } });
		await page.getByTestId('tile-Optical').click();
		await expect(page.getByTestId('key-figure')).toContainText('%', { timeout: 60_000 });
	});

	await test.step('a typed code answers and opens the panel with all that is known of it', async () => {
		await page.keyboard.press('/');
		await page.getByLabel('Scan or type any code').fill('J-9001-0001');
		await page.getByLabel('Scan or type any code').press('Enter');
		await expect(page.getByTestId('scan-reply')).toContainText('Panel J-9001-0001');
		await page.getByTestId('scan-reply').getByRole('link', { name: 'Its page' }).click();
		await expect(page.getByText('Reels that fed it')).toBeVisible();
		await expect(page.getByText('Printed under an override of D. Quill, without stencil: its label came off, read by eye.')).toBeVisible();
		await expect(page.getByText(/design 1 \(120 µm\), print recipe 1, program 1, oven recipe 1/)).toBeVisible();
		await expect(page.getByText(/circuit 2: (pass|fail)/).first()).toBeVisible({ timeout: 60_000 });
		await expect(page.getByText('HU-R-10K')).toBeVisible();
	});

	await test.step('next up is one key away', async () => {
		await page.locator('h1').click();
		await page.keyboard.press('n');
		await expect(page.getByRole('dialog', { name: 'Next up' })).toContainText('Hand over');
		await page.getByRole('dialog', { name: 'Next up' }).getByRole('button', { name: 'Close' }).first().click();
	});

	await test.step('the shift is handed over by two different people', async () => {
		await page.getByRole('link', { name: 'Shift', exact: true }).click();
		await page.getByRole('link', { name: 'Hand over this shift' }).click();
		await expect(page.getByTestId('hand-over')).toContainText('J-9001, Humidity controller top');
		await page.getByLabel('Note to the next shift').fill('First run of the humidity controller: watch U1.');
		await page.getByRole('button', { name: 'Write the hand-over' }).click();
		const sign = async (badge: string, pin: string) => {
			await page.getByLabel('Badge').fill(badge);
			await page.getByLabel('PIN').fill(pin);
			await page.getByRole('button', { name: /Sign as/ }).click();
		};
		await sign('anwen', '0000');
		await expect(page.getByText('This badge and PIN do not go together.')).toBeVisible();
		await sign('edda', '2005');
		await expect(page.getByRole('form', { name: 'Signature' }).getByText('An operator may not sign')).toBeVisible();
		await sign('anwen', '2001');
		await expect(verdict(page)).toContainText('A. Tarn has signed');
		await sign('anwen', '2001');
		await expect(
			page.getByRole('form', { name: 'Signature' }).getByText('A. Tarn signed as the outgoing person. Somebody else takes over.')
		).toBeVisible();
		await sign('farid', '2006');
		await expect(verdict(page)).toContainText('handed over by A. Tarn to F. Larch');
		await expect(verdict(page)).toHaveAttribute('data-level', 'good');
		await expect(page.getByText('B. Rook', { exact: true })).toBeVisible();
	});
});

test('a scan is taken wherever the focus is, and never stays in a field', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/panels');
	await page.getByLabel('Part of a serial').focus();
	await scanWhereTheFocusIs(page, 'J-2411-0003');
	await expect(page.getByTestId('scan-reply')).toContainText('Panel J-2411-0003');
	await expect(page.getByLabel('Part of a serial')).toHaveValue('');
	await expect(page).toHaveURL(/\/panels$/);
	await page.keyboard.press('Escape');
	await expect(page.getByTestId('scan-reply')).toBeHidden();

	await test.step('blades, slots, parts and reels are known, in capitals or not; what is not known is said', async () => {
		const find = async (code: string) =>
			(await (await page.request.get(`/api/v1/find?line=1&code=${encodeURIComponent(code)}`)).json()) as {
				ok: boolean;
				what: string;
				why: string;
			};
		expect(await find('j-2411-0003')).toMatchObject({ ok: true, what: 'Panel J-2411-0003' });
		expect(await find('b-11')).toMatchObject({
			ok: true,
			what: expect.stringMatching(/^Blade B-11/),
			why: expect.stringContaining('holder of Line 1')
		});
		const slot = await find('line 1/place 1/1');
		expect(slot).toMatchObject({ ok: true, what: 'Place 1, slot 1' });
		const part = /last loaded with (\S+), reel (\S+)/.exec(slot.why);
		if (part) {
			expect((await find(part[1]!.toLowerCase())).what).toContain(part[1]!);
			expect((await find(part[2]!)).what).toContain('Reel of');
		}
		expect(await find('place 1/9999x')).toMatchObject({ ok: false });
	});

	await test.step('a field that asks for a code keeps what is scanned into it', async () => {
		await page.goto('/line/1/paste');
		await page.getByRole('button', { name: 'Receive a jar' }).click();
		const number = page.getByLabel('Number on the label');
		await number.focus();
		await scanWhereTheFocusIs(page, 'J-0099');
		await expect(number).toHaveValue('J-0099');
		await expect(page.getByTestId('scan-reply')).toBeHidden();
		await expect(page.getByLabel('Paste of the jar')).toBeFocused();
	});
});

test('a technician may not release, and both themes keep the page readable', async ({ page }) => {
	await signIn(page, 'anwen', '2001');
	await page.goto('/line/1/print/stencil');
	await expect(verdict(page)).toBeVisible();
	await page.getByLabel('Foil, µm').fill('110');
	await expect(page.getByRole('button', { name: 'Release 110 µm' })).toBeDisabled();
	await page.getByRole('button', { name: 'Day or night' }).click();
	await expect(page.locator('html')).toHaveAttribute('data-theme', /night|day/);
	expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280);
});

test('columns in unknown words are chosen once: the customer’s next board is read the same way, and says so', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	// As the stranger's, with titles that nobody knows, X and Y the other way round from what they look like, and no side.
	const [, ...rows] = POSITIONS.trim().split('\n');
	const foreign = [
		'Bezug;Hoch [mm];Quer [mm];Dreh;Bauform',
		...rows.map((row) => {
			const [refDes, x, y, rotation, , , packageName] = row.split(';');
			return [refDes, y, x, rotation, packageName].join(';');
		}),
		''
	].join('\n');
	const fill = async (name: string) => {
		await page.goto('/boards/new');
		await page.getByLabel('Board', { exact: true }).fill(name);
		await page.getByLabel('Customer').fill('Heronmere Mushrooms');
		await page.getByLabel('Revision').fill('A');
		await page.getByLabel('Width, mm').fill('40');
		await page.getByLabel('Height, mm').fill('30');
		await choose(page, { paste: file('paste.gbr', PASTE), bom: file('bom.csv', PARTS_LIST), positions: file('xy.csv', foreign) });
	};
	await fill('Humidity controller, first');
	const columns = page.getByTestId('columns-of-positions');
	await expect(columns).toContainText('which column is what?');
	await expect(columns.getByLabel('Column 1, Bezug')).toHaveValue('ref');
	await columns.getByLabel('Column 3, Quer [mm]').selectOption('x');
	await columns.getByLabel('Column 2, Hoch [mm]').selectOption('y');
	await columns.getByLabel('Column 5, Bauform').selectOption('package');
	await columns.getByRole('button', { name: 'Read it like this' }).click();
	await page.getByTestId('question-positionsSide').getByRole('button', { name: 'all top' }).click();
	await expect(page.getByTestId('read-summary')).toContainText('32 openings, 13 parts');
	await expect(page.getByTestId('as-before')).toBeHidden();
	await page.getByRole('button', { name: 'Keep as board revision' }).click();
	await expect(page).toHaveURL(/\/boards\/\d+$/);

	await fill('Humidity controller, second');
	await expect(page.getByTestId('as-before')).toHaveText(
		'As for Humidity controller, first A: the columns of the positions, the side of the parts of the positions.'
	);
	await expect(page.getByTestId('read-summary')).toContainText('32 openings, 13 parts');
	await expect(page.getByTestId('question-positionsSide')).toBeHidden();
	// What was taken can be seen, and taken otherwise.
	await page.getByRole('button', { name: 'Columns: positions' }).click();
	await expect(columns.getByLabel('Column 3, Quer [mm]')).toHaveValue('x');
	await columns.getByLabel('Column 3, Quer [mm]').selectOption('');
	await expect(columns.getByRole('button', { name: 'Read it like this' })).toBeDisabled();
	await columns.getByLabel('Column 3, Quer [mm]').selectOption('x');
	await columns.getByRole('button', { name: 'These are right' }).click();
	await expect(page.getByTestId('read-summary')).toContainText('13 parts');

	// Another customer's file with the same titles is asked.
	await page.getByLabel('Customer').fill('Somebody else');
	await page.getByLabel('Revision').fill('B');
	await page.goto('/boards/new');
	await page.getByLabel('Customer').fill('Somebody else');
	await page.getByLabel('Width, mm').fill('40');
	await page.getByLabel('Height, mm').fill('30');
	await choose(page, { paste: file('paste.gbr', PASTE), bom: file('bom.csv', PARTS_LIST), positions: file('xy.csv', foreign) });
	await expect(columns).toContainText('which column is what?');
});
