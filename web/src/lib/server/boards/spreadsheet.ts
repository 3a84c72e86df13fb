import exceljs from 'exceljs';
import type { Issue } from '@keen-relay/core/judgement';

/** Chip codes whose leading zero a spreadsheet eats when it takes them for numbers. */
const LOST_ZERO = new Set([201, 402, 603, 805, 1005]);

export interface SheetText {
	/** Rows as lines, cells joined by tabs; line n is row n of the sheet. */
	text: string;
	sheet: string;
	issues: Issue[];
}

/** Reads the sheets of an XLSX file as tab-separated text, number formats applied: 402 with format 0000 is "0402". */
export async function readSheets(bytes: Uint8Array): Promise<SheetText[]> {
	const workbook = new exceljs.Workbook();
	// exceljs was typed against an older Buffer.
	await workbook.xlsx.load(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as never);
	return workbook.worksheets.map((sheet) => {
		const issues: Issue[] = [];
		const lines: string[] = [];
		for (let r = 1; r <= sheet.rowCount; r++) {
			const row = sheet.getRow(r);
			const cells: string[] = [];
			for (let c = 1; c <= sheet.columnCount; c++) cells.push(cellText(row.getCell(c), sheet.getRow(1).getCell(c).text, r, issues));
			lines.push(cells.join('\t'));
		}
		return { text: lines.join('\n'), sheet: sheet.name, issues };
	});
}

function cellText(cell: exceljs.Cell, title: string, line: number, issues: Issue[]): string {
	const flat = (text: string) => text.replace(/[\t\r\n]+/g, ' ').trim();
	const value = cell.value;
	if (value instanceof Date) {
		issues.push({
			severity: 'error',
			code: 'date_in_sheet',
			line,
			field: title,
			value: value.toISOString().slice(0, 10),
			message: `Row ${line}: the spreadsheet turned this cell into a date. Type the part number as text.`
		});
		return '';
	}
	if (typeof value === 'number') {
		const zeros = /^0{2,}$/.exec(cell.numFmt ?? '');
		if (zeros) return String(value).padStart(zeros[0].length, '0');
		if (/package|footprint|case/i.test(title) && LOST_ZERO.has(value)) {
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
		return String(value);
	}
	return flat(cell.text ?? '');
}
