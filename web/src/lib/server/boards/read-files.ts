import {
	chooseAngleRule,
	cornerFiducials,
	guessCircuits,
	layerSide,
	openingsOnNoPaste,
	padsWithoutOpening,
	pinsFromNetlist,
	placesFromCorner,
	readBom,
	readLayer,
	readNetlist,
	readOutlineLayer,
	readPasteLayer,
	readPositions,
	reconcile,
	registerToArtwork,
	seenPoint,
	seenRow,
	type Aperture,
	type BillOfMaterials,
	type CircuitGuess,
	type DrawnLayer,
	type PanelLayout,
	type PlacedRow,
	type Reconciliation,
	type Registration,
	type Side
} from '@keen-relay/core/artwork';
import { decodeText } from '@keen-relay/core/tables';
import { hasErrors, type Issue } from '@keen-relay/core/judgement';
import { padClass, readPackage, type PackageReader } from '@keen-relay/core/parts';
import { boxOf, type Point } from '@keen-relay/core/geometry';
import { MM_PER, type LengthUnit } from '@keen-relay/core/units';
import type { ClassedAperture } from '$lib/model/types.ts';
import { readSheets } from './spreadsheet.ts';
import { strictText } from '../files/strict-text.ts';

export interface UploadedFile {
	name: string;
	bytes: Uint8Array;
}

export interface BoardFiles {
	paste: UploadedFile;
	positions: UploadedFile;
	bom: UploadedFile;
	outline: UploadedFile | null;
	netlist: UploadedFile | null;
	/** Copper, mask, legend and whatever else: drawn beneath the paste. */
	layers: UploadedFile[];
	widthMm: number | null;
	heightMm: number | null;
	side: Side;
	/** Unit and decimal sign, chosen by a person where the position file does not say. */
	unit: LengthUnit | null;
	decimal: '.' | ',' | null;
	/** What a person said the paste layer is; null until asked. */
	content: 'circuit' | 'panel' | null;
}

export interface ReadBoard {
	widthMm: number;
	heightMm: number;
	apertures: ClassedAperture[];
	reconciliation: Reconciliation;
	bom: BillOfMaterials;
	registration: Registration | null;
	/** Openings with a pin, and how many there are. */
	pins: number;
	layers: { name: string; kind: DrawnLayer['kind']; objects: number }[];
	/** What repeated geometry says of the paste layer, in its own frame. */
	guess: CircuitGuess;
	/** The layer as it was read, before one circuit was cut out of a panel. */
	whole: { outline: readonly Point[]; circuit: number | null }[] | null;
	panel: PanelLayout | null;
	issues: Issue[];
	/** Nothing is kept while this is true. */
	refused: boolean;
}

/** Reads the files of one side and joins them. What could be read is returned with every issue, each naming its file. */
export async function readBoardFiles(files: BoardFiles, read: PackageReader = readPackage): Promise<ReadBoard> {
	const issues: Issue[] = [];
	const note = (file: UploadedFile, found: readonly Issue[]) => issues.push(...found.map((issue) => ({ ...issue, file: file.name })));

	const pasteText = textOf(files.paste, note);
	const layer = pasteText === null ? null : readPasteLayer(pasteText);
	if (layer) note(files.paste, layer.issues);
	// A wrong drawing is a wrong stencil: errors of the paste layer keep the whole board out.
	let refused = !layer || hasErrors(layer.issues);

	const guess = guessCircuits(layer?.apertures ?? []);
	const cut = files.content === 'panel' && layer ? cutCircuit(files, layer.apertures, guess, note, issues) : null;
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
	const size = cut ?? sizeOf(files, note, issues);
	refused ||= size === null;

	const positionText = textOf(files.positions, note);
	const positions = positionText === null ? null : readPositions(positionText, files.unit, files.decimal);
	if (positions) note(files.positions, positions.issues);
	refused ||= !positions || positions.rows.length === 0;

	const literal = new Set(positions?.rows.map((row) => row.refDes) ?? []);
	const bom = await readBomFile(files.bom, literal, note);
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
	const registered = register(here, drawn, positions?.unit ?? null, files, issues);
	refused ||= registered === null;
	const widthMm = size?.widthMm ?? 0;
	const turned =
		files.side === 'top'
			? { apertures: drawn, rows: registered?.rows ?? [] }
			: asSeen(drawn, registered?.rows ?? [], widthMm, read, files, issues);
	if (size) issues.push(...offBoard(turned.rows, size, files.positions.name));
	const reconciliation = reconcile(turned.rows, bom.items, turned.apertures, read, elsewhere);
	const named = classed(turned.apertures, reconciliation, read);
	const pinned = pinsOf(files, named, shift, widthMm, note);
	return {
		widthMm,
		heightMm: size?.heightMm ?? 0,
		apertures: pinned,
		reconciliation,
		bom,
		registration: registered?.registration ?? null,
		pins: pinned.filter((a) => a.pin !== null).length,
		layers: files.layers.map((file) => layerOf(file, files.side, pinned, shift, widthMm, note)),
		guess,
		whole:
			guess.kind === 'panel' && layer ? layer.apertures.map((a, i) => ({ outline: a.outline, circuit: guess.circuitOf[i] ?? null })) : null,
		panel: cut?.panel ?? null,
		issues,
		refused
	};
}

const MOST_LISTED = 200;
/** Room around the openings of a circuit where its own size is not typed, mm. */
const CIRCUIT_MARGIN_MM = 2;

/** One circuit cut out of a panel's layer, with the panel it came from. The panel's edge is the outline layer, or the openings' own box. */
function cutCircuit(
	files: BoardFiles,
	apertures: readonly Aperture[],
	guess: CircuitGuess,
	note: (file: UploadedFile, found: Issue[]) => void,
	issues: Issue[]
) {
	if (guess.kind !== 'panel') {
		issues.push(problem(files.paste.name, 'content', 'panel', `No circuits repeat in this layer. ${guess.because} Choose "one circuit".`));
		return null;
	}
	for (const i of guess.left.slice(0, MOST_LISTED)) {
		const { centre, line } = apertures[i]!;
		issues.push({
			severity: 'warning',
			code: 'no_circuit',
			file: files.paste.name,
			line,
			field: 'opening',
			value: String(i + 1),
			message: `Opening ${i + 1} at ${centre.x.toFixed(2)}, ${centre.y.toFixed(2)} mm of the panel belongs to no circuit: a mark, a coupon, or a rail?`
		});
	}
	const outer = files.outline ? sizeOf(files, note, issues) : null;
	if (files.outline && !outer) return null;
	const members = guess.members.map((i) => apertures[i]!);
	const box = boxOf(members.flatMap((a) => a.outline));
	const margin = (typed: number | null, drawn: number) => (typed === null ? CIRCUIT_MARGIN_MM : (typed - drawn) / 2);
	const [mx, my] = [margin(files.widthMm, box.maxX - box.minX), margin(files.heightMm, box.maxY - box.minY)];
	if (mx < 0 || my < 0) {
		issues.push(
			problem('', 'width and height', `${files.widthMm} x ${files.heightMm} mm`, 'The circuit’s openings do not fit its width and height.')
		);
		return null;
	}
	const corner = { x: box.minX - mx, y: box.minY - my };
	const all = boxOf(apertures.flatMap((a) => a.outline));
	const edge = outer
		? { x: -outer.shift.x, y: -outer.shift.y, widthMm: outer.widthMm, heightMm: outer.heightMm }
		: { x: all.minX - 5, y: all.minY - 5, widthMm: all.maxX - all.minX + 10, heightMm: all.maxY - all.minY + 10 };
	const [widthMm, heightMm] = [box.maxX - box.minX + 2 * mx, box.maxY - box.minY + 2 * my].map((v) => Math.round(v * 1e4) / 1e4);
	const circuits = placesFromCorner(guess, corner).map((place) => ({ ...place, x: place.x - edge.x, y: place.y - edge.y }));
	const free = { widthMm: edge.widthMm, heightMm: edge.heightMm, circuits };
	return {
		widthMm: widthMm!,
		heightMm: heightMm!,
		shift: { x: -corner.x, y: -corner.y },
		apertures: members.map((a, index) => ({ ...a, index })),
		panel: { rows: 1, columns: 1, pitchXMm: 0, pitchYMm: 0, railMm: 0, fiducials: cornerFiducials(free, 5), free }
	};
}

/** Turns a bottom side to what the machine sees: x' = W − x; the rule of its angles is chosen by test, and said. */
function asSeen(
	drawn: readonly Aperture[],
	rows: readonly PlacedRow[],
	widthMm: number,
	read: PackageReader,
	files: BoardFiles,
	issues: Issue[]
): { apertures: Aperture[]; rows: PlacedRow[] } {
	const flip = (p: Point) => seenPoint(p, 'bottom', widthMm);
	// A mirrored ring runs the other way round: reversed, it keeps its sense.
	const apertures = drawn.map((a) => ({ ...a, centre: flip(a.centre), outline: a.outline.map(flip).reverse() }));
	const bodies = rows.map((row) => ({ ...row, xMm: widthMm - row.xMm, body: read(row.packageName) }));
	const { rule, caught } = chooseAngleRule(
		bodies.map((row) => ({ ...row, lengthMm: row.body.lengthMm ?? 0, widthMm: row.body.widthMm ?? 0 })),
		apertures.map((a) => a.centre)
	);
	const decided = new Set(Object.values(caught)).size > 1;
	issues.push({
		severity: 'warning',
		code: 'angle_rule',
		file: files.positions.name,
		field: 'rotation',
		value: rule,
		message: decided
			? `The bottom is turned to what the machine sees; angles are taken ${ANGLE_WORDS[rule]}: ${caught[rule]} openings lie under bodies turned so. Bodies look alike after half a turn: check one polarised part.`
			: `The bottom is turned to what the machine sees; nothing tells how its angles were drawn, so they are taken ${ANGLE_WORDS[rule]}. Check one polarised part.`
	});
	return { apertures, rows: rows.map((row) => seenRow(row, widthMm, rule)) };
}

const ANGLE_WORDS = {
	asSeen: 'as seen from below',
	negate: 'as drawn through the board, with the sign turned',
	supplement: 'as mirrored about the other axis, 180° less the angle'
};

/** Openings with the pins that a netlist gives; those of X2 attributes stand. */
function pinsOf(
	files: BoardFiles,
	apertures: readonly ClassedAperture[],
	shift: Point,
	widthMm: number,
	note: (file: UploadedFile, found: Issue[]) => void
): ClassedAperture[] {
	const text = files.netlist ? textOf(files.netlist, note) : null;
	if (!files.netlist || text === null) return [...apertures];
	const netlist = readNetlist(text);
	note(files.netlist, netlist.issues);
	const pads = netlist.pads.map((pad) => ({
		...pad,
		at: seenPoint({ x: pad.at.x + shift.x, y: pad.at.y + shift.y }, files.side, widthMm)
	}));
	const pins = pinsFromNetlist(apertures, { ...netlist, pads }, files.side);
	const named = apertures.map((a, i) =>
		a.pin === null && pins[i] ? { ...a, refDes: a.refDes ?? pins[i].refDes, pin: pins[i].pin, net: a.net ?? pins[i].net } : a
	);
	const { netlist: file } = files;
	note(
		file,
		padsWithoutOpening(netlist, files.side, named).map((pad) => ({
			severity: 'warning',
			code: 'no_opening',
			line: pad.line,
			field: 'pad',
			value: `${pad.refDes} pin ${pad.pin}`,
			message: `Line ${pad.line}: ${pad.refDes} pin ${pad.pin} is a pad of this side without an opening: it gets no paste. Add the opening, or leave it if that is meant.`
		}))
	);
	return named;
}

/** Another layer of the board: what it is, and openings that lie on its pads which get no paste. */
function layerOf(
	file: UploadedFile,
	side: Side,
	apertures: readonly ClassedAperture[],
	shift: Point,
	widthMm: number,
	note: (file: UploadedFile, found: Issue[]) => void
): ReadBoard['layers'][number] {
	const text = textOf(file, note);
	if (text === null) return { name: file.name, kind: 'other', objects: 0 };
	const layer = readLayer(text, file.name);
	note(
		file,
		layer.issues.map((issue) => ({ ...issue, severity: 'warning' as const }))
	);
	if ((layerSide(text) ?? side) === side) {
		const pads = layer.noPaste.map((pad) => ({ ...pad, at: seenPoint({ x: pad.at.x + shift.x, y: pad.at.y + shift.y }, side, widthMm) }));
		note(
			file,
			openingsOnNoPaste(apertures, pads).map(({ opening, pad }) => {
				const { line, padFunction } = pads[pad]!;
				return {
					severity: 'warning' as const,
					code: 'no_paste_pad',
					line,
					field: 'pad',
					value: padFunction,
					message: `Line ${line}: this is a ${padFunction} and gets no paste, but opening ${apertures[opening]!.index + 1} lies on it. Take the opening out of the paste layer, or leave it if that is meant.`
				};
			})
		);
	}
	return { name: file.name, kind: layer.kind, objects: layer.rings.length };
}

/** Each opening with its part and the class of its limits. */
function classed(apertures: readonly Aperture[], { parts, partOfAperture }: Reconciliation, read: PackageReader): ClassedAperture[] {
	const packages = new Map(parts.map((part) => [part.refDes, read(part.packageName)]));
	return apertures.map((a, i) => {
		const refDes = partOfAperture[i] ?? null;
		const body = packages.get(refDes ?? '') ?? read('');
		return { ...a, refDes, padClass: padClass(body, a.widthMm) };
	});
}

function problem(file: string, field: string, value: string, message: string): Issue {
	return { severity: 'error', code: 'refused', file, field, value, message };
}

function textOf(file: UploadedFile, note: (file: UploadedFile, found: Issue[]) => void): string | null {
	const decoded = decodeText(file.bytes, strictText);
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
