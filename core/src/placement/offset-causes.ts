import { InputError } from '../judgement/index.ts';
import { medianInPlace } from '../numerics/index.ts';
import { LEAST_PANELS, LEAST_UM, offsetTrim, type OffsetTrim } from './trims.ts';

/** What offsets can have in common, from what all share to what one designator has. Where two explain the same, the one named first here is taken. */
export const OFFSET_LEVELS = ['program', 'circuit', 'board', 'nozzle', 'feeder', 'part', 'ref'] as const;
export type OffsetLevel = (typeof OFFSET_LEVELS)[number];

/** Where a part sits against where it should, as an inspection measured it. */
export interface PlacedOffset {
	panel: string;
	circuit: number;
	refDes: string;
	partNumber: string;
	/** What picked it; null: not known. */
	feeder: string | null;
	nozzle: string | null;
	/** Of the part on the panel, and of its circuit, ° counter-clockwise. */
	angleDeg: number;
	circuitDeg: number;
	/** Nominal, on the panel. */
	xMm: number;
	yMm: number;
	/** Measured less nominal, along the panel, µm. */
	dxUm: number;
	dyUm: number;
}

export interface OffsetCause {
	level: OffsetLevel;
	/** "N3", "14", "R-10k", "C7", "2"; "all" of the program, "panels" of what differs from panel to panel. */
	name: string;
	/** Median offset in the frame of the level, µm: of the part for `part`, of the circuit for `ref`, else of the panel. `board`: 0, it has none in common. */
	dxUm: number;
	dyUm: number;
	/** Its length; of `board` the spread from panel to panel. */
	sizeUm: number;
	/** How much better the offsets are explained, less what a cause may cost. */
	gain: number;
	rows: number;
	panels: number;
	/** Others that would explain the same rows as well: nobody can tell them apart yet. */
	tied: { level: OffsetLevel; name: string }[];
	/** What correction it asks for along each axis of its frame; null for `board`, which has none. */
	trim: { x: OffsetTrim; y: OffsetTrim } | null;
}

export interface OffsetReport {
	rows: number;
	panels: number;
	/** Spread of one designator from panel to panel, µm. */
	sigmaUm: number;
	/** The median of all, µm: where nothing stands out this is what there is. */
	median: { dxUm: number; dyUm: number };
	causes: OffsetCause[];
}

/** Where an offset bends from squared to absolute, in sigmas: a part that fell over counts little. */
const BEND = 2;
/** What a cause must gain beyond its cost (set by trial on noise with 3 % gross errors). */
const LEAST_GAIN = 8;
const LEAST_ROWS = 8;
const MOST_CAUSES = 4;
/** What is sure but not worth naming is taken away too, so that it hides nothing and shows in nothing finer. */
const MOST_ROUNDS = 8;
/** Two candidates whose rows are the same to this share cannot be told apart. */
const TOGETHER = 0.9;

const huber = (z: number): number => {
	const a = Math.abs(z);
	return a <= BEND ? (a * a) / 2 : BEND * a - (BEND * BEND) / 2;
};

/** Rows by the value that they have at a level. */
interface Groups {
	level: OffsetLevel;
	names: string[];
	/** Rows of value v: order[start[v]] to order[start[v + 1] − 1]. */
	order: Int32Array;
	start: Int32Array;
}

function groupsOf(level: OffsetLevel, rows: readonly PlacedOffset[], value: (row: PlacedOffset) => string | null): Groups {
	const index = new Map<string, number>();
	const of = Int32Array.from(rows, (row) => {
		const name = value(row);
		if (name === null) return -1;
		const known = index.get(name);
		if (known !== undefined) return known;
		index.set(name, index.size);
		return index.size - 1;
	});
	const start = new Int32Array(index.size + 1);
	for (const v of of) if (v >= 0) start[v + 1]!++;
	for (let v = 0; v < index.size; v++) start[v + 1]! += start[v]!;
	const at = start.slice();
	const order = new Int32Array(start[index.size]!);
	of.forEach((v, row) => v >= 0 && (order[at[v]!++] = row));
	return { level, names: [...index.keys()], order, start };
}

const VALUE: Record<Exclude<OffsetLevel, 'board'>, (row: PlacedOffset) => string | null> = {
	program: () => 'all',
	circuit: (row) => String(row.circuit + 1),
	nozzle: (row) => row.nozzle,
	feeder: (row) => row.feeder,
	part: (row) => row.partNumber,
	ref: (row) => row.refDes
};

/** The turn of the frame in which a level's offset is the same everywhere, °. */
export const frameDeg = (level: OffsetLevel, row: Pick<PlacedOffset, 'angleDeg' | 'circuitDeg'>): number =>
	level === 'part' ? row.angleDeg : level === 'ref' ? row.circuitDeg : 0;

/** What a panel sits off by as a whole: shift in µm, and turn in µm a mm about the middle of its rows. */
interface PanelShift {
	dxUm: number;
	dyUm: number;
	turn: number;
	x0: number;
	y0: number;
}

/** Offsets as they are left after what was found is taken away, in two arrays that are worked on in place. */
class Left {
	readonly x: Float64Array;
	readonly y: Float64Array;
	readonly #a: Float64Array;
	readonly #b: Float64Array;

	constructor(readonly rows: readonly PlacedOffset[]) {
		this.x = Float64Array.from(rows, (row) => row.dxUm);
		this.y = Float64Array.from(rows, (row) => row.dyUm);
		this.#a = new Float64Array(rows.length);
		this.#b = new Float64Array(rows.length);
	}

	/** Median of a group in the frame of its level, and how much better its rows are explained by it. */
	median({ level, order, start }: Groups, v: number, turns: Turns, sigmaUm: number): { dxUm: number; dyUm: number; gain: number } {
		const [from, to] = [start[v]!, start[v + 1]!];
		const n = to - from;
		const turn = turns[level];
		for (let i = 0; i < n; i++) {
			const row = order[from + i]!;
			const [c, s] = turn ? [turn.cos[row]!, turn.sin[row]!] : [1, 0];
			this.#a[i] = c * this.x[row]! + s * this.y[row]!;
			this.#b[i] = c * this.y[row]! - s * this.x[row]!;
		}
		const [ax, by] = [this.#a.slice(0, n), this.#b.slice(0, n)];
		const [dxUm, dyUm] = [medianInPlace(ax), medianInPlace(by)];
		let gain = 0;
		for (let i = 0; i < n; i++) {
			const [zx, zy] = [this.#a[i]! / sigmaUm, this.#b[i]! / sigmaUm];
			gain += huber(zx) - huber(zx - dxUm / sigmaUm) + huber(zy) - huber(zy - dyUm / sigmaUm);
		}
		return { dxUm, dyUm, gain };
	}

	/** The rows of a group along the axes of its level's frame, as they are left. */
	inFrame({ level, order, start }: Groups, v: number, turns: Turns): { x: number[]; y: number[] } {
		const rows = [...order.subarray(start[v]!, start[v + 1]!)];
		const turn = turns[level];
		const [c, s] = [(row: number) => turn?.cos[row] ?? 1, (row: number) => turn?.sin[row] ?? 0];
		return {
			x: rows.map((row) => c(row) * this.x[row]! + s(row) * this.y[row]!),
			y: rows.map((row) => c(row) * this.y[row]! - s(row) * this.x[row]!)
		};
	}

	take({ level, order, start }: Groups, v: number, turns: Turns, { dxUm, dyUm }: { dxUm: number; dyUm: number }): void {
		const turn = turns[level];
		for (const row of order.subarray(start[v]!, start[v + 1]!)) {
			const [c, s] = turn ? [turn.cos[row]!, turn.sin[row]!] : [1, 0];
			this.x[row]! -= c * dxUm - s * dyUm;
			this.y[row]! -= s * dxUm + c * dyUm;
		}
	}

	/** How each panel sits as a whole: medians of its rows, then its turn by least squares in which what is far off counts less. */
	shifts({ order, start, names }: Groups, sigmaUm: number): PanelShift[] {
		return names.map((_, v) => {
			const rows = order.subarray(start[v]!, start[v + 1]!);
			const n = rows.length;
			const middle = (of: 'xMm' | 'yMm') => rows.reduce((sum, row) => sum + this.rows[row]![of], 0) / n;
			const shift: PanelShift = {
				dxUm: medianInPlace(Float64Array.from(rows, (row) => this.x[row]!)),
				dyUm: medianInPlace(Float64Array.from(rows, (row) => this.y[row]!)),
				turn: 0,
				x0: middle('xMm'),
				y0: middle('yMm')
			};
			for (let pass = 0; pass < 2; pass++) {
				let [top, bottom] = [0, 0];
				for (const row of rows) {
					const { xMm, yMm } = this.rows[row]!;
					const [px, py] = [xMm - shift.x0, yMm - shift.y0];
					const [ex, ey] = [this.x[row]! - shift.dxUm, this.y[row]! - shift.dyUm];
					const far = Math.hypot(ex + shift.turn * py, ey - shift.turn * px) / sigmaUm;
					const weight = far <= BEND ? 1 : BEND / far;
					top += weight * (px * ey - py * ex);
					bottom += weight * (px * px + py * py);
				}
				shift.turn = bottom > 0 ? top / bottom : 0;
			}
			return shift;
		});
	}

	/** What the shifts explain, and how far apart they put the rows, µm. */
	explained({ order, start }: Groups, shifts: readonly PanelShift[], sigmaUm: number): { gain: number; spreadUm: number } {
		let [gain, sx, sy, sxx, syy] = [0, 0, 0, 0, 0];
		shifts.forEach((shift, v) => {
			for (const row of order.subarray(start[v]!, start[v + 1]!)) {
				const [dx, dy] = this.#at(shift, row);
				const [zx, zy] = [this.x[row]! / sigmaUm, this.y[row]! / sigmaUm];
				gain += huber(zx) - huber(zx - dx / sigmaUm) + huber(zy) - huber(zy - dy / sigmaUm);
				sx += dx;
				sy += dy;
				sxx += dx * dx;
				syy += dy * dy;
			}
		});
		const n = order.length;
		return { gain, spreadUm: Math.sqrt(Math.max(0, sxx / n - (sx / n) ** 2 + syy / n - (sy / n) ** 2)) };
	}

	takeShifts({ order, start }: Groups, shifts: readonly PanelShift[]): void {
		shifts.forEach((shift, v) => {
			for (const row of order.subarray(start[v]!, start[v + 1]!)) {
				const [dx, dy] = this.#at(shift, row);
				this.x[row]! -= dx;
				this.y[row]! -= dy;
			}
		});
	}

	#at(shift: PanelShift, row: number): [number, number] {
		const { xMm, yMm } = this.rows[row]!;
		return [shift.dxUm - shift.turn * (yMm - shift.y0), shift.dyUm + shift.turn * (xMm - shift.x0)];
	}
}

type Turns = Partial<Record<OffsetLevel, { cos: Float64Array; sin: Float64Array }>>;

function turnsOf(rows: readonly PlacedOffset[]): Turns {
	const turn = (level: OffsetLevel) => {
		const rad = Float64Array.from(rows, (row) => (frameDeg(level, row) * Math.PI) / 180);
		return { cos: rad.map(Math.cos), sin: rad.map(Math.sin) };
	};
	return { part: turn('part'), ref: turn('ref') };
}

/** Spread of a designator from panel to panel: the median over designators of their median absolute deviation, made up for their few panels. */
function sigmaWithin(rows: readonly PlacedOffset[]): number {
	const groups = groupsOf('ref', rows, (row) => `${row.circuit} ${row.refDes}`);
	const spreads: number[] = [];
	groups.names.forEach((_, v) => {
		const own = groups.order.subarray(groups.start[v]!, groups.start[v + 1]!);
		const n = own.length;
		if (n < LEAST_PANELS) return;
		for (const axis of ['dxUm', 'dyUm'] as const) {
			const values = Float64Array.from(own, (row) => rows[row]![axis]);
			const middle = medianInPlace(values);
			// Deviations of so few values from their own median are too small by about this much.
			spreads.push(1.4826 * medianInPlace(values.map((value) => Math.abs(value - middle))) * (n / (n - 0.8)));
		}
	});
	return spreads.length ? medianInPlace(Float64Array.from(spreads)) : NaN;
}

/** Finds what offsets of placements have in common: the best single cause, then the best of what it leaves, four at most. Each is what explains
 * most offsets for what it costs, so that a nozzle is named and not its many designators. Offsets are measured before the oven.
 * @param rows of three panels at least; less gives no cause
 * @throws {InputError} `not-finite` by row and field
 */
export function offsetCauses(rows: readonly PlacedOffset[]): OffsetReport {
	rows.forEach((row, i) => {
		for (const field of ['dxUm', 'dyUm', 'xMm', 'yMm', 'angleDeg', 'circuitDeg'] as const)
			if (!Number.isFinite(row[field])) throw new InputError('not-finite', `rows.${i}.${field}`, 'a finite number', row[field]);
	});
	const panels = groupsOf('board', rows, (row) => row.panel);
	const sigma = sigmaWithin(rows);
	const left = new Left(rows);
	const whole = { dxUm: medianInPlace(left.x.slice()), dyUm: medianInPlace(left.y.slice()) };
	const report: OffsetReport = {
		rows: rows.length,
		panels: panels.names.length,
		sigmaUm: Number.isNaN(sigma) ? 0 : sigma,
		median: rows.length ? whole : { dxUm: 0, dyUm: 0 },
		causes: []
	};
	if (panels.names.length < LEAST_PANELS || rows.length < LEAST_ROWS || Number.isNaN(sigma)) return report;
	// A machine that repeats without any spread cannot be measured so well.
	const sigmaUm = Math.max(1, sigma);
	const turns = turnsOf(rows);
	const levels = OFFSET_LEVELS.flatMap((level) => (level === 'board' ? [] : [groupsOf(level, rows, VALUE[level])])).filter(
		// What all rows share is the program.
		({ level, names, order }) => level === 'program' || names.length > 1 || order.length < rows.length
	);
	const big = ({ start }: Groups, v: number) => start[v + 1]! - start[v]! >= LEAST_ROWS;
	const count = 1 + levels.reduce((sum, groups) => sum + groups.names.filter((_, v) => big(groups, v)).length, 0);
	const cost = (parameters: number) => parameters * Math.log(rows.length) + 2 * Math.log(count);

	for (let round = 0; round < MOST_ROUNDS && report.causes.length < MOST_CAUSES; round++) {
		const found: { groups: Groups; v: number; dxUm: number; dyUm: number; sizeUm: number; gain: number; shifts?: PanelShift[] }[] = [];
		for (const groups of levels)
			groups.names.forEach((_, v) => {
				if (!big(groups, v)) return;
				const m = left.median(groups, v, turns, sigmaUm);
				found.push({ groups, v, ...m, sizeUm: Math.hypot(m.dxUm, m.dyUm), gain: m.gain - cost(2) });
			});
		const shifts = left.shifts(panels, sigmaUm);
		const { gain, spreadUm } = left.explained(panels, shifts, sigmaUm);
		found.push({ groups: panels, v: 0, dxUm: 0, dyUm: 0, sizeUm: spreadUm, gain: gain - cost(3 * panels.names.length), shifts });
		const rank = (level: OffsetLevel) => OFFSET_LEVELS.indexOf(level);
		const real = found.filter((c) => c.gain > LEAST_GAIN).sort((a, b) => b.gain - a.gain || rank(a.groups.level) - rank(b.groups.level));
		const best = real[0];
		if (!best) break;
		const { groups, v } = best;
		const { level } = groups;
		const own = groups.order.subarray(best.shifts ? 0 : groups.start[v]!, best.shifts ? undefined : groups.start[v + 1]!);
		if (best.sizeUm >= LEAST_UM) {
			const of = left.inFrame(groups, v, turns);
			const inPanels = new Set(Array.from(own, (row) => rows[row]!.panel)).size;
			report.causes.push({
				level,
				name: level === 'board' ? 'panels' : groups.names[v]!,
				dxUm: best.dxUm,
				dyUm: best.dyUm,
				sizeUm: best.sizeUm,
				gain: best.gain,
				rows: own.length,
				panels: inPanels,
				tied: best.shifts
					? []
					: real
							.filter((other) => !other.shifts && other.groups.level !== level && best.gain - other.gain < LEAST_GAIN)
							.filter((other) => sharing(own, other.groups, other.v) >= TOGETHER)
							.map((other) => ({ level: other.groups.level, name: other.groups.names[other.v]! })),
				trim: best.shifts ? null : { x: offsetTrim(of.x, inPanels), y: offsetTrim(of.y, inPanels) }
			});
		}
		if (best.shifts) left.takeShifts(groups, best.shifts);
		else left.take(groups, v, turns, best);
	}
	return report;
}

/** How much of the rows of two groups is the same: shared ones of all. */
function sharing(rows: Int32Array, { order, start }: Groups, v: number): number {
	const other = new Set(order.subarray(start[v]!, start[v + 1]!));
	let both = 0;
	for (const row of rows) if (other.has(row)) both++;
	return both / (rows.length + other.size - both);
}
