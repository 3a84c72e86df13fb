import exceljs from 'exceljs';
import type { Issue } from '@keen-relay/core/judgement';

/** Chip codes whose leading zero a spreadsheet eats when it takes them for numbers. */
const LOST_ZERO = new Set([201, 402, 603, 805]);

export interface SheetText {
	/** Rows as lines, cells joined by tabs; line n is row n of the sheet. */
	text: string;
	sheet: string;
	issues: Issue[];
}

/** A parts list is at most this large; a sheet may claim a million rows and hold three. */
const MOST_ROWS = 50_000;
const MOST_COLUMNS = 200;
/** Rows in which the titles are looked for. */
const TITLE_ROWS = 60;
const PACKAGE_TITLE = /package|footprint|case|size|gehäuse|bauform/i;

/** Reads the sheets of an XLSX file as tab-separated text, number formats applied: 402 with format 0000 is "0402". Only rows and cells that are there cost anything.
 * @throws {Error} where it is no spreadsheet
 */
export async function readSheets(bytes: Uint8Array): Promise<SheetText[]> {
	const workbook = new exceljs.Workbook();
	// exceljs was typed against an older Buffer.
	await workbook.xlsx.load(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as never);
	return workbook.worksheets.map((sheet) => {
		const issues: Issue[] = [];
		const lines: string[] = [];
		/** Title of each column, from whichever row names a package. */
		const titles = new Map<number, string>();
		let cut = false;
		sheet.eachRow((row, r) => {
			if (r > MOST_ROWS) return void (cut = true);
			const cells: string[] = [];
			row.eachCell((cell, c) => {
				if (c > MOST_COLUMNS) return void (cut = true);
				if (r <= TITLE_ROWS && typeof cell.value === 'string' && PACKAGE_TITLE.test(cell.value)) titles.set(c, cell.value);
				while (cells.length < c - 1) cells.push('');
				cells.push(cellText(cell, titles.get(c) ?? '', r, issues));
			});
			while (lines.length < r - 1) lines.push('');
			lines.push(cells.join('\t'));
		});
		if (cut)
			issues.push({
				severity: 'error',
				code: 'sheet_too_large',
				field: 'file',
				value: sheet.name,
				message: `The sheet "${sheet.name}" goes beyond ${MOST_ROWS} rows or ${MOST_COLUMNS} columns: a parts list does not. Save its part that counts.`
			});
		return { text: lines.join('\n'), sheet: sheet.name, issues };
	});
}

/** What a cell shows: the result of a formula, the text of a link or of several fonts. */
function plainValue(value: exceljs.CellValue): string | number | boolean | Date | { error: unknown } | null {
	if (value === null || value === undefined) return null;
	if (typeof value !== 'object' || value instanceof Date) return value;
	if ('richText' in value) return value.richText.map((run) => run.text).join('');
	// The text of a link may be in several fonts.
	if ('text' in value) return plainValue(value.text as exceljs.CellValue);
	if ('formula' in value || 'sharedFormula' in value) return plainValue((value.result ?? null) as exceljs.CellValue);
	return 'error' in value ? value : null;
}

function cellText(cell: exceljs.Cell, title: string, line: number, issues: Issue[]): string {
	const flat = (text: string) => text.replace(/[\t\r\n]+/g, ' ').trim();
	const value = plainValue(cell.value);
	if (value !== null && typeof value === 'object' && 'error' in value) {
		issues.push({
			severity: 'error',
			code: 'error_in_sheet',
			line,
			field: title || `column ${cell.col}`,
			value: String(value.error),
			message: `Row ${line}: the spreadsheet says ${String(value.error)} here. Type what belongs in this cell.`
		});
		return '';
	}
	if (value instanceof Date) {
		issues.push({
			severity: 'error',
			code: 'date_in_sheet',
			line,
			field: title || `column ${cell.col}`,
			value: value.toISOString().slice(0, 10),
			message: `Row ${line}: the spreadsheet turned this cell into a date. Type the part number as text.`
		});
		return '';
	}
	if (typeof value === 'number') {
		const zeros = /^0{2,}$/.exec(cell.numFmt ?? '');
		if (zeros) return String(value).padStart(zeros[0].length, '0');
		if (title && LOST_ZERO.has(value)) {
			const restored = `0${value}`;
			issues.push({
				severity: 'warning',
				code: 'package_zero_restored',
				line,
				field: title,
				value: String(value),
				message: `Row ${line}: ${value} has lost its leading zero and is read as ${restored}.`
			});
			return restored;
		}
		// As it stands it is a metric code; an imperial 01005 would have lost its zero.
		if (title && value === 1005)
			issues.push({
				severity: 'warning',
				code: 'package_code_both_ways',
				line,
				field: title,
				value: '1005',
				message: `Row ${line}: 1005 is read as metric, 1.0 x 0.5 mm. If it was 01005 before the spreadsheet took its zero, type it as text.`
			});
		return String(value);
	}
	return value === null || typeof value === 'object' ? '' : flat(String(value));
}

/** A table as a page shows it. */
export interface ShownTable {
	name: string;
	columns: string[];
	rows: (string | number | null)[][];
}

/** Writes a table as a workbook of one sheet: titles stay in sight and can be filtered by, numbers are numbers. */
export async function writeSheet({ name, columns, rows }: ShownTable): Promise<Uint8Array> {
	const workbook = new exceljs.Workbook();
	const sheet = workbook.addWorksheet(name.replace(/[\\/*?:[\]]/g, ' ').slice(0, 31), { views: [{ state: 'frozen', ySplit: 1 }] });
	sheet.addRow(columns).font = { bold: true };
	sheet.addRows(rows);
	sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: 1, column: columns.length } };
	columns.forEach((title, i) => {
		const longest = rows.slice(0, 500).reduce((most, row) => Math.max(most, String(row[i] ?? '').length), title.length);
		sheet.getColumn(i + 1).width = Math.min(60, longest + 2);
	});
	return new Uint8Array(await workbook.xlsx.writeBuffer());
}
