import type { Issue } from '../judgement/index.ts';
import { type Point, rotate, boxIndex, grown } from '../geometry/index.ts';
import type { Aperture } from './apertures.ts';
import type { BomItem } from './bill-of-materials.ts';
import type { PlacedRow } from './positions.ts';
import { atMost } from '../numerics/index.ts';

/** Openings of a part lie at most this far outside its body, unless a file is wrong, mm. */
const STRAY_MM = 3;

export type FindingCode =
	| 'bom_ref_missing_in_centroid'
	| 'paste_on_other_side'
	| 'centroid_ref_missing_in_bom'
	| 'dnp_has_paste'
	| 'placed_without_paste'
	| 'paste_off_part'
	| 'two_footprints'
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
	const bodies = bodiesOf(parts, body);
	const twins = twinsOf(bodies);
	const isFitted = new Map(parts.map((part) => [part.refDes, part.fitted]));
	// Of two footprints for one function the fitted part takes what lies under both.
	const spare = new Set(twins.flatMap(([a, b]) => (isFitted.get(a) === isFitted.get(b) ? [] : [isFitted.get(a) ? b : a])));
	const taken = assign(
		bodies.filter(({ part }) => !spare.has(part.refDes)),
		apertures
	);
	const left = assign(
		bodies.filter(({ part }) => spare.has(part.refDes)),
		apertures
	);
	const partOfAperture = taken.map((refDes, i) => refDes ?? left[i]!);
	const partOf = new Map(parts.map((part) => [part.refDes, part]));
	partOfAperture.forEach((refDes, i) => refDes !== null && partOf.get(refDes)?.apertures.push(i));
	for (const item of items)
		for (const ref of item.designators)
			if (item.fitted && !placed.has(ref) && !elsewhere.has(ref))
				findings.push(
					finding('error', 'bom_ref_missing_in_centroid', ref, null, item.line, 'is in the parts list but has no position on either side')
				);
	const twinOf = new Map(twins.flatMap(([a, b]) => [[a, b] as const, [b, a] as const]));
	for (const [a, b] of twins) {
		if (!(isFitted.get(a) && isFitted.get(b)) || !itemOf.has(a) || !itemOf.has(b)) continue;
		const [first, second] = placed.get(a)!.line <= placed.get(b)!.line ? [a, b] : [b, a];
		const what = `lies over ${first}, and both are placed: two footprints for one function take one part. Mark the one that is left out as not fitted`;
		findings.push(finding('error', 'two_footprints', second, placed.get(second)!, placed.get(second)!.line, what));
	}
	for (const part of parts) {
		const line = placed.get(part.refDes)!.line;
		if (!itemOf.has(part.refDes)) continue;
		if (part.fitted && part.apertures.length === 0 && !itemOf.get(part.refDes)!.byHand)
			findings.push(finding('error', 'placed_without_paste', part.refDes, part, line, 'is placed, but no paste lies under it'));
		if (!part.fitted && part.apertures.length > 0)
			findings.push(
				finding(
					'warning',
					'dnp_has_paste',
					part.refDes,
					part,
					line,
					`is not fitted, yet its pads get paste${
						isFitted.get(twinOf.get(part.refDes) ?? '')
							? ` (a second footprint for ${twinOf.get(part.refDes)}, which is placed over it)`
							: ''
					}: leave, plug, or order without`
				)
			);
	}
	const named = new Set(apertures.map((a) => a.refDes));
	for (const row of otherSide)
		if (named.has(row.refDes))
			findings.push(
				finding('error', 'paste_on_other_side', row.refDes, null, row.line, 'is placed on the other side, but this layer has paste for it')
			);
	const bodyOf = new Map(bodies.map((b) => [b.part.refDes, b]));
	for (const [i, a] of apertures.entries()) {
		const own = a.refDes !== null && partOfAperture[i] === a.refDes ? bodyOf.get(a.refDes)! : null;
		const strayMm = own ? missOf(own, a.centre).miss : 0;
		if (strayMm > STRAY_MM)
			findings.push({
				...finding('error', 'paste_off_part', a.refDes!, own!.part, a.line, ''),
				message: `Opening ${a.index + 1} (line ${a.line}) is of ${a.refDes} by its attribute, but lies ${strayMm.toFixed(1)} mm off its body. Are the files of one revision?`,
				at: a.centre
			});
	}
	const orphans = apertures.filter((_, i) => partOfAperture[i] === null);
	for (const a of orphans.slice(0, 200))
		findings.push({
			severity: 'warning',
			code: 'paste_without_part',
			line: a.line,
			field: 'opening',
			value: `${a.index + 1}`,
			message: a.refDes
				? `Opening ${a.index + 1} at ${a.centre.x.toFixed(2)}, ${a.centre.y.toFixed(2)} mm is of ${a.refDes} by its attribute, which has no position. A forgotten part?`
				: `Opening ${a.index + 1} at ${a.centre.x.toFixed(2)}, ${a.centre.y.toFixed(2)} mm belongs to no part. A fiducial or a forgotten part?`,
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

/** A part with the reach of its body. */
interface Body {
	part: Pick<BoardPart, 'refDes' | 'packageName' | 'xMm' | 'yMm' | 'rotationDeg'>;
	halfL: number;
	halfW: number;
	margin: number;
}

function bodiesOf(parts: readonly Body['part'][], body: (packageName: string) => BodySize): Body[] {
	return parts.map((part) => {
		const size = body(part.packageName);
		const known = size.lengthMm !== null && size.widthMm !== null;
		const halfL = known ? size.lengthMm! / 2 : 0;
		const halfW = known ? size.widthMm! / 2 : 0;
		const margin = known ? BODY_MARGIN_MM : UNKNOWN_BODY_MM;
		return { part, halfL, halfW, margin };
	});
}

/** How far a point lies outside a body, mm; and from its middle. */
function missOf({ part, halfL, halfW }: Body, at: Point): { miss: number; middle: number } {
	const p = rotate({ x: at.x - part.xMm, y: at.y - part.yMm }, -part.rotationDeg);
	return { miss: Math.hypot(Math.max(Math.abs(p.x) - halfL, 0), Math.max(Math.abs(p.y) - halfW, 0)), middle: Math.hypot(p.x, p.y) };
}

/** How many parts have an opening by their body, wherever its attributes say that it belongs. */
export function partsOverPaste(
	rows: readonly PlacedRow[],
	openings: readonly { centre: Point }[],
	body: (packageName: string) => BodySize
): { onPads: number; parts: number } {
	const parts = new Map(rows.filter((row) => row.kind === 'part').map((row) => [row.refDes, row]));
	const found = assign(
		bodiesOf([...parts.values()], body),
		openings.map(({ centre }) => ({ centre, refDes: null }))
	);
	return { onPads: new Set(found.filter((ref) => ref !== null)).size, parts: parts.size };
}

/** Parts that lie over each other, each with its middle in the other's body: footprints for one function, of which one is used. */
function twinsOf(bodies: readonly Body[]): [string, string][] {
	const near = boxIndex(
		bodies.map(({ part, halfL, halfW }) =>
			grown({ minX: part.xMm, maxX: part.xMm, minY: part.yMm, maxY: part.yMm }, Math.hypot(halfL, halfW) + 1e-6)
		)
	);
	const holds = (body: Body, other: Body) => body.halfL > 0 && missOf(body, { x: other.part.xMm, y: other.part.yMm }).miss === 0;
	return bodies.flatMap((body, i) => {
		const { xMm, yMm, refDes } = body.part;
		return near({ minX: xMm, maxX: xMm, minY: yMm, maxY: yMm })
			.filter((k) => k > i && holds(body, bodies[k]!) && holds(bodies[k]!, body))
			.map((k): [string, string] => [refDes, bodies[k]!.part.refDes]);
	});
}

/** The part of each opening: what its attribute says, else the nearest. */
function assign(bodies: readonly Body[], openings: readonly { centre: Point; refDes: string | null }[]): (string | null)[] {
	const near = boxIndex(
		bodies.map(({ part, halfL, halfW, margin }) =>
			grown({ minX: part.xMm, maxX: part.xMm, minY: part.yMm, maxY: part.yMm }, Math.hypot(halfL, halfW) + margin + 1e-6)
		)
	);
	const known = new Set(bodies.map(({ part }) => part.refDes));
	return openings.map((a) => {
		if (a.refDes) return known.has(a.refDes) ? a.refDes : null;
		let best: string | null = null;
		let nearest = Infinity;
		const { x, y } = a.centre;
		for (const i of near({ minX: x, maxX: x, minY: y, maxY: y })) {
			const { part, margin } = bodies[i]!;
			const { miss, middle } = missOf(bodies[i]!, a.centre);
			// Inside two bodies at once, the nearer centre decides.
			const score = miss + middle * 1e-3;
			if (atMost(miss, margin) && score < nearest) [best, nearest] = [part.refDes, score];
		}
		return best;
	});
}
