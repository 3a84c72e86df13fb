import { guessCircuits, readPasteLayer, readPositions, reconcile } from '../artwork/index.ts';
import { hasErrors, type Issue } from '../judgement/index.ts';
import { readPackage, type PackageReader } from '../parts/index.ts';
import type { TextDecoders } from '../tables/index.ts';
import { cutCircuit, sizeOf } from './circuit.ts';
import { bothUnits } from './in-units.ts';
import { problem, textOf, type BoardFiles, type Note, type ReadBoard } from './files.ts';
import { classed, layerOf, pinsOf } from './joins.ts';
import { answeredAsBefore, howRead, type AsBefore } from './read-before.ts';
import { mixedSizeCodes, readBomFile } from './parts-list.ts';
import { asSeen, movedAperture, offBoard, register } from './placing.ts';

/** Reads the files of one side of a board and joins them: paste layer, positions, parts list, outline, netlist and whatever other layers there are.
 * @param decode how bytes become text, strictly; @param read what is known of packages
 * @returns what could be read, with every issue, each naming its file; `refused` where nothing may be kept of it
 */
export function readBoard(files: BoardFiles, decode: TextDecoders, read: PackageReader = readPackage): ReadBoard {
	let given = files;
	let board = readOnce(given, decode, read);
	const said: AsBefore[] = [];
	// One answer may let the next question be asked; each is answered once.
	for (let more = answeredAsBefore(given, board); more; more = answeredAsBefore(given, board)) {
		given = more.files;
		said.push(...more.said);
		board = readOnce(given, decode, read);
	}
	return { ...board, asBefore: said, howRead: howRead(given, board) };
}

function readOnce(files: BoardFiles, decode: TextDecoders, read: PackageReader): ReadBoard {
	const issues: Issue[] = [];
	const note: Note = (file, found) => issues.push(...found.map((issue) => ({ ...issue, file: file.name })));
	const reading = { decode, note };

	const pasteText = textOf(files.paste, reading);
	const layer = pasteText === null ? null : readPasteLayer(pasteText, files.layerUnit);
	if (layer) note(files.paste, layer.issues);
	// A wrong drawing is a wrong stencil: errors of the paste layer keep the whole board out.
	let refused = !layer || hasErrors(layer.issues);

	const guess = guessCircuits(layer?.apertures ?? []);
	const cut = files.content === 'panel' && layer ? cutCircuit(files, layer.apertures, guess, reading, issues) : null;
	refused ||= files.content === 'panel' && cut === null;
	if (files.content === null && guess.kind === 'panel') {
		issues.push({
			...problem(
				files.paste.name,
				'content',
				`${guess.places.length} circuits`,
				`${guess.because} Is this layer one circuit, or the whole panel? Choose.`
			),
			code: 'needs_content'
		});
		refused = true;
	}
	const size = cut ?? sizeOf(files, reading, issues);
	refused ||= size === null;

	const positionText = textOf(files.positions, reading);
	const positions =
		positionText === null ? null : readPositions(positionText, files.unit, files.decimal, files.positionsSide, files.positionsColumns);
	if (positions) note(files.positions, positions.issues);
	refused ||= !positions || positions.rows.length === 0;

	const literal = new Set(positions?.rows.map((row) => row.refDes) ?? []);
	const bom = readBomFile(files.bom, literal, reading, files.bomColumns);
	refused ||= bom.items.length === 0;

	const shift = size?.shift ?? { x: 0, y: 0 };
	const own = cut ? cut.apertures : (layer?.apertures ?? []);
	const drawn = own.map((a) => movedAperture(a, shift.x, shift.y));
	const here = (positions?.rows ?? []).filter((row) => row.side === files.side);
	const elsewhere = (positions?.rows ?? []).filter((row) => row.side !== files.side);
	if (positions?.rows.length && here.length === 0) {
		issues.push(problem(files.positions.name, 'side', files.side, `The position file has no part on the ${files.side} side.`));
		refused = true;
	}
	const registered = register(here, drawn, positions?.unit ?? null, read, files, issues);
	refused ||= registered === null;
	const widthMm = size?.widthMm ?? 0;
	const turned =
		files.side === 'top'
			? { apertures: drawn, rows: registered?.rows ?? [] }
			: asSeen(drawn, registered?.rows ?? [], widthMm, read, files, issues);
	if (size) issues.push(...offBoard(turned.rows, size, files.positions.name));
	const joined = reconcile(turned.rows, bom.items, turned.apertures, read, elsewhere);
	// A layer that could not be read says nothing of parts without paste.
	const findings = own.length ? joined.findings : joined.findings.filter(({ code }) => code !== 'placed_without_paste');
	const reconciliation = { ...joined, findings };
	issues.push(...mixedSizeCodes(bom.items, files.bom.name));
	const named = classed(turned.apertures, reconciliation, read);
	const pinned = pinsOf(files, named, shift, widthMm, reading);
	return {
		widthMm,
		heightMm: size?.heightMm ?? 0,
		apertures: pinned,
		reconciliation,
		bom,
		registration: registered?.registration ?? null,
		pins: pinned.filter((a) => a.pin !== null).length,
		layers: files.layers.map((file) => layerOf(file, files.side, pinned, shift, widthMm, files.layerUnit, reading)),
		guess,
		inUnits: pasteText !== null && layer?.issues.some((issue) => issue.code === 'needs_unit') ? bothUnits(pasteText) : null,
		whole:
			guess.kind === 'panel' && layer ? layer.apertures.map((a, i) => ({ outline: a.outline, circuit: guess.circuitOf[i] ?? null })) : null,
		panel: cut?.panel ?? null,
		issues,
		columns: { positions: positions?.columns ?? null, bom: bom.columns },
		asBefore: [],
		howRead: [],
		refused
	};
}
