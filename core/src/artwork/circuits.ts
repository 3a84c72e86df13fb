import { boxesTouch, boxOf, type Point, rotate, pointIndex } from '../geometry/index.ts';

/** Where a circuit stands on a panel: a point of the circuit is turned by the angle, then moved. */
export interface CircuitPlace extends Point {
	rotationDeg: number;
}

export interface CircuitGuess {
	kind: 'circuit' | 'panel';
	/** For a panel, each circuit's place relative to the first, which stands at 0, 0, 0°. */
	places: CircuitPlace[];
	/** Openings of the first circuit, by index. */
	members: number[];
	/** Circuit of each opening, null where it belongs to none. */
	circuitOf: (number | null)[];
	/** Openings that repeat with no circuit. */
	left: number[];
	/** Share of the openings that the circuits explain, 0 to 1. */
	share: number;
	/** Why this was guessed, in a sentence. */
	because: string;
}

interface Opening {
	centre: Point;
	areaMm2: number;
	perimeterMm: number;
	lengthMm: number;
}

const STEP_MM = 0.01;
const MATCH_MM = 0.03;
const TURNS = [0, 90, 180, 270] as const;

/** Guesses from repeated geometry whether a layer is one circuit or a panel of several, and finds the circuits and how each is turned.
 * Openings are told apart by their shape and their nearest neighbours; the number that most openings repeat by is the number of circuits.
 * A circuit is what every found turn and move carries onto openings of the same shape.
 * @returns the guess; a person confirms it
 */
export function guessCircuits(openings: readonly Opening[]): CircuitGuess {
	const single = (because: string): CircuitGuess => ({
		kind: 'circuit',
		places: [{ x: 0, y: 0, rotationDeg: 0 }],
		members: openings.map((_, i) => i),
		circuitOf: openings.map(() => 0),
		left: [],
		share: 1,
		because
	});
	if (openings.length < 4) return single('Too few openings to repeat.');
	const shapes = openings.map((o) => [o.areaMm2 / STEP_MM, o.perimeterMm / STEP_MM, o.lengthMm / STEP_MM].map(Math.round).join(' '));
	const centres = openings.map((o) => o.centre);
	const near = pointIndex(centres);
	let best: CircuitGuess | null = null;
	// Dense boards are told apart by what lies near; sparse ones of equal parts only by what lies further off.
	for (const look of LOOKS) {
		best = betterOf(best, guessFrom(openings, shapes, near, surroundings(centres, shapes, look)));
		if (best && best.share > 0.95) break;
	}
	if (!best || best.share < 0.8)
		return single(
			best
				? `The best repeat found explains only ${Math.round(best.share * 100)} % of the openings.`
				: 'No arrangement of openings repeats over the whole layer.'
		);
	return best;
}

const LOOKS = [
	{ reachMm: 3, neighbours: 4 },
	{ reachMm: 9, neighbours: 6 },
	{ reachMm: 25, neighbours: 8 }
] as const;

function betterOf(a: CircuitGuess | null, b: CircuitGuess | null): CircuitGuess | null {
	return !a || (b && b.share > a.share + 1e-9) ? b : a;
}

/** The best guess where openings of one kind are taken to be the same place of different circuits. */
function guessFrom(openings: readonly Opening[], shapes: readonly string[], near: Near, kinds: readonly string[]): CircuitGuess | null {
	const counts = new Map<string, number[]>();
	kinds.forEach((kind, i) => {
		const list = counts.get(kind);
		if (list) list.push(i);
		else counts.set(kind, [i]);
	});
	const byCount = new Map<number, number>();
	for (const list of counts.values()) byCount.set(list.length, (byCount.get(list.length) ?? 0) + list.length);
	const candidates = [...byCount].filter(([n]) => n >= 2 && n <= 200).sort((a, b) => b[1] - a[1]);
	let best: CircuitGuess | null = null;
	for (const [n] of candidates.slice(0, 4)) {
		const guess = verify(
			openings,
			shapes,
			near,
			n,
			[...counts.values()].filter((list) => list.length === n)
		);
		best = betterOf(best, guess);
	}
	return best;
}

type Near = ReturnType<typeof pointIndex>;

/** An opening's shape with those of its nearest neighbours and how far they are: the same however the circuit is turned. */
function surroundings(centres: readonly Point[], shapes: readonly string[], { reachMm, neighbours }: (typeof LOOKS)[number]): string[] {
	const near = pointIndex(centres);
	/** At least the nearest so many, if so many are within reach at all. */
	const about = (centre: Point) => {
		for (const share of [4, 2]) {
			const found = near(centre, reachMm / share);
			if (found.length > neighbours) return found;
		}
		return near(centre, reachMm);
	};
	return centres.map((centre, i) => {
		const around = about(centre)
			.filter((other) => other !== i)
			.map((other) => ({ other, mm: Math.hypot(centres[other]!.x - centre.x, centres[other]!.y - centre.y) }))
			.sort((a, b) => a.mm - b.mm)
			.slice(0, neighbours)
			.map(({ other, mm }) => `${shapes[other]}@${Math.round(mm / 0.05)}`);
		return [shapes[i], ...around.sort()].join('|');
	});
}

function verify(
	openings: readonly Opening[],
	shapes: readonly string[],
	near: Near,
	n: number,
	groups: readonly number[][]
): CircuitGuess | null {
	const carried = (from: Point, to: Point, turn: number, i: number): number | null => {
		const p = openings[i]!.centre;
		const q = rotate({ x: p.x - from.x, y: p.y - from.y }, turn);
		const at = { x: q.x + to.x, y: q.y + to.y };
		return near(at, MATCH_MM).find((other) => shapes[other] === shapes[i]) ?? null;
	};
	let best: CircuitGuess | null = null;
	// A few kinds as anchors: one of them may be symmetric or stand on a border.
	for (const group of groups.slice(0, 6)) {
		const from = openings[group[0]!]!.centre;
		const byDistance = openings
			.map(({ centre }, i) => ({ i, mm: Math.hypot(centre.x - from.x, centre.y - from.y) }))
			.sort((a, b) => a.mm - b.mm)
			.map(({ i }) => i);
		const moves = group.slice(1).map((j) => {
			const to = openings[j]!.centre;
			return { to, turn: turnOf(byDistance, (turn, i) => carried(from, to, turn, i) !== null) };
		});
		const circuitOf: (number | null)[] = openings.map(() => null);
		const members: number[] = [];
		openings.forEach((_, i) => {
			if (circuitOf[i] !== null) return;
			const images: number[] = [];
			for (const { to, turn } of moves) {
				const j = carried(from, to, turn, i);
				if (j === null || j === i || circuitOf[j] !== null) return;
				images.push(j);
			}
			circuitOf[i] = 0;
			images.forEach((j, k) => (circuitOf[j] = k + 1));
			members.push(i);
		});
		// One or two openings that repeat are a part, not a circuit; and circuits lie beside each other, never through each other.
		const least = new Set(members.map((i) => shapes[i])).size > 1 ? LEAST_OPENINGS : LEAST_EQUAL;
		if (members.length < least || overlap(openings, circuitOf, n)) continue;
		const share = (members.length * n) / openings.length;
		if (best && share <= best.share) continue;
		best = {
			kind: 'panel',
			places: [
				{ x: 0, y: 0, rotationDeg: 0 },
				...moves.map(({ to, turn }) => {
					const q = rotate({ x: -from.x, y: -from.y }, turn);
					return { x: round(q.x + to.x), y: round(q.y + to.y), rotationDeg: turn };
				})
			],
			members,
			circuitOf,
			left: circuitOf.flatMap((c, i) => (c === null ? [i] : [])),
			share,
			because: `${members.length} openings stand ${n} times in the same arrangement; ${openings.length - members.length * n} belong to none.`
		};
	}
	return best;
}

/** How a circuit is turned: the turn that carries most openings onto their like. What lies near the anchor tells, mostly;
 * where two turns are about as good, as in the middle of a ball grid, more is looked at.
 * @param byDistance openings, the nearest to the anchor first
 */
function turnOf(byDistance: readonly number[], carries: (turn: number, opening: number) => boolean): number {
	let turns: { turn: number; hits: number }[] = TURNS.map((turn) => ({ turn, hits: 0 }));
	for (let from = 0, to = FIRST_LOOK; from < byDistance.length; from = to, to *= 6) {
		for (const vote of turns) for (const i of byDistance.slice(from, to)) if (carries(vote.turn, i)) vote.hits++;
		turns.sort((a, b) => b.hits - a.hits);
		turns = turns.filter((vote) => vote.hits >= 0.8 * turns[0]!.hits);
		if (turns.length === 1) break;
	}
	return turns[0]!.turn;
}

/** Openings about an anchor that are looked at first. */
const FIRST_LOOK = 60;
/** A circuit has at least this many openings. */
const LEAST_OPENINGS = 4;
/** Of one shape only, as rows of equal chips have it, it has at least this many. */
const LEAST_EQUAL = 8;

function overlap(openings: readonly Opening[], circuitOf: readonly (number | null)[], n: number): boolean {
	const centres = Array.from({ length: n }, (): Point[] => []);
	openings.forEach(({ centre }, i) => {
		const circuit = circuitOf[i];
		if (circuit != null) centres[circuit]!.push(centre);
	});
	const boxes = centres.map(boxOf);
	return boxes.some((a, i) => boxes.slice(i + 1).some((b) => boxesTouch(a, b)));
}

const round = (v: number) => Math.round(v * 1e4) / 1e4;

/** Places of the circuits on the panel for a circuit whose own lower left corner is `corner` in the panel's layer. */
export function placesFromCorner(guess: CircuitGuess, corner: Point): CircuitPlace[] {
	return guess.places.map(({ x, y, rotationDeg }) => {
		const q = rotate(corner, rotationDeg);
		return { x: round(q.x + x), y: round(q.y + y), rotationDeg };
	});
}
