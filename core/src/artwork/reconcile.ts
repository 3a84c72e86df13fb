import type { Issue } from '../judgement/index.ts';
import { type Point, rotate, boxIndex, grown } from '../geometry/index.ts';
import type { Aperture } from './apertures.ts';
import type { BomItem } from './bill-of-materials.ts';
import type { PlacedRow } from './positions.ts';
import { atMost } from '../numerics/index.ts';

export type FindingCode =
	| 'bom_ref_missing_in_centroid'
	| 'paste_on_other_side'
	| 'centroid_ref_missing_in_bom'
	| 'dnp_has_paste'
	| 'placed_without_paste'
	| 'paste_without_part';

export interface Finding extends Issue {
	code: FindingCode;
	at: Point | null;
}

export interface BodySize {
	lengthMm: number | null;
	widthMm: number | null;
}

/** One part of one side with everything the three files say of it. */
export interface BoardPart {
	refDes: string;
	partNumber: string;
	value: string;
	packageName: string;
	xMm: number;
	yMm: number;
	rotationDeg: number;
	fitted: boolean;
	/** Openings under it, by index. */
	apertures: number[];
}

export interface Reconciliation {
	parts: BoardPart[];
	/** Part of each opening, in the openings' order; null where none is near. */
	partOfAperture: (string | null)[];
	findings: Finding[];
}

/** An opening belongs to the nearest part whose body, grown by this much, reaches its centre (common practice: 0.5 mm). */
const BODY_MARGIN_MM = 0.5;
const UNKNOWN_BODY_MM = 1;

/** Joins the parts list, the positions and the paste layer of one side.
 * @param body size of a package by name; nulls where unknown
 * @param otherSide rows of the other side: its parts are in the same parts list and are not missing here
 * @returns parts, the part of each opening, and every disagreement with its lines and place
 */
export function reconcile(
	rows: readonly PlacedRow[],
	items: readonly BomItem[],
	apertures: readonly Aperture[],
	body: (packageName: string) => BodySize,
	otherSide: readonly PlacedRow[] = []
): Reconciliation {
	const elsewhere = new Set(otherSide.map((row) => row.refDes));
	const itemOf = new Map(items.flatMap((item) => item.designators.map((ref) => [ref, item] as const)));
	const placed = new Map<string, PlacedRow>();
	for (const row of rows) if (row.kind === 'part' && !placed.has(row.refDes)) placed.set(row.refDes, row);
	const findings: Finding[] = [];
	const parts: BoardPart[] = [...placed.values()].map((row) => {
		const item = itemOf.get(row.refDes);
		if (!item)
			findings.push(
				finding('error', 'centroid_ref_missing_in_bom', row.refDes, row, row.line, 'has a position but is not in the parts list')
			);
		return {
			refDes: row.refDes,
			partNumber: item?.partNumber ?? '',
			value: item?.value || row.value,
			packageName: item?.packageName || row.packageName,
			xMm: row.xMm,
			yMm: row.yMm,
			rotationDeg: row.rotationDeg,
			fitted: item?.fitted ?? false,
			apertures: []
		};
	});
	const partOfAperture = assign(parts, apertures, body);
	const partOf = new Map(parts.map((part) => [part.refDes, part]));
	partOfAperture.forEach((refDes, i) => refDes !== null && partOf.get(refDes)?.apertures.push(i));
	for (const item of items)
		for (const ref of item.designators)
			if (item.fitted && !placed.has(ref) && !elsewhere.has(ref))
				findings.push(
					finding('error', 'bom_ref_missing_in_centroid', ref, null, item.line, 'is in the parts list but has no position on either side')
				);
	for (const part of parts) {
		const line = placed.get(part.refDes)!.line;
		if (!itemOf.has(part.refDes)) continue;
		if (part.fitted && part.apertures.length === 0 && !itemOf.get(part.refDes)!.byHand)
			findings.push(finding('error', 'placed_without_paste', part.refDes, part, line, 'is placed, but no paste lies under it'));
		if (!part.fitted && part.apertures.length > 0)
			findings.push(
				finding('warning', 'dnp_has_paste', part.refDes, part, line, 'is not fitted, yet its pads get paste: leave, plug, or order without')
			);
	}
	const named = new Set(apertures.map((a) => a.refDes));
	for (const row of otherSide)
		if (named.has(row.refDes))
			findings.push(
				finding('error', 'paste_on_other_side', row.refDes, null, row.line, 'is placed on the other side, but this layer has paste for it')
			);
	const orphans = apertures.filter((_, i) => partOfAperture[i] === null);
	for (const a of orphans.slice(0, 200))
		findings.push({
			severity: 'warning',
			code: 'paste_without_part',
			line: a.line,
			field: 'opening',
			value: `${a.index + 1}`,
			message: `Opening ${a.index + 1} at ${a.centre.x.toFixed(2)}, ${a.centre.y.toFixed(2)} mm belongs to no part. A fiducial or a forgotten part?`,
			at: a.centre
		});
	return { parts, partOfAperture, findings };
}

function finding(
	severity: Issue['severity'],
	code: FindingCode,
	refDes: string,
	at: { xMm: number; yMm: number } | null,
	line: number,
	what: string
): Finding {
	return {
		severity,
		code,
		line,
		field: 'designator',
		value: refDes,
		message: `${refDes} (line ${line}) ${what}.`,
		at: at ? { x: at.xMm, y: at.yMm } : null
	};
}

/** The nearest part of each opening. Designators from X2 attributes outrank the distance. */
function assign(parts: readonly BoardPart[], apertures: readonly Aperture[], body: (name: string) => BodySize): (string | null)[] {
	const bodies = parts.map((part) => {
		const size = body(part.packageName);
		const known = size.lengthMm !== null && size.widthMm !== null;
		const halfL = known ? size.lengthMm! / 2 : 0;
		const halfW = known ? size.widthMm! / 2 : 0;
		const margin = known ? BODY_MARGIN_MM : UNKNOWN_BODY_MM;
		return { part, halfL, halfW, margin };
	});
	const near = boxIndex(
		bodies.map(({ part, halfL, halfW, margin }) =>
			grown({ minX: part.xMm, maxX: part.xMm, minY: part.yMm, maxY: part.yMm }, Math.hypot(halfL, halfW) + margin + 1e-6)
		)
	);
	const known = new Set(parts.map((part) => part.refDes));
	return apertures.map((a) => {
		if (a.refDes && known.has(a.refDes)) return a.refDes;
		let best: string | null = null;
		let nearest = Infinity;
		const { x, y } = a.centre;
		for (const i of near({ minX: x, maxX: x, minY: y, maxY: y })) {
			const { part, halfL, halfW, margin } = bodies[i]!;
			const p = rotate({ x: x - part.xMm, y: y - part.yMm }, -part.rotationDeg);
			const miss = Math.hypot(Math.max(Math.abs(p.x) - halfL, 0), Math.max(Math.abs(p.y) - halfW, 0));
			// Inside two bodies at once, the nearer centre decides.
			const score = miss + Math.hypot(p.x, p.y) * 1e-3;
			if (atMost(miss, margin) && score < nearest) [best, nearest] = [part.refDes, score];
		}
		return best;
	});
}
