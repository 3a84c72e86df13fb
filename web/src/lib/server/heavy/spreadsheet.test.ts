import exceljs from 'exceljs';
import { seededRandom, type Random } from '@keen-relay/core/numerics';
import { describe, expect, test } from 'vitest';
import { readSheets } from './spreadsheet.ts';

const SLOWEST_MS = 2000;

/** A cell of any kind that a spreadsheet may hold. */
function anyCell(random: Random): exceljs.CellValue {
	const kinds: (() => exceljs.CellValue)[] = [
		() => 402,
		() => 1e300,
		() => -0.1,
		() => 'R1, R2\tR3\nR4',
		() => '=1+1',
		() => new Date(Date.UTC(2026, 5, 1)),
		() => true,
		() => null,
		() => ({ formula: 'A1+B1', result: 12 }),
		() => ({ formula: 'A1', result: { error: '#N/A' } as never }),
		() => ({ richText: [{ text: '0' }, { text: '603' }] }),
		() => ({ text: 'a link', hyperlink: 'https://example.invalid' }),
		() => ({ error: '#REF!' }),
		() => 'x'.repeat(30_000)
	];
	return kinds[random.integer(kinds.length)]!();
}

async function anySheet(random: Random): Promise<Uint8Array> {
	const book = new exceljs.Workbook();
	for (let s = 0; s <= random.integer(3); s++) {
		const sheet = book.addWorksheet(`Sheet ${s}`);
		const header = random.integer(3) + 5;
		['Designator', 'Part number', 'Package', 'Value'].forEach((title, c) => (sheet.getCell(header, c + 1).value = title));
		for (let i = 0; i < random.integer(60); i++) sheet.getCell(random.integer(80) + 10, random.integer(6) + 1).value = anyCell(random);
		// A cell far away costs what is there, not what could be.
		if (random.chance(0.5)) sheet.getCell(random.integer(1_000_000) + 10, random.integer(300) + 1).value = anyCell(random);
		if (random.chance(0.3)) sheet.mergeCells(1, 1, 3, 4);
		if (random.chance(0.3)) sheet.getColumn(3).numFmt = '0000';
	}
	return new Uint8Array(await book.xlsx.writeBuffer());
}

/** The same file with some bytes changed, cut off or doubled. */
function broken(bytes: Uint8Array, random: Random): Uint8Array {
	const out = Uint8Array.from(bytes);
	for (let i = 0; i < 1 + random.integer(8); i++) out[random.integer(out.length)] = random.integer(256);
	if (random.chance(0.3)) return out.slice(0, random.integer(out.length));
	return random.chance(0.2) ? new Uint8Array([...out, ...out.slice(random.integer(out.length))]) : out;
}

describe('a stranger’s spreadsheet', () => {
	test('whatever stands in its cells, is read in time: text, one line a row, no figure that is none', async () => {
		const random = seededRandom(77);
		for (let i = 0; i < 40; i++) {
			const bytes = await anySheet(random);
			const begun = performance.now();
			const sheets = await readSheets(bytes);
			expect(performance.now() - begun).toBeLessThan(SLOWEST_MS);
			for (const { text } of sheets) {
				expect(text).not.toMatch(/NaN|undefined|\[object/);
				expect(text).toContain('Designator');
			}
		}
	});

	test('that is damaged is read or refused, in time, and never by anything but an error', async () => {
		const random = seededRandom(78);
		const whole = await anySheet(random);
		let refused = 0;
		for (let i = 0; i < 150; i++) {
			const begun = performance.now();
			await readSheets(broken(whole, random)).catch((error: unknown) => {
				expect(error).toBeInstanceOf(Error);
				refused++;
			});
			expect(performance.now() - begun).toBeLessThan(SLOWEST_MS);
		}
		expect(refused).toBeGreaterThan(75);
	});
});
