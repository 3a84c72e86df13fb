import type { Aperture, BoardPart } from '../artwork/index.ts';
import { rotate } from '../geometry/index.ts';

/** What a plant has confirmed of a package's land pattern. */
export interface ConfirmedPattern {
	leads: number;
	/** Direction of pin 1 from the middle of the part at 0°, ° counter-clockwise from the right. */
	pinOneDeg: number;
	/** Balls or pads in rows and columns: letters and numbers from the corner of A1. */
	grid: boolean;
}

type Part = Pick<BoardPart, 'xMm' | 'yMm' | 'rotationDeg' | 'apertures'>;
type Places = readonly Pick<Aperture, 'centre'>[];

/** How far from the direction that was confirmed pin 1 may stand, as a share of the angle between two pins. */
const REACH = 0.5;

/** Pins of the openings under a part, from a land pattern that somebody has confirmed.
 * @returns a pin for each opening under the part, in the part's order; null where the pattern does not fit
 */
export function pinsOfPart(part: Part, apertures: Places, pattern: ConfirmedPattern): (string | null)[] | null {
	return pattern.grid ? gridPins(part, apertures, pattern) : ringPins(part, apertures, pattern);
}

/** Openings of a part as they stand at 0°, seen from its middle. */
function atZero(part: Part, apertures: Places): { x: number; y: number }[] {
	return part.apertures.map((index) => {
		const { x, y } = apertures[index]!.centre;
		return rotate({ x: x - part.xMm, y: y - part.yMm }, -part.rotationDeg);
	});
}

/** Letters of the rows of a grid: those that are taken for figures or for each other are left out.
 * @see JEDEC JESD95, terminal position identification (value from memory)
 */
const ROW_LETTERS = 'ABCDEFGHJKLMNPRTUVWY';

function rowName(row: number): string {
	const letter = ROW_LETTERS[row % ROW_LETTERS.length]!;
	return row < ROW_LETTERS.length ? letter : rowName(Math.floor(row / ROW_LETTERS.length) - 1) + letter;
}

/** Pins of a grid from the corner of A1: seen from above with that corner at the upper left, numbers run to the right and letters down.
 * Null where the openings are not as many as the balls, do not stand on one grid, or where no corner lies in the direction of pin 1.
 */
function gridPins(part: Part, apertures: Places, { leads, pinOneDeg }: ConfirmedPattern): string[] | null {
	if (part.apertures.length !== leads) return null;
	// Turned so that the corner of A1 comes to the upper left.
	const from = Math.round((pinOneDeg - 135) / 90) * 90;
	if (Math.abs(pinOneDeg - 135 - from) > CORNER_REACH_DEG) return null;
	const balls = atZero(part, apertures).map((p) => rotate(p, -from));
	const [columns, rows] = [steps(balls.map((p) => p.x)), steps(balls.map((p) => -p.y))];
	if (!columns || !rows) return null;
	const pins = columns.map((column, k) => `${rowName(rows[k]!)}${column + 1}`);
	return new Set(pins).size === pins.length ? pins : null;
}

/** How far from the corner the direction of A1 may point: a long grid's corner does not stand at 45°. */
const CORNER_REACH_DEG = 40;

/** Each place as whole steps of the pitch from the first; null where they do not stand on such steps. */
function steps(places: readonly number[]): number[] | null {
	const sorted = [...places].sort((a, b) => a - b);
	const gaps = sorted.slice(1).flatMap((at, i) => (at - sorted[i]! > SAME_MM ? [at - sorted[i]!] : []));
	if (gaps.length === 0) return places.map(() => 0);
	const pitchMm = Math.min(...gaps);
	const out = places.map((at) => (at - sorted[0]!) / pitchMm);
	return out.every((step) => Math.abs(step - Math.round(step)) < 0.2) ? out.map(Math.round) : null;
}

const SAME_MM = 0.05;

/** Pins counted counter-clockwise, as seen on the side that the part stands on, from the opening that stands in the direction of pin 1: for parts whose
 * leads stand around the middle: two ends, two rows, four sides. Null where there is another number of openings than leads (those in the middle are a
 * thermal pad's and are left out), or none in the direction of pin 1.
 */
function ringPins(part: Part, apertures: Places, { leads, pinOneDeg }: ConfirmedPattern): (string | null)[] | null {
	const around = atZero(part, apertures).map(({ x, y }, k) => {
		const mm = Math.hypot(x, y);
		return { k, x, y, mm, deg: ((((Math.atan2(y, x) * 180) / Math.PI - pinOneDeg) % 360) + 360) % 360 };
	});
	// The leads stand furthest out; a pad in the middle lies inside all of them, whole or in windows.
	const ring = [...around].sort((a, b) => b.mm - a.mm).slice(0, leads);
	if (ring.length < leads || leads < 2) return null;
	const innermost = ring.at(-1)!.mm;
	if (around.some((o) => !ring.includes(o) && o.mm > 0.8 * innermost)) return null;
	ring.sort((a, b) => a.deg - b.deg);
	const nearest = ring.reduce((a, b) => (offBy(b.deg) < offBy(a.deg) ? b : a));
	if (offBy(nearest.deg) > (REACH * 360) / leads + 1e-9) return null;
	const first = ring.indexOf(nearest);
	const pins: (string | null)[] = part.apertures.map(() => null);
	ring.forEach((o, i) => (pins[o.k] = String(((i - first + leads) % leads) + 1)));
	return pins;
}

const offBy = (deg: number) => Math.min(deg, 360 - deg);
