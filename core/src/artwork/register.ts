import { median } from '../numerics/index.ts';
import { type Point, pointIndex } from '../geometry/index.ts';
import { MM_PER, type LengthUnit } from '../units/index.ts';
import type { PlacedRow } from './positions.ts';

export interface Registration {
	unit: LengthUnit;
	/** x of the position file runs the other way. */
	mirrored: boolean;
	/** Added after unit and mirror, mm. */
	offset: Point;
	/** Share of the parts that land on openings, 0 to 1. */
	share: number;
	/** The share of the next best answer. */
	runnerUp: number;
	/** The share with no moved origin at all. */
	unmovedShare: number;
}

const CELL_MM = 0.1;
const REACH_MM = 0.2;

/** A row as a registration brings it onto the openings. */
export function registeredRow(row: PlacedRow, { unit, mirrored, offset }: Pick<Registration, 'unit' | 'mirrored' | 'offset'>): PlacedRow {
	const scale = MM_PER[unit];
	return { ...row, xMm: row.xMm * scale * (mirrored ? -1 : 1) + offset.x, yMm: row.yMm * scale + offset.y };
}

/** Finds unit, mirror and moved origin of a position file at once, by voting against the openings.
 * Candidates for a part's centre are midpoints of openings 0.4 to 4 mm apart; each votes for a translation in a 0.1 mm histogram.
 * @param rows parts with x, y in file units
 * @param openings centres of the openings, mm
 * @param units the units to try; one where the file says it
 * @returns the best answer, or null where fewer than 80 % of the parts land, or the runner-up comes within half of it; a file that
 * agrees as it is outranks every other answer
 */
export function registerToArtwork(
	rows: readonly PlacedRow[],
	openings: readonly Point[],
	units: readonly LengthUnit[] = ['mm', 'mil', 'inch']
): { best: Registration | null; tried: Registration[] } {
	const parts = sample(
		rows.filter((row) => row.kind === 'part'),
		60
	);
	const centres = midpoints(openings);
	const tried: Registration[] = [];
	if (parts.length < 3 || centres.length === 0) return { best: null, tried };
	const near = pointIndex(centres);
	for (const unit of units)
		for (const mirrored of [false, true]) {
			const scaled = parts.map((p) => ({ x: p.xMm * MM_PER[unit] * (mirrored ? -1 : 1), y: p.yMm * MM_PER[unit] }));
			tried.push({ unit, mirrored, ...voteTranslation(scaled, centres, near), runnerUp: 0 });
		}
	const asTheyAre = tried.filter(
		({ unit, mirrored, unmovedShare }) => !mirrored && unmovedShare >= 0.8 && (unit === 'mm' || units.length > 1)
	);
	// Files that agree as they are need no other explanation, however symmetric the board is.
	if (asTheyAre.length === 1) {
		const { unit, unmovedShare } = asTheyAre[0]!;
		return { best: { unit, mirrored: false, offset: { x: 0, y: 0 }, share: unmovedShare, runnerUp: 0, unmovedShare }, tried };
	}
	tried.sort((a, b) => b.share - a.share || Math.hypot(a.offset.x, a.offset.y) - Math.hypot(b.offset.x, b.offset.y));
	const best = { ...tried[0]!, runnerUp: tried[1]?.share ?? 0 };
	return { best: best.share >= 0.8 && best.share >= 2 * best.runnerUp ? best : null, tried };
}

function sample<T>(items: readonly T[], most: number): T[] {
	const step = Math.max(1, items.length / most);
	return Array.from({ length: Math.min(items.length, most) }, (_, i) => items[Math.floor(i * step)]!);
}

/** Midpoints of near pairs: the centres of two-ended parts, and of symmetric rows and grids. */
function midpoints(openings: readonly Point[]): Point[] {
	const sorted = [...openings].sort((a, b) => a.x - b.x);
	const found: Point[] = [];
	for (let i = 0; i < sorted.length; i++) {
		const a = sorted[i]!;
		for (let j = i + 1; j < sorted.length && sorted[j]!.x - a.x <= 4; j++) {
			const b = sorted[j]!;
			const d = Math.hypot(a.x - b.x, a.y - b.y);
			if (d >= 0.4 && d <= 4) found.push({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
		}
	}
	return found;
}

type Near = ReturnType<typeof pointIndex>;

function voteTranslation(
	parts: readonly Point[],
	centres: readonly Point[],
	near: Near
): { offset: Point; share: number; unmovedShare: number } {
	const votes = new Map<string, number>();
	// The origin of both files is mostly the same: no translation is always a candidate.
	let best = { key: '0,0', count: 0 };
	for (const c of sample(centres, 3000))
		for (const p of sample(parts, 25)) {
			const key = `${Math.round((c.x - p.x) / CELL_MM)},${Math.round((c.y - p.y) / CELL_MM)}`;
			const count = (votes.get(key) ?? 0) + 1;
			votes.set(key, count);
			if (count > best.count) best = { key, count };
		}
	const candidates = [best.key, '0,0'].map((key) => {
		const [x, y] = key.split(',').map((n) => Number(n) * CELL_MM);
		return refine(parts, centres, near, { x: x!, y: y! });
	});
	const [voted, unmoved] = candidates;
	return { ...(unmoved!.share >= voted!.share ? unmoved! : voted!), unmovedShare: unmoved!.share };
}

function refine(parts: readonly Point[], centres: readonly Point[], near: Near, offset: Point) {
	const misses = parts.flatMap((p) => {
		const at = { x: p.x + offset.x, y: p.y + offset.y };
		let nearest: Point | null = null;
		let distance = REACH_MM;
		for (const i of near(at, REACH_MM)) {
			const c = centres[i]!;
			const d = Math.hypot(c.x - at.x, c.y - at.y);
			if (d <= distance) [nearest, distance] = [c, d];
		}
		return nearest ? [{ x: nearest.x - at.x, y: nearest.y - at.y }] : [];
	});
	if (misses.length === 0) return { offset, share: 0 };
	const moved = { x: offset.x + median(misses.map((m) => m.x)), y: offset.y + median(misses.map((m) => m.y)) };
	// Steps below 1 µm are noise of the files, not a moved origin.
	const settled = Math.hypot(moved.x, moved.y) < 0.02 ? { x: 0, y: 0 } : moved;
	return { offset: settled, share: misses.length / parts.length };
}
