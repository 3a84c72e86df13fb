import { readBom, type BillOfMaterials } from '../artwork/index.ts';
import { textOf, type BomFile, type Reading } from './files.ts';

/** Reads a parts list: text, or the first sheet that has parts. @param literal designators of the position file: what stands there is one designator, not a range */
export function readBomFile(file: BomFile, literal: ReadonlySet<string>, reading: Reading): BillOfMaterials {
	if (file.sheets === undefined) {
		const text = textOf(file, reading);
		if (text === null) return { items: [], issues: [] };
		const bom = readBom(text, literal);
		reading.note(file, bom.issues);
		return bom;
	}
	const read = (file.sheets ?? []).map((sheet) => ({ sheet, bom: readBom(sheet.text, literal) }));
	const best = read.find(({ bom }) => bom.items.length > 0) ?? read[0];
	if (best) {
		reading.note(file, [...best.sheet.issues, ...best.bom.issues]);
		return best.bom;
	}
	reading.note(file, [
		{
			severity: 'error',
			code: 'bad_spreadsheet',
			line: 1,
			field: 'file',
			value: file.name,
			message:
				'This file cannot be opened as a spreadsheet: it is damaged, cut short, or another kind of archive. Save it again as XLSX or CSV.'
		}
	]);
	return { items: [], issues: [] };
}
