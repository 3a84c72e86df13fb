import type { Point, Ring } from '@keen-relay/core/geometry';

interface Pad {
	outline: Ring;
	centre: Point;
}

/** Outlines in three arrays that change hands between worker and page instead of being copied point by point. */
export interface PackedPads {
	/** x and y of every corner, mm. */
	corners: Float64Array<ArrayBuffer>;
	/** Where each outline begins, in corners; one more at the end. */
	starts: Uint32Array<ArrayBuffer>;
	centres: Float64Array<ArrayBuffer>;
}

export function packPads(pads: readonly Pad[]): PackedPads {
	const starts = new Uint32Array(pads.length + 1);
	pads.forEach(({ outline }, i) => (starts[i + 1] = starts[i]! + outline.length));
	const corners = new Float64Array(2 * starts[pads.length]!);
	const centres = new Float64Array(2 * pads.length);
	pads.forEach(({ outline, centre }, i) => {
		outline.forEach((p, k) => corners.set([p.x, p.y], 2 * (starts[i]! + k)));
		centres.set([centre.x, centre.y], 2 * i);
	});
	return { corners, starts, centres };
}

export function unpackPads({ corners, starts, centres }: PackedPads): Pad[] {
	return Array.from({ length: starts.length - 1 }, (_, i) => {
		const outline: Point[] = [];
		for (let k = starts[i]!; k < starts[i + 1]!; k++) outline.push({ x: corners[2 * k]!, y: corners[2 * k + 1]! });
		return { outline, centre: { x: centres[2 * i]!, y: centres[2 * i + 1]! } };
	});
}
