/** The part of clipper-lib that we use; the package ships no types of its own. */
declare module 'clipper-lib' {
	export interface IntPoint {
		X: number;
		Y: number;
	}
	export type Path = IntPoint[];
	export interface PolyNode {
		Contour(): Path;
		Childs(): PolyNode[];
		IsHole(): boolean;
	}
	interface Clipper {
		AddPaths(paths: Path[], polyType: number, closed: boolean): boolean;
		Execute(clipType: number, solution: PolyNode, subjectFill: number, clipFill: number): boolean;
	}
	interface ClipperOffset {
		AddPaths(paths: Path[], joinType: number, endType: number): void;
		Execute(solution: Path[] | PolyNode, delta: number): void;
	}
	const lib: {
		Clipper: new () => Clipper;
		ClipperOffset: new (miterLimit?: number, arcTolerance?: number) => ClipperOffset;
		PolyTree: new () => PolyNode;
		PolyType: { ptSubject: number; ptClip: number };
		ClipType: { ctUnion: number; ctDifference: number };
		PolyFillType: { pftNonZero: number; pftEvenOdd: number };
		JoinType: { jtMiter: number; jtRound: number };
		EndType: { etClosedPolygon: number; etOpenRound: number };
	};
	export default lib;
}
