import { readBom, type BillOfMaterials, type BomItem } from '../artwork/index.ts';
import { quoteValue, type Issue } from '../judgement/index.ts';
import type { ColumnChoice } from '../tables/index.ts';
import { textOf, type BomFile, type Reading } from './files.ts';

/** Reads a parts list: text, or the first sheet that has parts.
 * @param literal designators of the position file: what stands there is one designator, not a range
 * @param chosen which column is what, where a person said it
 */
export function readBomFile(
	file: BomFile,
	literal: ReadonlySet<string>,
	reading: Reading,
	chosen: ColumnChoice | null = null
): BillOfMaterials {
	if (file.sheets === undefined) {
		const text = textOf(file, reading);
		if (text === null) return { items: [], issues: [], columns: null };
		const bom = readBom(text, literal, chosen);
		reading.note(file, bom.issues);
		return bom;
	}
	const read = (file.sheets ?? []).map((sheet) => ({ sheet, bom: readBom(sheet.text, literal, chosen) }));
	const best = read.find(({ bom }) => bom.items.length > 0) ?? read.find(({ bom }) => bom.columns !== null) ?? read[0];
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
	return { items: [], issues: [], columns: null };
}

/** Names by the land-pattern convention are metric by themselves. */
const LAND_PATTERN = /^(RES|CAP|IND|LED|DIO|FB)[A-Z]?C?\d{4}/i;
const ONLY_METRIC = /(?:^|[^0-9])(1005|1608|2012|2520|3216|3225|4532|5025|6332)(?:$|[^0-9])/;
const BOTH = /(?:^|[^0-9])(0201|0402|0603)(?:$|[^0-9])(?!.*metric)/i;

/** Size codes that exist in both systems beside codes that exist in the metric one only: which of the two is meant is asked, package by package. */
export function mixedSizeCodes(items: readonly BomItem[], file: string): Issue[] {
	const [metric, both] = [ONLY_METRIC, BOTH].map((code) =>
		items.find(({ packageName }) => !LAND_PATTERN.test(packageName) && code.test(packageName))
	);
	if (!metric || !both) return [];
	const value = quoteValue(both.packageName);
	const message = `Line ${both.line}: ${value} is read as imperial, but line ${metric.line} has ${quoteValue(metric.packageName)}, a metric code. Which is meant? Give the body of ${value} on Packages if it is metric.`;
	return [{ severity: 'warning', code: 'size_codes_mixed', file, line: both.line, field: 'package', value, message }];
}
