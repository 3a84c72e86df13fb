import type {
	BillOfMaterials,
	CircuitGuess,
	DrawnLayer,
	LayerUnit,
	PanelLayout,
	Reconciliation,
	Registration,
	Side,
	Aperture
} from '../artwork/index.ts';
import type { Point } from '../geometry/index.ts';
import type { Issue } from '../judgement/index.ts';
import type { PadClass } from '../parts/index.ts';
import { decodeText, type ColumnChoice, type ColumnsSeen, type TextDecoders } from '../tables/index.ts';
import type { LengthUnit } from '../units/index.ts';
import type { AsBefore, ReadBefore } from './read-before.ts';

/** An opening with the class whose limits it goes by. */
export interface ClassedAperture extends Aperture {
	padClass: PadClass;
}

export interface UploadedFile {
	name: string;
	bytes: Uint8Array;
}

/** A parts list: text, or a spreadsheet whose sheets were read as tab-separated text; null where it could not be opened. */
export interface BomFile extends UploadedFile {
	sheets?: readonly { text: string; issues: readonly Issue[] }[] | null;
}

export interface BoardFiles {
	paste: UploadedFile;
	positions: UploadedFile;
	bom: BomFile;
	outline: UploadedFile | null;
	netlist: UploadedFile | null;
	/** Copper, mask, legend and whatever else: drawn beneath the paste. */
	layers: UploadedFile[];
	widthMm: number | null;
	heightMm: number | null;
	side: Side;
	/** Unit of the paste layer and of those drawn with it, chosen by a person where the files do not say. */
	layerUnit: LayerUnit | null;
	/** Unit and decimal sign, chosen by a person where the position file does not say. */
	unit: LengthUnit | null;
	decimal: '.' | ',' | null;
	/** Side of the parts of a position file that does not say it; null until asked. */
	positionsSide: Side | null;
	/** What a person said the paste layer is; null until asked. */
	content: 'circuit' | 'panel' | null;
	/** Which column is what, where a person said it. */
	positionsColumns?: ColumnChoice | null;
	bomColumns?: ColumnChoice | null;
	/** How files of the same customer were read before, the latest first. */
	readBefore?: readonly ReadBefore[];
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
	/** What the layer is in either unit, where it does not say its own and nobody was asked yet. */
	inUnits: InUnit[] | null;
	/** The layer as it was read, before one circuit was cut out of a panel. */
	whole: { outline: readonly Point[]; circuit: number | null }[] | null;
	panel: PanelLayout | null;
	issues: Issue[];
	/** What each column was taken for; null where a file has no table. */
	columns: { positions: ColumnsSeen | null; bom: ColumnsSeen | null };
	/** What was answered as for the customer's files before, and all that was answered. */
	asBefore: AsBefore[];
	howRead: Omit<ReadBefore, 'from'>[];
	/** Nothing is kept while this is true. */
	refused: boolean;
}

/** A layer read in one of the units that it may be in. */
export interface InUnit {
	unit: LayerUnit;
	widthMm: number;
	heightMm: number;
	/** Smallest width of an opening, mm. */
	narrowestMm: number;
	/** Moved so that their box begins at 0, 0. */
	outlines: { outline: Point[]; centre: Point }[];
}

/** Writes down what was found in a file. */
export type Note = (file: UploadedFile, found: readonly Issue[]) => void;

/** What reading takes beside the files: how bytes become text, and where issues go. */
export interface Reading {
	decode: TextDecoders;
	note: Note;
}

export function problem(file: string, field: string, value: string, message: string): Issue {
	return { severity: 'error', code: 'refused', file, field, value, message };
}

/** A file's text; null where it is none, which is noted. */
export function textOf(file: UploadedFile, { decode, note }: Reading): string | null {
	const decoded = decodeText(file.bytes, decode);
	if ('text' in decoded) return decoded.text;
	note(file, [decoded]);
	return null;
}
