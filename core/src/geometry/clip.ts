// The package ships no types: ours must come along wherever this file is compiled.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./clipper-lib.d.ts" />
import lib, { type Path, type PolyNode } from 'clipper-lib';
import { boxOf, type Point, type Ring } from './rings.ts';

/** A polygon with its holes, mm. */
export interface Area {
	outline: Ring;
	holes: Ring[];
}

/** Steps a mm: 10 nm, far below the 1 µm that arcs are flattened to. */
const SCALE = 1e5;

/** How points go into the library and come back. It sweeps along Y and looks at every edge that a level cuts: where the figure is wider than high, x and y
 * change places, so that a long row costs no more than a long column.
 */
interface Frame extends Point {
	swapped: boolean;
}

function toPath(ring: Ring, { x, y, swapped }: Frame): Path {
	return ring.map((p) => {
		const [a, b] = [Math.round((p.x - x) * SCALE), Math.round((p.y - y) * SCALE)];
		return swapped ? { X: b, Y: a } : { X: a, Y: b };
	});
}

function toRing(path: Path, { x, y, swapped }: Frame): Ring {
	// A ring that was mirrored runs the other way round: reversed, it keeps its sense.
	const turned = swapped ? [...path].reverse() : path;
	return turned.map(({ X, Y }) => ({ x: (swapped ? Y : X) / SCALE + x, y: (swapped ? X : Y) / SCALE + y }));
}

function frameOf(areas: readonly Area[]): Frame {
	const { minX, minY, maxX, maxY } = areas
		.map((area) => boxOf(area.outline))
		.reduce((a, b) => ({
			minX: Math.min(a.minX, b.minX),
			minY: Math.min(a.minY, b.minY),
			maxX: Math.max(a.maxX, b.maxX),
			maxY: Math.max(a.maxY, b.maxY)
		}));
	// About the middle: beyond 474 mm from the origin the library reckons with long numbers, twenty times as slowly.
	return { x: (minX + maxX) / 2, y: (minY + maxY) / 2, swapped: maxX - minX > maxY - minY };
}

/** Every path counter-clockwise, so that the non-zero rule reads outlines of any winding as filled. */
function solid(path: Path): Path {
	let twice = 0;
	path.forEach((a, i) => {
		const b = path[(i + 1) % path.length]!;
		twice += a.X * b.Y - b.X * a.Y;
	});
	return twice < 0 ? [...path].reverse() : path;
}

function pathsOf(area: Area, origin: Frame): Path[] {
	// Holes run the other way round, so that the non-zero rule leaves them open.
	return [solid(toPath(area.outline, origin)), ...area.holes.map((hole) => solid(toPath(hole, origin)).reverse())];
}

function collect(node: PolyNode, origin: Frame, into: Area[]): Area[] {
	for (const child of node.Childs()) {
		into.push({
			outline: toRing(child.Contour(), origin),
			holes: child.Childs().map((hole) => toRing(hole.Contour(), origin))
		});
		for (const hole of child.Childs()) collect(hole, origin, into);
	}
	return into;
}

function clip(type: number, subject: readonly Area[], other: readonly Area[]): Area[] {
	if (subject.length === 0) return [];
	const origin = frameOf(subject);
	const clipper = new lib.Clipper();
	clipper.AddPaths(
		subject.flatMap((area) => pathsOf(area, origin)),
		lib.PolyType.ptSubject,
		true
	);
	if (other.length)
		clipper.AddPaths(
			other.flatMap((area) => pathsOf(area, origin)),
			lib.PolyType.ptClip,
			true
		);
	const tree = new lib.PolyTree();
	const { pftNonZero } = lib.PolyFillType;
	clipper.Execute(type, tree, pftNonZero, pftNonZero);
	return collect(tree, origin, []);
}

/** Areas that overlap or touch become one. */
export function unite(areas: readonly Area[]): Area[] {
	return clip(lib.ClipType.ctUnion, areas, []);
}

/** `areas` without whatever lies under `cut`. */
export function subtract(areas: readonly Area[], cut: readonly Area[]): Area[] {
	return clip(lib.ClipType.ctDifference, areas, cut);
}

/** What a round pen sweeps along a line of many points, its round ends included. One stroke: sweeping each piece alone and uniting them takes a hundred times as long. */
export function sweptPath(points: readonly Point[], diameterMm: number): Area[] {
	const { minX, minY, maxX, maxY } = boxOf(points);
	const origin = { x: (minX + maxX) / 2, y: (minY + maxY) / 2, swapped: false };
	const offset = new lib.ClipperOffset(2, 0.001 * SCALE);
	offset.AddPaths([toPath([...points], origin)], lib.JoinType.jtRound, lib.EndType.etOpenRound);
	const tree = new lib.PolyTree();
	offset.Execute(tree, (diameterMm / 2) * SCALE);
	return collect(tree, origin, []);
}

/** Pieces that are left of an area when its edge is moved inwards, holes counted with them. */
export function insetPieces(area: Area, insetMm: number): number {
	const offset = new lib.ClipperOffset(4, 0.0005 * SCALE);
	offset.AddPaths(pathsOf(area, frameOf([area])), lib.JoinType.jtMiter, lib.EndType.etClosedPolygon);
	const result: Path[] = [];
	offset.Execute(result, -insetMm * SCALE);
	return result.length;
}
