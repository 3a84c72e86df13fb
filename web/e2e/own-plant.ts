import { expect, test, type Browser, type Locator, type Page } from './test.ts';
import { readFileSync } from 'node:fs';
import { PASTE_COLUMN_NAMES } from '@keen-relay/core/inspection';
import { readAs } from './people.ts';
import { file, PARTS_LIST, PASTE, POSITIONS } from './stranger.ts';

const verdict = (page: Page) => page.getByTestId('verdict');
/** As fingers type it: a browser takes no comma that a program puts into a number field at once. */
async function typed(field: Locator, text: string): Promise<void> {
	await field.fill('');
	await field.pressSequentially(text);
}
const next = (page: Page) => page.getByTestId('start-head');

/** Chooses a PIN with the starting code that a lead was told, as somebody who works here for the first time. */
async function firstUse(browser: Browser, base: string, { badge, code, pin }: Record<'badge' | 'code' | 'pin', string>): Promise<Page> {
	const page = await (await browser.newContext({ baseURL: base, viewport: { width: 1280, height: 800 } })).newPage();
	await page.goto('/sign-in');
	await page.getByLabel('Badge').fill(badge);
	await page.getByLabel('PIN').fill(code);
	await page.getByRole('button', { name: 'Sign in' }).click();
	await expect(page.getByRole('heading', { name: 'Choose your PIN' })).toBeVisible();
	await page.getByLabel('PIN', { exact: true }).fill('1111');
	await page.getByLabel('The same PIN again').fill('1111');
	await page.getByRole('button', { name: 'Use this PIN' }).click();
	await expect(page.getByRole('alert')).toContainText('tried first');
	await page.getByLabel('PIN', { exact: true }).fill(pin);
	await page.getByLabel('The same PIN again').fill(pin);
	await page.getByRole('button', { name: 'Use this PIN' }).click();
	await expect(page.getByTestId('next-up')).toBeVisible();
	return page;
}

/** From an empty plant to its first panel, by pages only: as its first lead and the two whom they invite would do it.
 * @param page signed in as the first lead
 * @returns the page of the technician, signed in
 */
export async function firstPanelByPages(page: Page, browser: Browser, base: string): Promise<Page> {
	let technician!: Page;
	let engineer!: Page;

	await test.step('every page says what is missing and leads there', async () => {
		await page.goto('/');
		await expect(page).toHaveURL(/\/plant\/set-up$/);
		await expect(next(page)).toContainText('The plant: Set its name');
		for (const path of ['/boards', '/runs', '/panels', '/shift', '/plant/machines/first', '/line/1', '/line/1/print']) {
			await page.goto(path);
			const way = page.getByTestId('start-next');
			await expect(way, path).toContainText('To the first panel: The plant.');
			await expect(way.getByRole('link', { name: 'Go there' }), path).toHaveAttribute('href', '/plant/set-up/plant');
		}
		await page.goto('/shift');
		await page.getByRole('link', { name: 'Enter a line' }).click();
		await expect(page).toHaveURL(/\/plant\/set-up\/lines/);
	});

	await test.step('the plant: name, zone, shifts; what overlaps is said before it is kept', async () => {
		await page.goto('/plant/set-up');
		await page.getByRole('link', { name: 'Go there' }).first().click();
		await page.getByLabel('Name', { exact: true }).fill('Fernbrook Assembly, the mill');
		await page.getByLabel('Time zone').fill('Europe/Nowhere');
		const late = page.getByRole('group', { name: 'Shift 2' });
		await late.getByLabel('From').fill('13:00');
		await expect(page.getByText('Late runs while Early does')).toBeVisible();
		await expect(page.getByRole('button', { name: 'Keep the plant so' })).toBeDisabled();
		await late.getByLabel('From').fill('14:00');
		await page.getByRole('button', { name: 'Keep the plant so' }).click();
		await expect(page.getByRole('form', { name: 'The plant' }).getByText('There is no time zone “Europe/Nowhere”')).toBeVisible();
		await page.getByLabel('Time zone').fill('Europe/Dublin');
		await page.getByRole('button', { name: 'Keep the plant so' }).click();
		await expect(page.getByText('Fernbrook Assembly, the mill is set')).toBeVisible();
		await page.goto('/plant/set-up');
		await expect(next(page)).toContainText('The people:');
	});

	await test.step('two people are invited: each chooses a PIN that nobody else knows', async () => {
		await page.goto('/plant/people');
		const invited: Record<string, string> = {};
		for (const [name, badge, role] of [
			['T. Finch', 'finch', 'technician'],
			['E. Dunlin', 'dunlin', 'engineer']
		] as const) {
			await page.getByLabel('Name', { exact: true }).fill(name);
			await page.getByLabel('Badge of the new person').fill(badge);
			await page.getByLabel('Role of the new person').selectOption(role);
			await page.getByRole('button', { name: 'Enter the person' }).click();
			const told = page.getByTestId('starting-code');
			await expect(told).toContainText(`badge ${badge}`);
			invited[badge] = /\d{4}-\d{4}/.exec(await told.innerText())![0];
			await page.getByRole('button', { name: 'I have handed it over' }).click();
		}
		await page.goto('/plant/set-up');
		await expect(page.getByTestId('steps')).toContainText('1 person can sign in, 2 have a starting code');
		technician = await firstUse(browser, base, { badge: 'finch', code: invited.finch!, pin: '5960' });
		engineer = await firstUse(browser, base, { badge: 'dunlin', code: invited.dunlin!.replace('-', ' '), pin: '8412' });
	});

	await test.step('each reads figures in their own way: commas and the day first for one, inches and points for the other', async () => {
		await readAs(technician, 'Germany: 0,25 · 27.11.2026', '');
		await readAs(engineer, 'United States: 0.25 · 11/27/2026', 'customary: in, mil, °F, oz');
		// How the plant has it is for whoever chose nothing.
		await page.goto('/plant/set-up/plant');
		await expect(page.getByLabel(/^Numbers and dates/)).toHaveValue('en-GB');
	});

	await test.step('a line with two placers is entered from a usual size and corrected from its papers', async () => {
		await page.goto('/plant/set-up/lines');
		const form = page.getByRole('form', { name: 'New line' });
		await form.getByLabel('Name', { exact: true }).fill('Line 1');
		await form.getByRole('button', { name: 'Middle line' }).click();
		const stations = form.locator('ol > li');
		await expect(stations).toHaveCount(6);
		await stations.nth(2).getByRole('button', { name: 'Machine data' }).click();
		await form.getByLabel('Feeder slots').fill('60');
		await form.getByLabel('Camera at slot').fill('70');
		await expect(form.getByRole('status')).toContainText('The camera stands at slot 70: the bank ends at 60');
		await typed(form.getByLabel('Camera at slot'), '30,5');
		await expect(form.getByRole('img', { name: /Slot bank/ })).toContainText('60 slots, 0.72 m');
		await form.getByRole('button', { name: 'Enter this line' }).click();
		await expect(page.getByTestId('line-stations').locator('> li')).toHaveCount(6);
		await expect(page.getByTestId('line-stations')).toContainText('30.5');
		// Later: a revision of its own, and a bench at the end.
		const printer = page.getByTestId('line-stations').locator('> li').first();
		await printer.getByRole('button', { name: 'Machine data' }).click();
		await typed(printer.getByLabel('Cycle, s a panel'), '22,5');
		await printer.getByRole('button', { name: 'Keep as revision 2' }).click();
		await expect(printer).toContainText('data revision 2');
		await page.getByRole('button', { name: '+ Bench' }).click();
		await page.getByRole('button', { name: 'Enter it at the line’s end' }).click();
		await expect(page.getByTestId('line-stations').locator('> li')).toHaveCount(7);
		// What was entered by mistake is put out of use, and back.
		await page.getByTestId('line-stations').locator('> li').nth(6).getByRole('button', { name: 'Out of use' }).click();
		await page.getByTestId('out-of-use').getByRole('button', { name: 'Back into use' }).click();
		await expect(page.getByTestId('line-stations').locator('> li').nth(6)).toContainText('Bench');
	});

	await test.step('the rules are looked at; results come by hand and by file', async () => {
		await page.goto('/plant/rules?rule=yieldGoals');
		await typed(page.getByLabel(/^Optical/), '0,9');
		await page.getByRole('button', { name: 'Keep these' }).click();
		await expect(page.getByText(/Revision 1, M\. Wren/)).toBeVisible();
		await page.goto('/plant/set-up');
		await expect(next(page)).toContainText('How results come in');
		await page.getByRole('button', { name: 'By hand and by file' }).click();
		await expect(next(page)).toContainText('The paste: Define the paste from its data sheet');
	});

	await test.step('the engineer defines the paste, the technician receives a jar', async () => {
		await engineer.goto('/line/1/paste/pastes');
		await engineer.getByRole('button', { name: 'New paste' }).click();
		const paste = engineer.getByRole('form', { name: 'Paste' });
		await paste.getByLabel('name', { exact: true }).fill('Own no-clean');
		await paste.getByLabel('part number').fill('P-700');
		await paste.getByLabel('alloy').fill('SAC305');
		await typed(paste.getByLabel('metal, % of the mass'), '88,5');
		await paste.getByRole('button', { name: 'Keep this paste' }).click();
		await expect(engineer.getByRole('button', { name: 'Own no-clean' })).toBeVisible();
		await technician.goto('/line/1/paste');
		await technician.getByRole('button', { name: 'Receive a jar' }).click();
		await technician.getByLabel('Number on the label').fill('J-0001');
		await technician.getByLabel('Paste of the jar').selectOption({ label: 'Own no-clean' });
		await technician.getByLabel('Lot').fill('L26-114');
		await technician.getByLabel('Use by, day or month').fill('2099-12');
		await technician.getByRole('button', { name: 'Receive this jar' }).click();
		await expect(technician.getByTestId('jar').getByRole('heading', { name: 'J-0001' })).toBeVisible();
	});

	await test.step('the engineer reads a stranger’s files and releases what a run needs', async () => {
		await engineer.goto('/boards/new');
		for (const [name, chosen] of [
			['paste', file('paste.gbr', PASTE)],
			['positions', file('xy.csv', POSITIONS)],
			['bom', file('bom.csv', PARTS_LIST)]
		] as const)
			await engineer.locator(`input[name="${name}"]`).setInputFiles(chosen);
		await engineer.getByLabel('Width, in').fill('40 mm');
		await engineer.getByLabel('Height, in').fill('30 mm');
		await engineer.getByLabel('Height, in').press('Tab');
		await expect(engineer.getByTestId('read-summary')).toContainText('The files agree.');
		await engineer.getByLabel('Board', { exact: true }).fill('Mushroom-house humidity controller');
		await engineer.getByLabel('Customer', { exact: true }).fill('Cellar Caps');
		await engineer.getByLabel('Revision', { exact: true }).fill('A');
		await engineer.getByRole('button', { name: 'Keep as board revision' }).click();
		await expect(engineer.getByRole('heading', { name: /humidity controller A, top/ })).toBeVisible();
		await engineer.getByLabel('Columns', { exact: true }).fill('2');
		await typed(engineer.getByLabel('Pitch x, in'), '42,0 mm');
		await engineer.getByLabel('Pitch x, in').blur();
		await expect(engineer.getByLabel('Pitch x, in')).toHaveValue('1.6535');
		await engineer.getByRole('button', { name: 'Set the panel' }).click();
		await expect(engineer.getByText('Panel set', { exact: true })).toBeVisible();
		await engineer.goto('/line/1/print/stencil');
		await engineer.getByLabel('Foil, mil').fill('5 mil');
		await expect(engineer.getByText('= 5 mil')).toBeVisible();
		await engineer.getByRole('button', { name: 'Release 5.0 mil' }).click();
		await expect(engineer.getByRole('button', { name: 'Stencil 1 is released' })).toBeVisible();
		await engineer.goto('/line/1/print/set-up');
		await engineer.getByRole('button', { name: 'Release this recipe' }).click();
		await expect(engineer.getByText('Print recipe 1 is released for this board on this line.')).toBeVisible();
		await engineer.getByTestId('tile-Place 1').click();
		await engineer.getByRole('button', { name: 'Release the program' }).click();
		await expect(engineer.getByRole('button', { name: 'Program 1 is released' })).toBeVisible();
		await engineer.goto('/line/1/oven');
		await engineer.getByRole('button', { name: 'Tune' }).click();
		await expect(engineer.getByRole('button', { name: 'Tune' })).toBeVisible({ timeout: 60_000 });
		await engineer.getByRole('button', { name: 'Release recipe' }).click();
		await expect(engineer.getByRole('button', { name: 'Recipe 1 released' })).toBeVisible();
	});

	await test.step('a job is set up; a lead lets it print without what nobody scanned', async () => {
		await engineer.goto('/runs');
		await engineer.getByLabel('Job number').fill('J-1');
		await engineer.getByLabel('Board of the job').selectOption({ label: 'Mushroom-house humidity controller A' });
		await engineer.getByLabel('Panels', { exact: true }).fill('4');
		await engineer.getByRole('button', { name: 'Enter the job' }).click();
		await engineer.getByRole('row', { name: /J-1/ }).getByRole('button', { name: 'Set up' }).click();
		await expect(verdict(engineer)).toContainText('J-1 is not ready');
		await page.goto('/runs/ready');
		const override = page.getByTestId('override');
		for (const box of await override.getByRole('checkbox').all()) await box.check();
		await override.getByLabel('Reason of the override').fill('first day: stencil and jar read by eye');
		// Slots that nobody scanned are let through for half an hour at most.
		await override.getByLabel('this run').check();
		await expect(override).toContainText('Feeders: for 30 minutes at most');
		await expect(override.getByRole('button', { name: 'Print without it' })).toBeDisabled();
		await override.getByLabel('30 minutes').check();
		await override.getByRole('button', { name: 'Print without it' }).click();
		await engineer.getByRole('button', { name: 'Start printing' }).click();
		await expect(verdict(engineer)).toContainText('J-1 prints under an override');
	});

	await test.step('the first panel: a print by hand, its paste by a file with decimal commas, a bench by hand', async () => {
		await technician.goto('/line/1/print');
		await technician.getByRole('link', { name: /stead/ }).click();
		await technician.getByLabel('Panel', { exact: true }).fill('J-1-0001');
		await technician.getByLabel('Stroke').selectOption('F');
		await technician.getByLabel('Prints since the wipe').fill('0');
		await typed(technician.getByLabel('Cycle, s'), '21,5');
		await technician.getByRole('button', { name: 'Report it' }).click();
		await expect(technician.getByText(/a print taken/)).toBeVisible();
		await pasteByFile(engineer);
		await opticalByFile(technician);
		await technician.getByTestId('tile-Bench').click();
		const bench = technician.getByRole('form', { name: 'Inspect' });
		await bench.getByLabel('Panel').fill('J-1-0001');
		await bench.getByLabel('Place').fill('R7');
		await bench.getByLabel('Reason').fill('lifted lead');
		await bench.getByRole('button', { name: 'Fail, with place and reason' }).click();
		await expect(technician.getByText('J-1-0001, circuit 1: fail')).toBeVisible();
		// Its story tells all three, whichever way they came in.
		await technician.goto('/panels/J-1-0001');
		await expect(technician.getByText(/Printed under an override of M\. Wren/)).toBeVisible();
		await expect(technician.getByRole('row', { name: /paste pass.*mean 95,5 %, 0 fail, 0 warn of 64/ })).toBeVisible();
		await expect(technician.getByRole('row', { name: /Optical.*circuit 2: fail, R7 missing/ })).toBeVisible();
		await expect(technician.getByRole('row', { name: /Bench.*circuit 1: fail, R7 lifted lead/ })).toBeVisible();
		await page.goto('/plant/set-up');
		await expect(next(page)).toContainText('The plant has printed its first panel');
		await page.goto('/boards');
		await expect(page.getByTestId('start-next')).toHaveCount(0);
	});
	return technician;
}

/** Results of an inspection by a file with day-first dates: what it does not say of itself is asked, one bad row stops nothing, and the same file again counts once. */
async function opticalByFile(technician: Page): Promise<void> {
	await technician.getByTestId('tile-Optical').click();
	await technician.getByRole('link', { name: 'Files', exact: true }).click();
	const day = new Intl.DateTimeFormat('en-GB', { timeZone: 'Europe/Dublin' }).format(new Date());
	const rows = [
		'Serial;Position;Result;Finished;Designator;Defect',
		`J-1-0001;1;OK;${day} 00:05:10;;`,
		`J-1-0001;2;defect;${day} 00:05:12;R7;missing`,
		`J-1-0001;zwei;OK;${day} 00:05:12;;`
	].join('\r\n');
	const chosen = () => technician.getByLabel('File of results').setInputFiles(file('optical.csv', rows));
	await chosen();
	await expect(technician.getByLabel('Panel’s serial')).toHaveValue('Serial');
	await expect(verdict(technician)).toContainText('what “defect” means');
	await technician.getByLabel('“defect” means').selectOption({ label: 'failed' });
	const order = technician.getByLabel(/^In its dates stands first/);
	if (await order.isEnabled()) await order.selectOption({ label: 'the day' });
	await expect(verdict(technician)).toContainText('2 circuits, 1 failed; 1 rows cannot be read.');
	await expect(technician.getByTestId('not-read')).toContainText('line 4: circuit “zwei” is none, the first is 1');
	await technician.getByRole('button', { name: 'Take 2 circuits' }).click();
	await expect(verdict(technician)).toContainText('2 circuits taken.');
	await technician.reload();
	await chosen();
	// What was said of the words is remembered; the dates are asked again where they do not say it.
	if (await order.isEnabled()) await order.selectOption({ label: 'the day' });
	await technician.getByRole('button', { name: 'Take 2 circuits' }).click();
	await expect(verdict(technician)).toContainText('0 circuits taken, 2 known already.');
}

/** What comes after the first panel: a machine that speaks, somebody who leaves, another plant.
 * @param page signed in as the only lead; @param technician signed in as somebody who leaves
 */
export async function afterTheFirstPanel(page: Page, technician: Page, base: string): Promise<void> {
	await test.step('a machine that speaks later: its first message is answered as the page says, and one that names itself otherwise is matched', async () => {
		await page.goto('/plant/machines');
		await page.getByLabel('Which machine or program').fill('Placer 1');
		await page.getByRole('button', { name: 'Make a token' }).click();
		const token = (await page.getByTestId('new-token').locator('.figure').innerText()).trim();
		await page.goto('/plant/machines/first');
		await page.getByLabel('Station').selectOption({ label: 'Line 1/Place 1' });
		await expect(page.getByTestId('first-message')).toContainText('Line 1/Place 1');
		const [first, reply, again] = await Promise.all(
			['first-message', 'first-reply', 'again-reply'].map((id) => page.getByTestId(id).innerText())
		);
		const say = async (text: string) => {
			const answer = await fetch(`${base}/api/v1/messages`, {
				method: 'POST',
				headers: { authorization: `Bearer ${token}`, 'content-type': 'application/x-ndjson' },
				body: text
			});
			return answer.json();
		};
		expect(await say(first!)).toEqual(JSON.parse(reply!));
		expect(await say(first!)).toEqual(JSON.parse(again!));
		const stranger = { ...JSON.parse(first!), source: 'PLACER-07', state: 'stopped', reason: 'no vacuum' };
		expect((await say(JSON.stringify(stranger))).quarantined[0].reason).toContain('unknown source "PLACER-07"');
		await page.goto('/plant/machines');
		await page.getByLabel('Which station is PLACER-07').selectOption({ label: 'Line 1/Place 2' });
		await expect(page.getByTestId('sources')).toContainText('PLACER-07 is Line 1/Place 2');
		// What it had said until then was taken.
		await expect(page.getByText('Every message was taken.')).toBeVisible();
		await page.goto('/line/1');
		await expect(page.getByTestId('stations')).toContainText('no vacuum');
	});

	await test.step('who has left opens nothing; the last lead cannot leave', async () => {
		await page.goto('/plant/people');
		const people = page.getByTestId('people');
		await people
			.getByRole('row', { name: /T\. Finch/ })
			.getByRole('button', { name: 'Change' })
			.click();
		await page.getByRole('button', { name: 'Has left' }).click();
		await expect(page.getByTestId('leavers')).toContainText('1 who has left');
		await technician.goto('/boards');
		await expect(technician).toHaveURL(/sign-in/);
		await technician.getByLabel('Badge').fill('finch');
		await technician.getByLabel('PIN').fill('5960');
		await technician.getByRole('button', { name: 'Sign in' }).click();
		await expect(technician.getByRole('alert')).toContainText('do not go together');
		await people
			.getByRole('row', { name: /M\. Wren/ })
			.getByRole('button', { name: 'Change' })
			.click();
		await page.getByRole('button', { name: 'Has left' }).click();
		await expect(page.getByText('This is the only lead.')).toBeVisible();
	});

	await test.step('the set-up is one file; read into the plant that wrote it, nothing is new', async () => {
		await page.goto('/plant/set-up/copy');
		const [written] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Write it to a file' }).click()]);
		const path = await written.path();
		await page.getByLabel('Start this plant from another one’s file').setInputFiles(path);
		await expect(page.getByTestId('copy-head')).toContainText('is new here.');
		const set = JSON.parse(readFileSync(path, 'utf8'));
		set.lines[0].name = 'Line 2';
		set.lines.push({ name: 'Odd', purpose: 'finishing', stations: [set.lines[0].stations[0]] });
		set.rules.yieldGoals.optical = 0.91;
		set.pastes[0].name = 'Other no-clean';
		await page.getByLabel('Start this plant from another one’s file').setInputFiles(file('of-another.json', JSON.stringify(set)));
		await expect(page.getByTestId('copy-head')).toContainText('4 things would be taken');
		await page.getByRole('button', { name: 'Take them' }).click();
		await expect(page.getByTestId('copy-head')).toContainText('3 things were taken');
		await expect(page.getByTestId('copied').getByRole('row', { name: /Line Odd/ })).toContainText(
			'a line for finishing has no stencil printer'
		);
		await page.getByLabel('Start this plant from another one’s file').setInputFiles(file('bom.csv', PARTS_LIST));
		await expect(page.getByRole('alert')).toContainText('This file is no JSON');
		await page.goto('/plant/set-up/lines');
		await expect(page.getByTestId('entered')).toContainText('Line 2');
	});
}

/** Paste results of the first panel, as an inspection unit of another country writes them: semicolons, decimal commas, its own titles. */
async function pasteByFile(engineer: Page): Promise<void> {
	await engineer.goto('/line/1/paste-check/files');
	const pads = 2 * 32;
	const rows = Array.from({ length: pads }, (_, i) => `J-1-0001;${i + 1};95,5;112,25;97,0;3,0;-4,5`);
	await engineer.getByLabel('Inspection unit').fill('Unit of the mill');
	await engineer.getByLabel('Inspection unit').blur();
	await engineer.locator('input[name="results"]').setInputFiles(file('paste.csv', ['Board;Pad;Vol;High;Area;dx;dy', ...rows].join('\n')));
	for (const [name, title] of Object.entries({
		panel_no: 'Board',
		pad_id: 'Pad',
		volume_pct: 'Vol',
		height_um: 'High',
		area_pct: 'Area',
		offset_x_um: 'dx',
		offset_y_um: 'dy'
	}))
		await engineer
			.getByLabel(`Column for ${PASTE_COLUMN_NAMES[name as keyof typeof PASTE_COLUMN_NAMES]}`, { exact: true })
			.selectOption(title);
	await engineer.getByRole('button', { name: 'Keep 1 panels' }).click();
	await expect(verdict(engineer)).toContainText('1 panels kept.');
}
