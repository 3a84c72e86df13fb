import { expect, test, type Page } from './test.ts';
import { signIn } from './people.ts';
import { file } from './stranger.ts';

const choose = async (page: Page, files: Record<string, ReturnType<typeof file>>) => {
	for (const [name, chosen] of Object.entries(files)) await page.locator(`input[name="${name}"]`).setInputFiles(chosen);
};

/** Chips of a small board, mm; two pads each, 0.48 mm from the middle. */
const TOP: [string, number, number][] = [
	['R1', 4, 3],
	['R2', 11, 5.5],
	['R3', 17.5, 11],
	['C1', 6, 12]
];
const BOTTOM: [string, number, number][] = [
	['R11', 5, 4],
	['R12', 14, 8.5],
	['R13', 9, 12.5]
];
const gerber = (at: [number, number][]) => {
	const n = (v: number) => Math.round(v * 1e4);
	return [
		'%FSLAX34Y34*%',
		'%MOMM*%',
		'%ADD10R,0.5X0.54*%',
		'%ADD11C,1.2*%',
		'D10*',
		...at.map(([x, y]) => `X${n(x)}Y${n(y)}D03*`),
		'D11*',
		'M02*'
	].join('\n');
};
const pads = (chips: [string, number, number][], dx = 0, dy = 0, turned = false) =>
	chips.flatMap(([, x, y]) => [-0.48, 0.48].map((d): [number, number] => (turned ? [dx - (x + d), dy - y] : [dx + x + d, dy + y])));
const POSITIONS = [
	'Ref,X (mm),Y (mm),Rot,Side,Package',
	...TOP.map(([ref, x, y]) => `${ref},${x},${y},0,T,RESC1005X40N`),
	...BOTTOM.map(([ref, x, y]) => `${ref},${x},${y},0,B,RESC1005X40N`)
].join('\n');
const BOM = 'Part number,Designators,Package\nP-1,"R1-R3,C1,R11-R13",RESC1005X40N\n';

test('a panel’s layer: the page asks with a picture, cuts one circuit out, and keeps where the others stand', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/boards/new');
	// Two circuits, the second turned by 180°, and a mark that belongs to none.
	const layer = gerber([...pads(TOP, 5, 5), ...pads(TOP, 50, 22, true)]).replace('D11*', 'D11*\nX20000Y250000D03*');
	await choose(page, { paste: file('panel.gbr', layer), positions: file('xy.csv', POSITIONS), bom: file('bom.csv', BOM) });
	const question = page.getByTestId('circuit-or-panel');
	await expect(question).toContainText(
		'It looks like a panel of 2 circuits, turned by 180°: 8 openings stand 2 times in the same arrangement; 1 belong to none.'
	);
	await expect(page.getByRole('button', { name: 'Keep as board revision' })).toBeDisabled();
	await question.getByRole('button', { name: 'The panel' }).click();
	await expect(page.getByTestId('issues')).toContainText('belongs to no circuit: a mark, a coupon, or a rail?');
	await expect(page.getByText(/One circuit of 18\.\d+ × 13\.\d+ mm was cut out, 8 openings/)).toBeVisible();
	for (const [name, value] of [
		['Board', 'Loan tracker'],
		['Customer', 'Quay Museum'],
		['Revision', 'A']
	] as const)
		await page.getByLabel(name, { exact: true }).fill(value);
	await page.getByRole('button', { name: 'Keep as board revision' }).click();
	await expect(page.getByRole('heading', { name: /Loan tracker A, top/ })).toBeVisible();
	await expect(page.getByLabel('Circuit 2, turn, °')).toBeVisible();
	await expect(page.getByLabel('Circuit 3, turn, °')).toBeHidden();
	await page.getByRole('button', { name: 'Panel', exact: true }).click();
	// Half round about its middle a circuit covers the same place; its corner is the one across.
	const [x, y, turn] = ['x, mm', 'y, mm', 'turn, °'].map((of) => page.getByLabel(`Circuit 1, ${of}`));
	const before = [Number(await x!.inputValue()), Number(await y!.inputValue()), Number(await turn!.inputValue())];
	await turn!.fill(String((before[2]! + 180) % 360));
	await expect.poll(async () => Math.abs(Number(await x!.inputValue()) - before[0]!)).toBeGreaterThan(1);
	await turn!.fill(String(before[2]));
	await expect.poll(async () => Math.abs(Number(await x!.inputValue()) - before[0]!)).toBeLessThan(0.01);
	// Marks of each circuit are looked at in both; one without a place is asked for.
	const looks = page.getByTestId('marks');
	const count = async () => Number(/looks at (\d+) marks/.exec(await looks.innerText())?.[1]);
	const own = await count();
	await page.getByRole('button', { name: 'One in each circuit' }).click();
	await expect(page.getByRole('alert')).toContainText('A mark has two coordinates');
	await page.getByLabel('Skip mark of a circuit, x, mm').fill('1');
	await page.getByLabel('Skip mark of a circuit, y, mm').fill('1');
	await expect.poll(count).toBe(own + 2);
	await page.getByRole('button', { name: 'One for the whole panel' }).click();
	await page.getByLabel('Skip mark of the panel, x, mm').fill('3');
	await page.getByLabel('Skip mark of the panel, y, mm').fill('3');
	await expect.poll(count).toBe(own + 1);
	await page.getByRole('button', { name: 'Set the panel' }).click();
	await expect(page.getByText('Panel set', { exact: true })).toBeVisible();
	await page.reload();
	await expect(page.getByLabel('Skip mark of the panel, x, mm')).toHaveValue('3');
});

test('the other side is added: turned to what the machine sees, on the same panel, its parts not missed on the first', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/boards/new');
	await page.getByLabel('Width, mm').fill('22');
	await page.getByLabel('Height, mm').fill('16');
	await choose(page, { paste: file('top.gbr', gerber(pads(TOP))), positions: file('xy.csv', POSITIONS), bom: file('bom.csv', BOM) });
	await expect(page.getByTestId('read-summary')).toContainText('The files agree.');
	for (const [name, value] of [
		['Board', 'Tag reader'],
		['Customer', 'Quay Museum'],
		['Revision', 'B']
	] as const)
		await page.getByLabel(name, { exact: true }).fill(value);
	await page.getByRole('button', { name: 'Keep as board revision' }).click();
	await page.getByRole('link', { name: 'Add the other side' }).click();
	await expect(page.getByRole('heading', { name: 'Tag reader B, bottom side' })).toBeVisible();
	await page.getByLabel('Width, mm').fill('22');
	await page.getByLabel('Height, mm').fill('16');
	await choose(page, { paste: file('bottom.gbr', gerber(pads(BOTTOM))), positions: file('xy.csv', POSITIONS), bom: file('bom.csv', BOM) });
	await expect(page.getByTestId('issues')).toContainText('The bottom is turned to what the machine sees');
	// A netlist names the pins of this side.
	const netlist = [
		'P  UNITS CUST 1',
		...BOTTOM.flatMap(([ref, x, y]) =>
			[-0.48, 0.48].map(
				(d, i) =>
					`327N${ref}${i}`.padEnd(20) +
					ref.padEnd(6) +
					`-${i + 1}`.padEnd(12) +
					`A02X+${String(Math.round((x + d) * 1000)).padStart(6, '0')}Y+${String(Math.round(y * 1000)).padStart(6, '0')}X0500Y0540R000 S1`
			)
		),
		'999'
	].join('\n');
	await choose(page, { netlist: file('board.ipc', netlist) });
	await expect(page.getByTestId('read-summary')).toContainText('6 openings with a pin');
	await page.getByRole('button', { name: 'Keep as board revision' }).click();
	await expect(page.getByRole('heading', { name: /Tag reader B, bottom/ })).toBeVisible();
	await expect(page).toHaveURL(/\/boards\/\d+$/);
	const side = new URL(page.url()).pathname.split('/').at(-1);
	const geometry = await (await page.request.get(`/api/v1/sides/${side}/geometry`)).json();
	const r12 = geometry.parts.find((part: { refDes: string }) => part.refDes === 'R12');
	expect([r12.xMm, r12.yMm]).toEqual([22 - 14, 8.5]);
	expect(geometry.apertures.map((a: { pin: string; net: string }) => `${a.pin} ${a.net}`)).toContain('1 NR110');
	await page.getByRole('link', { name: 'Other side' }).click();
	await expect(page.getByRole('heading', { name: /Tag reader B, top/ })).toBeVisible();
	await expect(page.getByRole('link', { name: 'Add the other side' })).toHaveCount(0);
});

test('a package that is not known is entered with its source, and undone', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/boards/packages');
	await page.getByRole('searchbox', { name: 'Filter Packages' }).fill('CAPE');
	await page.getByRole('button', { name: /CAPE_/ }).first().click();
	const sheet = page.getByTestId('package');
	await page.getByLabel('What', { exact: true }).selectOption('classificationC');
	await page.getByLabel('Value').fill('900');
	await page.getByLabel('Source').fill('maker’s data sheet');
	await page.getByRole('button', { name: 'Keep it' }).click();
	await expect(page.getByText(/classificationC: expected 180 to 300 °C, received 900/)).toBeVisible();
	await page.getByLabel('Value').fill('245');
	await page.getByRole('button', { name: 'Keep it' }).click();
	await expect(sheet.getByRole('row', { name: /Classification temperature/ })).toContainText('maker’s data sheet');
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(sheet.getByRole('row', { name: /Classification temperature/ })).not.toContainText('maker’s data sheet');
});

test('the next revision against the one before: what stands on no drawing first, and where it is', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	const keep = async (revision: string, positions: string, bom: string) => {
		await page.goto('/boards/new');
		await page.getByLabel('Width, mm').fill('22');
		await page.getByLabel('Height, mm').fill('16');
		await choose(page, { paste: file('top.gbr', gerber(pads(TOP))), positions: file('xy.csv', positions), bom: file('bom.csv', bom) });
		await expect(page.getByTestId('read-summary')).toContainText('The files agree.');
		await page.getByLabel('Board', { exact: true }).fill('Seed counter');
		await page.getByLabel('Customer', { exact: true }).fill('Quay Museum');
		await page.getByLabel('Revision', { exact: true }).fill(revision);
		await page.getByRole('button', { name: 'Keep as board revision' }).click();
		await expect(page.getByRole('heading', { name: `Seed counter ${revision}, top` })).toBeVisible();
	};
	await keep('1', POSITIONS, BOM);
	await expect(page.getByRole('link', { name: /Changes since/ })).toBeHidden();
	await keep('2', POSITIONS, BOM.replace('R1-R3,C1', 'R1,R2,C1').concat('P-2,R3,RESC1005X40N\n'));
	await page.getByRole('link', { name: 'Changes since 1' }).click();
	const verdict = page.getByTestId('verdict');
	await expect(verdict).toContainText('1 change stands on no drawing: R3 P-1 → P-2.');
	await expect(verdict).toHaveAttribute('data-level', 'act');
	await expect(page.getByTestId('changes').locator('tbody tr')).toHaveText([/R3\s*part number\s*P-1\s*P-2/]);
	await page.goto('/boards/revisions?side=1');
	await expect(verdict).toContainText('has no other revision to compare with');
});

test('a difference between the files is accepted with a reason, by name, and then keeps nobody from a run', async ({ page }) => {
	await signIn(page, 'basil', '2002');
	await page.goto('/boards/new');
	await page.getByLabel('Width, mm').fill('22');
	await page.getByLabel('Height, mm').fill('16');
	await choose(page, {
		paste: file('top.gbr', gerber(pads(TOP))),
		positions: file('xy.csv', POSITIONS),
		bom: file('bom.csv', BOM.replace('R1-R3,C1', 'R1-R3,C1,R9'))
	});
	await expect(page.getByTestId('read-summary')).toContainText('1 error to settle before a run');
	await page.getByLabel('Board', { exact: true }).fill('Loan counter');
	await page.getByLabel('Customer', { exact: true }).fill('Quay Museum');
	await page.getByLabel('Revision', { exact: true }).fill('1');
	await page.getByRole('button', { name: 'Keep as board revision' }).click();
	await expect(page.getByText(/1 difference keeps it from running: R9 .*has no position/)).toBeVisible();
	await page.getByRole('link', { name: 'Settle them' }).click();
	const verdict = page.getByTestId('verdict');
	await expect(verdict).toHaveAttribute('data-level', 'act');
	await page.getByRole('button', { name: 'Accept it as it is' }).click();
	await expect(page.getByLabel('Why, for the record')).toHaveAccessibleDescription('Say why.');
	await page.getByLabel('Why, for the record').fill('fitted by hand after the oven');
	await page.getByRole('button', { name: 'Accept it as it is' }).click();
	await expect(verdict).toHaveAttribute('data-level', 'good');
	const row = page.getByTestId('differences').locator('tbody tr');
	await expect(row).toContainText('accepted');
	await expect(row).toContainText('fitted by hand after the oven');
	await expect(row).toContainText('B. Rook');
	await page.goto('/boards');
	await expect(page.getByTestId('boards').getByRole('row', { name: /Loan counter/ })).toContainText('yes');
	await page.goBack();
	await page.getByLabel('Why, for the record').fill('the customer sends a position');
	await page.getByRole('button', { name: 'Open it again' }).click();
	await expect(verdict).toHaveAttribute('data-level', 'act');
	const technician = await page.context().browser()!.newPage();
	await signIn(technician, 'anwen', '2001');
	await technician.goto(page.url());
	await expect(technician.getByRole('button', { name: 'Accept it as it is' })).toBeDisabled();
	await technician.close();
});
