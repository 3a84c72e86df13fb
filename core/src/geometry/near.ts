import Flatbush from 'flatbush';
import type { Box, Point } from './rings.ts';

/** Boxes by where they are, so that what lies near a place is found without looking at all of them.
 * @returns which boxes touch a box, by index, ascending
 */
export function boxIndex(boxes: readonly Box[]): (box: Box) => number[] {
	if (boxes.length === 0) return () => [];
	const tree = new Flatbush(boxes.length);
	for (const { minX, minY, maxX, maxY } of boxes) tree.add(minX, minY, maxX, maxY);
	tree.finish();
	return ({ minX, minY, maxX, maxY }) => tree.search(minX, minY, maxX, maxY).sort((a, b) => a - b);
}

/** Points by where they are. @returns which points lie within a reach of a place, by index, ascending */
export function pointIndex(points: readonly Point[]): (at: Point, reachMm: number) => number[] {
	const touching = boxIndex(points.map(({ x, y }) => ({ minX: x, minY: y, maxX: x, maxY: y })));
	return (at, reachMm) =>
		touching(grown({ minX: at.x, minY: at.y, maxX: at.x, maxY: at.y }, reachMm)).filter(
			(i) => (points[i]!.x - at.x) ** 2 + (points[i]!.y - at.y) ** 2 <= reachMm ** 2
		);
}

/** A box with a margin all round, mm. */
export function grown(box: Box, marginMm: number): Box {
	return { minX: box.minX - marginMm, minY: box.minY - marginMm, maxX: box.maxX + marginMm, maxY: box.maxY + marginMm };
}
