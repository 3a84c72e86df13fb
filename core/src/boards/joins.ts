import {
	joinedPins,
	joinsPins,
	layerSide,
	openingsOnNoPaste,
	padsWithoutOpening,
	pinsFromNetlist,
	readLayer,
	readNetlist,
	seenPoint,
	type Aperture,
	type LayerUnit,
	type Reconciliation,
	type Side
} from '../artwork/index.ts';
import type { Point } from '../geometry/index.ts';
import { padClass, type PackageReader } from '../parts/index.ts';
import { textOf, type BoardFiles, type ClassedAperture, type ReadBoard, type Reading, type UploadedFile } from './files.ts';

/** Openings with the pins that a netlist gives; those of X2 attributes stand. */
export function pinsOf(
	files: BoardFiles,
	apertures: readonly ClassedAperture[],
	shift: Point,
	widthMm: number,
	reading: Reading
): ClassedAperture[] {
	const text = files.netlist ? textOf(files.netlist, reading) : null;
	if (!files.netlist || text === null) return [...apertures];
	const netlist = readNetlist(text);
	reading.note(files.netlist, netlist.issues);
	const pads = netlist.pads.map((pad) => ({
		...pad,
		at: seenPoint({ x: pad.at.x + shift.x, y: pad.at.y + shift.y }, files.side, widthMm)
	}));
	const pins = pinsFromNetlist(apertures, { ...netlist, pads }, files.side);
	const joined = joinedPins(apertures, { ...netlist, pads }, files.side);
	const named = apertures.map((a, i) => {
		const own = a.pin === null && pins[i] ? { ...a, refDes: a.refDes ?? pins[i].refDes, pin: pins[i].pin, net: a.net ?? pins[i].net } : a;
		return !a.joins && joined[i]!.length ? { ...own, joins: joined[i]! } : own;
	});
	const { netlist: file } = files;
	reading.note(
		files.paste,
		named.flatMap((a, i) => (a.joins && !apertures[i]!.joins ? [joinsPins(a.joins, a.line)] : []))
	);
	reading.note(
		file,
		padsWithoutOpening(netlist, files.side, [...named, ...named.flatMap(pinsJoined)]).map((pad) => ({
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

/** Pins of an opening that joins several. */
const pinsJoined = ({ joins = [] }: ClassedAperture) =>
	joins.map((name) => ({ refDes: name.slice(0, name.indexOf('.')), pin: name.slice(name.indexOf('.') + 1) }));

/** Another layer of the board: what it is, and openings that lie on its pads which get no paste. */
export function layerOf(
	file: UploadedFile,
	side: Side,
	apertures: readonly ClassedAperture[],
	shift: Point,
	widthMm: number,
	unit: LayerUnit | null,
	reading: Reading
): ReadBoard['layers'][number] {
	const text = textOf(file, reading);
	if (text === null) return { name: file.name, kind: 'other', objects: 0 };
	const layer = readLayer(text, file.name, unit);
	reading.note(
		file,
		layer.issues.map((issue) => ({ ...issue, severity: 'warning' as const }))
	);
	if ((layerSide(text) ?? side) === side) {
		const pads = layer.noPaste.map((pad) => ({ ...pad, at: seenPoint({ x: pad.at.x + shift.x, y: pad.at.y + shift.y }, side, widthMm) }));
		reading.note(
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
export function classed(apertures: readonly Aperture[], { parts, partOfAperture }: Reconciliation, read: PackageReader): ClassedAperture[] {
	const packages = new Map(parts.map((part) => [part.refDes, read(part.packageName)]));
	return apertures.map((a, i) => {
		const refDes = partOfAperture[i] ?? null;
		const body = packages.get(refDes ?? '') ?? read('');
		return { ...a, refDes, padClass: padClass(body, a.widthMm) };
	});
}
