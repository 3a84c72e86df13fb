import type { Aperture, BoardPart } from '../artwork/index.ts';
import { rotate } from '../numerics/index.ts';

/** What a plant has confirmed of a package's land pattern. */
export interface ConfirmedPattern {
	leads: number;
	/** Direction of pin 1 from the middle of the part at 0°, ° counter-clockwise from the right. */
	pinOneDeg: number;
}

/** How far from the direction that was confirmed pin 1 may stand, as a share of the angle between two pins. */
const REACH = 0.5;

/** Pins of the openings under a part, from a land pattern that somebody has confirmed: counted counter-clockwise, as seen on the side that the part stands on,
 * from the opening that stands in the direction of pin 1. For parts whose leads stand around the middle: two ends, two rows, four sides.
 * @returns a pin for each opening under the part, in the part's order; null where the pattern does not fit: another number of openings than leads
 * (those in the middle are a thermal pad's and are left out), or none in the direction of pin 1
 */
export function pinsOfPart(
	part: Pick<BoardPart, 'xMm' | 'yMm' | 'rotationDeg' | 'apertures'>,
	apertures: readonly Pick<Aperture, 'centre'>[],
	{ leads, pinOneDeg }: ConfirmedPattern
): (string | null)[] | null {
	const around = part.apertures.map((index, k) => {
		const { x, y } = rotate({ x: apertures[index]!.centre.x - part.xMm, y: apertures[index]!.centre.y - part.yMm }, -part.rotationDeg);
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
