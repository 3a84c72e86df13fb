import {
	decodeText,
	readBom,
	readOutlineLayer,
	readPasteLayer,
	readPositions,
	reconcile,
	registerToArtwork,
	type Aperture,
	type BillOfMaterials,
	type PlacedRow,
	type Reconciliation,
	type Registration,
	type Side,
	type TextDecoders
} from '@keen-relay/core/artwork';
import { hasErrors, type Issue } from '@keen-relay/core/judgement';
import { padClass, readPackage } from '@keen-relay/core/parts';
import { MM_PER, type LengthUnit } from '@keen-relay/core/units';
import type { ClassedAperture } from '$lib/model/types.ts';
import { readSheets } from './spreadsheet.ts';

export interface UploadedFile {
	name: string;
	bytes: Uint8Array;
}

export interface BoardFiles {
	paste: UploadedFile;
	positions: UploadedFile;
	bom: UploadedFile;
	outline: UploadedFile | null;
	widthMm: number | null;
	heightMm: number | null;
	side: Side;
	/** Unit and decimal sign, chosen by a person where the position file does not say. */
	unit: LengthUnit | null;
	decimal: '.' | ',' | null;
}

export interface ReadBoard {
	widthMm: number;
	heightMm: number;
	apertures: ClassedAperture[];
	reconciliation: Reconciliation;
	bom: BillOfMaterials;
	registration: Registration | null;
	issues: Issue[];
	/** Nothing is kept while this is true. */
	refused: boolean;
}

const decode: TextDecoders = (bytes, encoding) => {
	try {
		return new TextDecoder(encoding, { fatal: true }).decode(bytes);
	} catch {
		return null;
	}
};

/** Reads the three files of one side and joins them. What could be read is returned with every issue, each naming its file. */
export async function readBoardFiles(files: BoardFiles): Promise<ReadBoard> {
	const issues: Issue[] = [];
	const note = (file: UploadedFile, found: readonly Issue[]) => issues.push(...found.map((issue) => ({ ...issue, file: file.name })));

	const pasteText = textOf(files.paste, note);
	const layer = pasteText === null ? null : readPasteLayer(pasteText);
	if (layer) note(files.paste, layer.issues);
	// A wrong drawing is a wrong stencil: errors of the paste layer keep the whole board out.
	let refused = !layer || hasErrors(layer.issues);

	const size = sizeOf(files, note, issues);
	refused ||= size === null;

	const positionText = textOf(files.positions, note);
	const positions = positionText === null ? null : readPositions(positionText, files.unit, files.decimal);
	if (positions) note(files.positions, positions.issues);
	refused ||= !positions || positions.rows.length === 0;

	const literal = new Set(positions?.rows.map((row) => row.refDes) ?? []);
	const bom = await readBomFile(files.bom, literal, note);
	refused ||= bom.items.length === 0;

	const shift = size?.shift ?? { x: 0, y: 0 };
	const moved = (layer?.apertures ?? []).map((a) => movedAperture(a, shift.x, shift.y));
	const own = (positions?.rows ?? []).filter((row) => row.side === files.side);
	if (positions?.rows.length && own.length === 0) {
		issues.push(problem(files.positions.name, 'side', files.side, `The position file has no part on the ${files.side} side.`));
		refused = true;
	}
	const registered = register(own, moved, positions?.unit ?? null, files, issues);
	refused ||= registered === null;
	const rows = registered?.rows ?? [];
	if (size) issues.push(...offBoard(rows, size, files.positions.name));
	const reconciliation = reconcile(rows, bom.items, moved, readPackage);
	return {
		widthMm: size?.widthMm ?? 0,
		heightMm: size?.heightMm ?? 0,
		apertures: classed(moved, reconciliation),
		reconciliation,
		bom,
		registration: registered?.registration ?? null,
		issues,
		refused
	};
}

/** Each opening with its part and the class of its limits. */
function classed(apertures: readonly Aperture[], { parts, partOfAperture }: Reconciliation): ClassedAperture[] {
	const packages = new Map(parts.map((part) => [part.refDes, readPackage(part.packageName)]));
	return apertures.map((a, i) => {
		const refDes = partOfAperture[i] ?? null;
		const body = packages.get(refDes ?? '') ?? readPackage('');
		return { ...a, refDes, padClass: padClass(body, a.widthMm) };
	});
}

function problem(file: string, field: string, value: string, message: string): Issue {
	return { severity: 'error', code: 'refused', file, field, value, message };
}

function textOf(file: UploadedFile, note: (file: UploadedFile, found: Issue[]) => void): string | null {
	const decoded = decodeText(file.bytes, decode);
	if ('text' in decoded) return decoded.text;
	note(file, [decoded]);
	return null;
}

async function readBomFile(
	file: UploadedFile,
	literal: ReadonlySet<string>,
	note: (file: UploadedFile, found: Issue[]) => void
): Promise<BillOfMaterials> {
	const zipped = file.bytes[0] === 0x50 && file.bytes[1] === 0x4b;
	if (!zipped) {
		const text = textOf(file, note);
		if (text === null) return { items: [], issues: [] };
		const bom = readBom(text, literal);
		note(file, bom.issues);
		return bom;
	}
	try {
		const sheets = await readSheets(file.bytes);
		const read = sheets.map((sheet) => ({ sheet, bom: readBom(sheet.text, literal) }));
		const best = read.find(({ bom }) => bom.items.length > 0) ?? read[0];
		if (best) {
			note(file, [...best.sheet.issues, ...best.bom.issues]);
			return best.bom;
		}
	} catch {
		// Falls through to the sentence below: the archive is damaged or is no spreadsheet.
	}
	note(file, [
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

function sizeOf(files: BoardFiles, note: (file: UploadedFile, found: Issue[]) => void, issues: Issue[]) {
	if (files.outline) {
		const text = textOf(files.outline, note);
		if (text === null) return null;
		const { box, issues: found } = readOutlineLayer(text);
		note(files.outline, found);
		if (!box || hasErrors(found)) return null;
		return { widthMm: box.maxX - box.minX, heightMm: box.maxY - box.minY, shift: { x: -box.minX, y: -box.minY } };
	}
	const { widthMm, heightMm } = files;
	if (widthMm === null || heightMm === null) {
		issues.push(problem('', 'width and height', '', 'Give the board’s width and height, or its outline layer.'));
		return null;
	}
	for (const [field, value] of [
		['width', widthMm],
		['height', heightMm]
	] as const)
		if (!(value >= 5 && value <= 600)) {
			issues.push(problem('', field, String(value), `The ${field} of ${value} mm is not between 5 and 600 mm.`));
			return null;
		}
	return { widthMm, heightMm, shift: { x: 0, y: 0 } };
}

function movedAperture(a: Aperture, dx: number, dy: number): Aperture {
	const round = (v: number) => Math.round(v * 1e5) / 1e5;
	return {
		...a,
		centre: { x: round(a.centre.x + dx), y: round(a.centre.y + dy) },
		outline: a.outline.map((p) => ({ x: round(p.x + dx), y: round(p.y + dy) }))
	};
}

/** Brings positions onto the openings: unit, mirror and origin are voted for, and what was found is said. */
function register(
	rows: readonly PlacedRow[],
	apertures: readonly Aperture[],
	unit: LengthUnit | null,
	files: BoardFiles,
	issues: Issue[]
): { rows: PlacedRow[]; registration: Registration | null } | null {
	if (rows.length === 0 || apertures.length === 0) return { rows: [...rows], registration: null };
	// Rows already stand in mm where the file said its unit.
	const { best, tried } = registerToArtwork(
		rows,
		apertures.map((a) => a.centre),
		unit ? ['mm'] : ['mm', 'mil', 'inch']
	);
	if (!best) {
		const top = tried[0];
		const share = top ? `${Math.round(top.share * 100)} %` : 'none';
		if (!unit) {
			issues.push({
				...problem(
					files.positions.name,
					'unit',
					'',
					`The position file does not say its unit, and only ${share} of the parts meet the paste. Choose the unit.`
				),
				code: 'needs_units'
			});
			return null;
		}
		issues.push({
			severity: 'warning',
			code: 'not_registered',
			file: files.positions.name,
			field: 'origin',
			value: share,
			message: `Only ${share} of the parts meet the paste with any moved origin: the files may be of different revisions. Positions are used as they are.`
		});
		return { rows: [...rows], registration: null };
	}
	const scale = unit ? 1 : MM_PER[best.unit];
	const said = [
		...(unit ? [] : [`unit ${best.unit}`]),
		...(best.mirrored ? ['x mirrored'] : []),
		...(best.offset.x || best.offset.y ? [`origin moved by ${best.offset.x.toFixed(3)}, ${best.offset.y.toFixed(3)} mm`] : [])
	];
	if (said.length)
		issues.push({
			severity: 'warning',
			code: 'registered',
			file: files.positions.name,
			field: 'origin',
			value: said.join(', '),
			message: `Positions were brought onto the paste: ${said.join(', ')}; ${Math.round(best.share * 100)} % of the parts meet it.`
		});
	return {
		rows: rows.map((row) => ({
			...row,
			xMm: row.xMm * scale * (best.mirrored ? -1 : 1) + best.offset.x,
			yMm: row.yMm * scale + best.offset.y
		})),
		registration: best
	};
}

const OFF_BOARD_MM = 2;

function offBoard(rows: readonly PlacedRow[], size: { widthMm: number; heightMm: number }, file: string): Issue[] {
	return rows
		.filter(
			(row) =>
				row.xMm < -OFF_BOARD_MM ||
				row.yMm < -OFF_BOARD_MM ||
				row.xMm > size.widthMm + OFF_BOARD_MM ||
				row.yMm > size.heightMm + OFF_BOARD_MM
		)
		.map((row) => ({
			severity: 'error',
			code: 'off_board',
			file,
			line: row.line,
			field: 'X, Y',
			value: `${row.xMm.toFixed(2)}, ${row.yMm.toFixed(2)} mm`,
			message: `Line ${row.line}: ${row.refDes} lies off the board of ${size.widthMm.toFixed(1)} x ${size.heightMm.toFixed(1)} mm. Check origin and unit.`
		}));
}
