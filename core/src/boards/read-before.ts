import type { LayerUnit, Side } from '../artwork/index.ts';
import { sameColumns, type ColumnChoice } from '../tables/index.ts';
import type { LengthUnit } from '../units/index.ts';
import type { BoardFiles, ReadBoard } from './files.ts';

/** How a file of the same customer was read before: which column is what, and what a person answered. */
export interface ReadBefore {
	file: 'paste' | 'positions' | 'bom';
	/** Of a table: it counts for files with these titles. */
	columns: ColumnChoice | null;
	unit: LengthUnit | null;
	decimal: '.' | ',' | null;
	/** Side of the parts of a file that does not say it. */
	side: Side | null;
	/** The board it was read for, as a person knows it. */
	from: string;
}

/** What was read as before: said, so that it can be answered otherwise. */
export interface AsBefore {
	file: ReadBefore['file'];
	/** The columns, or the question that was answered. */
	what: 'columns' | 'unit' | 'decimal' | 'side';
	from: string;
}

/** Answers what a board's files leave open as it was answered for the customer's file before, and takes the columns as they were taken then.
 * What a file says itself, what fits its openings, and what a person says now go before.
 * @returns the files with those answers, or null where nothing is to be added
 */
export function answeredAsBefore(files: BoardFiles, read: ReadBoard): { files: BoardFiles; said: AsBefore[] } | null {
	const said: AsBefore[] = [];
	const added: Partial<BoardFiles> = {};
	const asks = (code: string, file: string) => read.issues.some((issue) => issue.code === code && issue.file === file);
	const known = (file: ReadBefore['file']) =>
		(files.readBefore ?? []).find((before) => {
			if (before.file !== file) return false;
			if (file === 'paste') return true;
			const seen = read.columns[file];
			return seen !== null && before.columns !== null && sameColumns(before.columns, seen);
		});
	const say = (before: ReadBefore, what: AsBefore['what']) => said.push({ file: before.file, what, from: before.from });

	const paste = known('paste');
	if (paste?.unit && files.layerUnit === null && asks('needs_unit', files.paste.name)) {
		added.layerUnit = paste.unit as LayerUnit;
		say(paste, 'unit');
	}
	for (const [file, field] of [
		['positions', 'positionsColumns'],
		['bom', 'bomColumns']
	] as const) {
		const before = known(file);
		if (!before?.columns || files[field]) continue;
		if (before.columns.roles.join() === read.columns[file]!.roles.join() && !asks('needs_mapping', files[file].name)) continue;
		added[field] = before.columns;
		say(before, 'columns');
	}
	const positions = known('positions');
	if (positions?.unit && files.unit === null && asks('needs_units', files.positions.name)) {
		added.unit = positions.unit;
		say(positions, 'unit');
	}
	if (positions?.decimal && files.decimal === null && asks('ambiguous_decimal', files.positions.name)) {
		added.decimal = positions.decimal;
		say(positions, 'decimal');
	}
	if (positions?.side && files.positionsSide === null && asks('needs_side', files.positions.name)) {
		added.positionsSide = positions.side;
		say(positions, 'side');
	}
	return said.length ? { files: { ...files, ...added }, said } : null;
}

/** What is to be remembered of a board's files: how each table was cut and what was answered. */
export function howRead(files: BoardFiles, { columns }: Pick<ReadBoard, 'columns'>): Omit<ReadBefore, 'from'>[] {
	const nothing = { columns: null, unit: null, decimal: null, side: null };
	const choice = (seen: ColumnChoice): ColumnChoice => ({ delimiter: seen.delimiter, titles: seen.titles, roles: seen.roles });
	return [
		...(files.layerUnit ? [{ ...nothing, file: 'paste' as const, unit: files.layerUnit }] : []),
		...(columns.positions
			? [
					{
						file: 'positions' as const,
						columns: choice(columns.positions),
						unit: files.unit,
						decimal: files.decimal,
						side: files.positionsSide
					}
				]
			: []),
		...(columns.bom ? [{ ...nothing, file: 'bom' as const, columns: choice(columns.bom) }] : [])
	];
}
