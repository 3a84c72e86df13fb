import exceljs from 'exceljs';
import { mkdirSync, writeFileSync } from 'node:fs';
import { BOARDS, placeParts, type DemoBoard, type PlacedPart } from './boards.ts';
import { writeLegend, writeNetlist, writeOutline, writePaste } from './write-gerber.ts';

// Writes the files of the demo's boards into demo/files: the same every time.
for (const [i, board] of BOARDS.entries()) {
	const parts = placeParts(board, 4000 + i);
	const dir = new URL(`../files/${board.key}/`, import.meta.url);
	mkdirSync(dir, { recursive: true });
	const write = (name: string, content: string | Uint8Array) => writeFileSync(new URL(name, dir), content);
	write('paste-top.gbr', writePaste(board, parts));
	if (board.bottom) {
		write('paste-bottom.gbr', writePaste(board, parts, 'bottom'));
		write('netlist.ipc', writeNetlist(board, parts));
		for (const side of ['top', 'bottom'] as const) write(`legend-${side}.gbr`, writeLegend(board, parts, side));
	}
	write('outline.gbr', writeOutline(board));
	if (board.style === 'inch, regions') {
		write('positions.csv', semicolonPositions(board, parts));
		write('parts-list.xlsx', await sheet(board, parts));
	} else {
		write('positions.csv', commaPositions(board, parts));
		write('parts-list.csv', commaBom(parts));
	}
	console.log(`${board.key}: ${parts.length} parts`);
}

function fiducials(board: DemoBoard) {
	return [
		{ refDes: 'FID1', x: 1.5, y: 1.5 },
		{ refDes: 'FID2', x: board.widthMm - 1.5, y: board.heightMm - 1.5 }
	];
}

function commaPositions(board: DemoBoard, parts: readonly PlacedPart[]): string {
	const row = (cells: unknown[]) => cells.map((cell) => (/[",]/.test(String(cell)) ? `"${cell}"` : cell)).join(',');
	return [
		`# ${board.name} revision ${board.revision}, an invented board`,
		'Designator,Mid X,Mid Y,Rotation,Layer,Comment,Footprint',
		...fiducials(board).map((f) => row([f.refDes, `${f.x}mm`, `${f.y}mm`, 0, 'TopLayer', '', 'FIDUCIAL'])),
		...parts.map((p) =>
			row([
				p.refDes,
				`${p.x.toFixed(3)}mm`,
				`${p.y.toFixed(3)}mm`,
				p.rotation,
				p.side === 'top' ? 'TopLayer' : 'BottomLayer',
				p.item.value,
				p.item.packageName
			])
		),
		''
	].join('\n');
}

function semicolonPositions(board: DemoBoard, parts: readonly PlacedPart[]): string {
	const comma = (v: number) => v.toFixed(4).replace('.', ',');
	return [
		`Board;${board.name}`,
		'Ref;X [mm];Y [mm];Rot;Side;Value;Package',
		...fiducials(board).map((f) => `${f.refDes};${comma(f.x)};${comma(f.y)};0;T;;FIDUCIAL`),
		...parts.map((p) => `${p.refDes};${comma(p.x)};${comma(p.y)};${p.rotation};T;${p.item.value};${p.item.packageName}`),
		`TOTAL;${parts.length + 2}`,
		''
	].join('\r\n');
}

/** Designators of an item as a person would write them: runs as ranges. */
function designators(parts: readonly PlacedPart[], item: PlacedPart['item']): string {
	const numbers = parts.filter((p) => p.item.partNumber === item.partNumber).map((p) => Number(p.refDes.slice(item.prefix.length)));
	const runs: string[] = [];
	for (let i = 0; i < numbers.length;) {
		let j = i;
		while (numbers[j + 1] === numbers[j]! + 1) j++;
		runs.push(
			j - i >= 2
				? `${item.prefix}${numbers[i]}-${item.prefix}${numbers[j]}`
				: numbers
						.slice(i, j + 1)
						.map((n) => `${item.prefix}${n}`)
						.join(', ')
		);
		i = j + 1;
	}
	return runs.join(', ');
}

/** A part number stands on one line of the list, whichever side its parts are on. */
function oncePerNumber(parts: readonly PlacedPart[]): PlacedPart['item'][] {
	return [...new Map(parts.map((p) => [p.item.partNumber, p.item])).values()];
}

function commaBom(parts: readonly PlacedPart[]): string {
	const items = oncePerNumber(parts);
	return [
		'Part number,Designators,Quantity,Value,Package,Description,Fitted',
		...items.map((item) => {
			const refs = designators(parts, item);
			const quantity = parts.filter((p) => p.item.partNumber === item.partNumber).length;
			return [
				item.partNumber,
				`"${refs}"`,
				quantity,
				item.value,
				item.packageName,
				`"${item.description}"`,
				item.fitted === false ? 'N' : 'Y'
			].join(',');
		}),
		''
	].join('\n');
}

async function sheet(board: DemoBoard, parts: readonly PlacedPart[]): Promise<Uint8Array> {
	const workbook = new exceljs.Workbook();
	// A fixed date keeps the file the same at every run.
	workbook.created = workbook.modified = new Date('2026-03-02T08:00:00Z');
	const cover = workbook.addWorksheet('Cover');
	cover.addRow([board.name, `revision ${board.revision}`]);
	const list = workbook.addWorksheet('Parts');
	list.addRow([`${board.customer}, ${board.name}`]);
	list.addRow([]);
	list.addRow(['Part number', 'Designators', 'Qty', 'Value', 'Package', 'Description', 'Note']);
	for (const item of oncePerNumber(parts)) {
		const quantity = parts.filter((p) => p.item.partNumber === item.partNumber).length;
		list.addRow([
			item.partNumber,
			designators(parts, item),
			quantity,
			item.value,
			item.packageName,
			item.description,
			item.fitted === false ? 'DNP' : ''
		]);
	}
	return new Uint8Array(await workbook.xlsx.writeBuffer());
}
