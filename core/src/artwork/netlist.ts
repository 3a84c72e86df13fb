import { type Issue, quoteValue } from '../judgement/index.ts';
import { type Point, type Box, boxIndex, boxOf, grown, pointIndex, pointInRing, type Ring } from '../geometry/index.ts';

/** One pad of a bare-board netlist. */
export interface NetPad {
	net: string;
	refDes: string;
	pin: string;
	/** Where it can be reached from. */
	access: 'top' | 'bottom' | 'both';
	at: Point;
	/** Size in x and y, mm; null where the record gives none. */
	xMm: number | null;
	yMm: number | null;
	line: number;
}

export interface Netlist {
	pads: NetPad[];
	unit: 'mm' | 'inch';
	issues: Issue[];
}

/** Reads an IPC-D-356A netlist: test records of pads (327) and of plated holes with a pin (317), in columns.
 * Net names shortened by `P  NNAME` lines are given back in full. Coordinates count in 0.0001 inch (`UNITS CUST 0`),
 * in 0.001 mm (`CUST 1`), or in the same with angles in radians (`CUST 2`). Continued records (first character 0) are joined.
 * @see IPC-D-356A record layout, value from memory: type 1-3, net 4-17, refdes 21-26, `-` 27, pin 28-31, hole 33-38, access 39-41, then X, Y, sizes
 */
export function readNetlist(text: string): Netlist {
	const issues: Issue[] = [];
	const pads: NetPad[] = [];
	const fullNames = new Map<string, string>();
	let scale: number | null = null;
	let ended = false;
	const lines = text.split(/\r\n|\r|\n/);
	const problem = (line: number, field: string, value: string, message: string) =>
		issues.push({ severity: 'error', code: 'bad_record', line, field, value: quoteValue(value), message: `Line ${line}: ${message}` });
	for (const [i, raw] of lines.entries()) {
		const line = i + 1;
		const type = raw.slice(0, 3);
		if (/^P\s/.test(raw)) {
			const units = /^P\s+UNITS\s+CUST\s*([012])/.exec(raw);
			if (units) scale = units[1] === '0' ? 0.00254 : 0.001;
			else if (/^P\s+UNITS\s+SI/.test(raw)) scale = 0.001;
			const name = /^P\s+(NNAME\d+)\s+(\S+)/.exec(raw);
			if (name) fullNames.set(name[1]!, name[2]!);
			continue;
		}
		if (type === '999') {
			ended = true;
			break;
		}
		if (type !== '317' && type !== '327') {
			if (raw.trim() !== '' && !/^(C|0\d\d|3[0-9]7|378|379|389|390|099|999)/.test(raw))
				problem(
					line,
					'record',
					raw.slice(0, 20),
					`the record "${quoteValue(raw.slice(0, 20))}" is not one of IPC-D-356A. Correct or remove it.`
				);
			continue;
		}
		if (scale === null) {
			problem(line, 'units', raw.slice(0, 20), 'pads come before the unit is said ("P  UNITS CUST 0" or "CUST 1"). Add that line.');
			scale = 0.00254;
		}
		const net = raw.slice(3, 17).trim();
		const refDes = raw.slice(20, 26).trim();
		const pin = raw.slice(27, 31).trim();
		const rest = raw.slice(31);
		const access = /A(\d\d)/.exec(rest);
		const place = /X([+ -]?\d{6})Y([+ -]?\d{6})/.exec(rest);
		if (!place) {
			problem(
				line,
				'X, Y',
				raw.slice(41, 58).trim(),
				'this pad has no place: X and Y are expected from column 42. Export the netlist again.'
			);
			continue;
		}
		// Vias and test points without a part have no pin to name.
		if (refDes === '' || refDes === 'VIA' || pin === '') continue;
		const size = rest.slice(place.index + place[0].length);
		const sizeOf = (axis: 'X' | 'Y') => {
			// The record has four digits for a size.
			const found = new RegExp(`${axis}(\\d{1,6})`).exec(size);
			return found && Number(found[1]) > 0 ? Number(found[1]) * scale! : null;
		};
		pads.push({
			net: fullNames.get(net) ?? net,
			refDes,
			pin,
			access: access?.[1] === '00' || type === '317' ? 'both' : access?.[1] === '01' ? 'top' : 'bottom',
			at: { x: Number(place[1]) * scale, y: Number(place[2]) * scale },
			xMm: sizeOf('X'),
			yMm: sizeOf('Y'),
			line
		});
	}
	if (pads.length > 0 && !ended)
		problem(lines.length, 'end', lines.at(-1) ?? '', 'the netlist stops without its end record (999): it was cut short. Export it again.');
	if (pads.length === 0 && issues.length === 0)
		problem(1, 'file', lines[0] ?? '', 'no pad of a part was found. Choose a netlist in IPC-D-356A.');
	return { pads, unit: scale === 0.001 ? 'mm' : 'inch', issues };
}

/** Farthest that the middle of an opening may lie outside the pad that it is for, mm. */
const OUTSIDE_MM = 0.1;

const boxAround = ({ x, y }: Point, lengthMm: number, widthMm: number): Box => ({
	minX: x - lengthMm / 2,
	maxX: x + lengthMm / 2,
	minY: y - widthMm / 2,
	maxY: y + widthMm / 2
});

/** Gives each opening the pin of the netlist's pad that lies under it.
 * A pad counts where the opening's centre is nearest to it and no further than the larger half of either; where a part of the opening is
 * known it must be the pad's part. What X2 attributes say of a pin is never overwritten.
 * @returns pin and net of each opening, null where the netlist has none
 */
export function pinsFromNetlist(
	openings: readonly { centre: Point; lengthMm: number; refDes: string | null }[],
	netlist: Netlist,
	side: 'top' | 'bottom'
): ({ refDes: string; pin: string; net: string } | null)[] {
	const pads = netlist.pads.filter(({ access }) => access === 'both' || access === side);
	const under = boxIndex(pads.map(({ at, xMm, yMm }) => boxAround(at, xMm ?? 0, yMm ?? xMm ?? 0)));
	return openings.map(({ centre, lengthMm, refDes }) => {
		let best: NetPad | null = null;
		let nearest = Infinity;
		// A pad of unknown size is taken to be as large as the opening.
		for (const i of under(grown(boxAround(centre, lengthMm, lengthMm), OUTSIDE_MM))) {
			const pad = pads[i]!;
			if (refDes !== null && pad.refDes !== refDes) continue;
			const [halfX, halfY] = [(pad.xMm ?? lengthMm) / 2, (pad.yMm ?? pad.xMm ?? lengthMm) / 2];
			// How far outside the pad, then how near its middle: windows of one thermal pad all lie on it.
			const out = Math.hypot(Math.max(0, Math.abs(centre.x - pad.at.x) - halfX), Math.max(0, Math.abs(centre.y - pad.at.y) - halfY));
			const distance = out * 1000 + Math.hypot(centre.x - pad.at.x, centre.y - pad.at.y);
			if (out <= OUTSIDE_MM && distance < nearest) [best, nearest] = [pad, distance];
		}
		return best === null ? null : { refDes: best.refDes, pin: best.pin, net: best.net };
	});
}

/** Pins whose pads have their middle in one opening, for each opening; nothing where it is one pin's alone. */
export function joinedPins(openings: readonly { outline: Ring }[], netlist: Netlist, side: 'top' | 'bottom'): string[][] {
	const pads = netlist.pads.filter(({ access }) => access === 'both' || access === side);
	const within = pointIndex(pads.map(({ at }) => at));
	return openings.map(({ outline }) => {
		const { minX, minY, maxX, maxY } = boxOf(outline);
		const middle = { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
		const inside = within(middle, Math.max(maxX - minX, maxY - minY) / 2).filter((i) => pointInRing(pads[i]!.at, outline));
		const pins = [...new Set(inside.map((i) => `${pads[i]!.refDes}.${pads[i]!.pin}`))].sort();
		return pins.length > 1 ? pins : [];
	});
}

/** Surface pads of a side that get no paste although other pads of the same part do: an opening was forgotten.
 * Parts without any opening on this side are left alone: they are not soldered from paste.
 * @param pins of the openings, as {@link pinsFromNetlist} or the file's own attributes give them
 */
export function padsWithoutOpening(
	netlist: Netlist,
	side: 'top' | 'bottom',
	pins: readonly ({ refDes: string | null; pin: string | null } | null)[]
): NetPad[] {
	const opened = new Set(pins.flatMap((p) => (p?.refDes && p.pin ? [`${p.refDes}\u0000${p.pin}`] : [])));
	const pasted = new Set(pins.flatMap((p) => (p?.refDes ? [p.refDes] : [])));
	return netlist.pads.filter((pad) => pad.access === side && pasted.has(pad.refDes) && !opened.has(`${pad.refDes}\u0000${pad.pin}`));
}
