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

function toPath(ring: Ring, origin: Point): Path {
	return ring.map((p) => ({ X: Math.round((p.x - origin.x) * SCALE), Y: Math.round((p.y - origin.y) * SCALE) }));
}

function toRing(path: Path, origin: Point): Ring {
	return path.map((p) => ({ x: p.X / SCALE + origin.x, y: p.Y / SCALE + origin.y }));
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

function pathsOf(area: Area, origin: Point): Path[] {
	// Holes run the other way round, so that the non-zero rule leaves them open.
	return [solid(toPath(area.outline, origin)), ...area.holes.map((hole) => solid(toPath(hole, origin)).reverse())];
}

function collect(node: PolyNode, origin: Point, into: Area[]): Area[] {
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
	const first = subject[0];
	if (!first) return [];
	const { minX, minY } = boxOf(first.outline);
	const origin = { x: minX, y: minY };
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

/** Pieces that are left of an area when its edge is moved inwards, holes counted with them. */
export function insetPieces(area: Area, insetMm: number): number {
	const box = boxOf(area.outline);
	const offset = new lib.ClipperOffset(4, 0.0005 * SCALE);
	offset.AddPaths(pathsOf(area, { x: box.minX, y: box.minY }), lib.JoinType.jtMiter, lib.EndType.etClosedPolygon);
	const result: Path[] = [];
	offset.Execute(result, -insetMm * SCALE);
	return result.length;
}
