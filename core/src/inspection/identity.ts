import { PAD_CLASSES, type PadClass } from '../parts/index.ts';
import type { SignatureRun } from './causes/index.ts';
import type { LimitSet } from './deposit.ts';
import { InputError, type Verdict } from '../judgement/index.ts';
import { median } from '../numerics/index.ts';

/** How a unit's volume stands to its own area × height. A unit that measures area above a threshold reads 10 to 25 % apart on small pads by design:
 * the factor is learned for each unit and size of pad on good panels, and it is the factor moving by 10 % that says the measurement is wrong.
 */
export interface IdentityFactor {
	/** Which pads: a class or a size. */
	group: string;
	/** Median of volume / (area · height / foil). */
	factor: number;
	readings: number;
}

const MOVES = 0.1;
const LEAST = 200;

/** Median factor of a group of readings.
 * @throws {InputError} `empty`
 */
export function identityFactor(
	group: string,
	readings: readonly { volumePct: number; areaPct: number; heightUm: number }[],
	foilUm: number
): IdentityFactor {
	const ratios = readings.flatMap((r) => {
		const v = r.volumePct / ((r.areaPct * r.heightUm) / foilUm);
		return v > 0 && v < Infinity ? [v] : [];
	});
	if (ratios.length === 0) throw new InputError('empty', group, 'readings with area and height', readings.length);
	return { group, factor: median(ratios), readings: ratios.length };
}

/** Compares today's factors with the learned ones; until one is learned 1 is used, and only warned about. */
export function judgeIdentity(today: readonly IdentityFactor[], learned: ReadonlyMap<string, IdentityFactor>): Verdict {
	const rows = today.map((t) => {
		const known = learned.get(t.group);
		const sure = known !== undefined && known.readings >= LEAST;
		const base = sure ? known.factor : 1;
		return { ...t, base, sure, moved: t.factor / base - 1 };
	});
	const worst = [...rows].sort((a, b) => Math.abs(b.moved) - Math.abs(a.moved))[0];
	if (!worst) return { level: 'noData', statement: 'No readings to compare.', because: [], doNext: [] };
	const because = rows.map((r) => ({
		quantity: `Volume over area × height, ${r.group}`,
		value: r.factor,
		unit: '',
		limit: r.sure ? `within 10 % of the learned ${r.base.toFixed(3)}` : 'not learned yet: 1 is used, and only warned about',
		source: 'common practice'
	}));
	const far = rows.filter((r) => Math.abs(r.moved) > MOVES);
	const wrong = far.find((r) => r.sure);
	if (wrong)
		return {
			level: 'act',
			statement: `The inspection unit reads ${(100 * wrong.moved).toFixed(0)} % apart from what it did on good panels: the measurement is wrong.`,
			because,
			doNext: ['Calibrate the unit before anything else is believed', 'Check the foil thickness it was given']
		};
	if (far.length)
		return {
			level: 'watch',
			statement: `Volume and area × height differ by ${(100 * worst.moved).toFixed(0)} %; not learned yet on this unit.`,
			because,
			doNext: ['Learn the factor on good panels']
		};
	return { level: 'good', statement: 'Volume, area and height agree.', because, doNext: [] };
}

/** Gauge first: repeatability of the unit, 6σ, against the tolerance (common practice: at most 10 %).
 * @param repeats one array a pad: the same panel measured again and again
 */
export function gaugeShare(
	repeats: readonly (readonly number[])[],
	lowPct: number,
	highPct: number
): { sigma: number; share: number; enough: boolean } {
	let [squares, freedom] = [0, 0];
	for (const pad of repeats) {
		if (pad.length < 2) continue;
		const mid = pad.reduce((a, b) => a + b, 0) / pad.length;
		for (const v of pad) squares += (v - mid) ** 2;
		freedom += pad.length - 1;
	}
	if (freedom === 0) throw new InputError('empty', 'repeats', 'a pad measured at least twice', repeats.length);
	const sigma = Math.sqrt(squares / freedom);
	const share = (6 * sigma) / (highPct - lowPct);
	return { sigma, share, enough: share <= 0.1 };
}

/** The unit's factor of each class of pads in a run: readings without volume, area or height are left out, and so are classes without any. */
export function factorsOfRun(run: SignatureRun): IdentityFactor[] {
	const n = run.pads.length;
	return PAD_CLASSES.flatMap((padClass) => {
		const readings: { volumePct: number; areaPct: number; heightUm: number }[] = [];
		run.pads.forEach((pad, p) => {
			if (pad.padClass !== padClass) return;
			for (let i = p; i < run.volumePct.length; i += n) {
				const [volumePct, areaPct, heightUm] = [run.volumePct[i]!, run.areaPct[i]!, run.heightUm[i]!];
				if (volumePct > 0 && areaPct > 0 && heightUm > 0) readings.push({ volumePct, areaPct, heightUm });
			}
		});
		return readings.length ? [identityFactor(padClass, readings, run.foilUm)] : [];
	});
}

export interface GaugeRow {
	padClass: PadClass;
	pads: number;
	sigma: number;
	share: number;
	enough: boolean;
}

/** Repeatability of the unit by class of pads, against the volume limits of each. Classes that no pad of was measured twice are left out.
 * @param repeats volumes of each pad, %, as often as it was measured without a print between
 */
export function gaugeByClass(pads: readonly { padClass: string }[], repeats: readonly number[][], limits: LimitSet): GaugeRow[] {
	return PAD_CLASSES.flatMap((padClass): GaugeRow[] => {
		const own = repeats.filter((_, p) => pads[p]!.padClass === padClass);
		if (!own.some((r) => r.length > 1)) return [];
		const [low, high] = limits[padClass].volumePct.fail;
		return [{ padClass, pads: own.length, ...gaugeShare(own, low, high) }];
	});
}
