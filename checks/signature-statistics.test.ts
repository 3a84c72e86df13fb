import { Matrix, solve } from 'ml-matrix';
import { describe, expect, test } from 'vitest';
import { findSignatures, type CauseCode, type SignatureRun } from '@keen-relay/core/inspection';
import { seededRandom } from '@keen-relay/core/numerics';
import { transferEfficiency } from '@keen-relay/core/stencil';

// The statistics behind the causes, worked out a second way: whole design matrices solved with ml-matrix (an open numerical library), medians by
// sorting. The core centres, groups and updates instead. The definitions are our convention; the arithmetic is what is compared.

const FOIL_UM = 100;
const PANELS = 42;

interface Faults {
	shift?: { x: number; y: number };
	/** µm a mm. */
	turn?: number;
	grow?: number;
	/** lp. */
	stroke?: number;
	clogPerPrint?: number;
	ageing?: number;
	topupPerPrint?: number;
	across?: number;
	along?: number;
}

function runWith(faults: Faults, seed = 6): SignatureRun {
	const random = seededRandom(seed);
	const classes = ['smallChip', 'chip', 'fineLead'];
	const pads = Array.from({ length: 180 }, (_, i) => ({
		name: `R${i} pin 1`,
		refDes: `R${i}`,
		padClass: classes[(i * 7) % 3]!,
		xMm: (i % 18) * 6 + 2 * random.uniform(),
		yMm: Math.floor(i / 18) * 7 + 2 * random.uniform(),
		minSideMm: 0.3,
		areaRatio: 0.7 + 0.9 * random.uniform()
	}));
	const small = new Set([...pads.keys()].sort((a, b) => pads[a]!.areaRatio - pads[b]!.areaRatio).slice(0, 72));
	const xs = pads.map((p) => p.xMm);
	const ys = pads.map((p) => p.yMm);
	const middle = { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 };
	const half = { x: (Math.max(...xs) - Math.min(...xs)) / 2, y: (Math.max(...ys) - Math.min(...ys)) / 2 };
	let t = 0;
	const panels = Array.from({ length: PANELS }, (_, m) => {
		t += 1 + random.uniform();
		return {
			serial: `J-1-${m}`,
			tMin: t,
			stroke: m % 2 ? 'R' : 'F',
			printsSinceWipe: m % 7,
			printsSinceTopup: (m + 5) % 16,
			minutesSincePrevious: 1.5
		};
	});
	const span = panels.at(-1)!.tMin - panels[0]!.tMin;
	const blank = () => new Float32Array(pads.length * PANELS);
	const out = { volumePct: blank(), heightUm: blank(), areaPct: blank(), offsetXUm: blank(), offsetYUm: blank() };
	const { shift = { x: 0, y: 0 }, turn = 0, grow = 0 } = faults;
	panels.forEach((panel, m) => {
		const whole =
			0.8 * random.normal() +
			(faults.stroke ?? 0) * (panel.stroke === 'F' ? 0.5 : -0.5) +
			((faults.ageing ?? 0) * (panel.tMin - panels[0]!.tMin)) / span +
			(faults.topupPerPrint ?? 0) * panel.printsSinceTopup;
		pads.forEach((pad, p) => {
			const i = m * pads.length + p;
			const [u, w] = [pad.xMm - middle.x, pad.yMm - middle.y];
			const lp =
				whole +
				(small.has(p) ? (faults.clogPerPrint ?? 0) * panel.printsSinceWipe : 0) +
				((faults.across ?? 0) * u) / half.x +
				((faults.along ?? 0) * w) / half.y +
				3 * random.normal();
			const te = transferEfficiency(pad.areaRatio);
			out.volumePct[i] = 100 * te * Math.exp(lp / 100);
			out.heightUm[i] = FOIL_UM * te ** 0.6;
			out.areaPct[i] = (out.volumePct[i]! * FOIL_UM) / out.heightUm[i]!;
			out.offsetXUm[i] = shift.x - turn * w + grow * u + 4 * random.normal();
			out.offsetYUm[i] = shift.y + turn * u + grow * w + 4 * random.normal();
		});
	});
	return { pads, panels, ...out, foilUm: FOIL_UM, strokeAxis: 'y' };
}

const median = (values: readonly number[]) => {
	const sorted = [...values].sort((a, b) => a - b);
	const at = (sorted.length - 1) / 2;
	return (sorted[Math.floor(at)]! + sorted[Math.ceil(at)]!) / 2;
};
const regress = (rows: number[][], y: readonly number[]) => solve(new Matrix(rows), Matrix.columnVector([...y]), true).to1DArray();
const sizeOf = (run: SignatureRun, code: CauseCode) => {
	const found = findSignatures(run).signatures.find((s) => s.code === code);
	expect(found, `${code} is named`).toBeDefined();
	return found!.size;
};
const box = ({ pads }: SignatureRun) => {
	const [xs, ys] = [pads.map((p) => p.xMm), pads.map((p) => p.yMm)];
	const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
	return { x: (minX + maxX) / 2, y: (minY + maxY) / 2, halfX: (maxX - minX) / 2, halfY: (maxY - minY) / 2 };
};
/** Residuals in log-percent, panel by panel. */
const residuals = ({ pads, panels, volumePct }: SignatureRun) =>
	panels.map((_, m) => pads.map((pad, p) => 100 * Math.log(volumePct[m * pads.length + p]! / (100 * transferEfficiency(pad.areaRatio)))));

describe('offsets of each panel', () => {
	/** tx, ty, turn and stretch of each panel from one matrix of all its pads. */
	const fits = (run: SignatureRun) => {
		const { x, y } = box(run);
		return run.panels.map((_, m) => {
			const rows = run.pads.flatMap((p) => [
				[1, 0, -(p.yMm - y), p.xMm - x],
				[0, 1, p.xMm - x, p.yMm - y]
			]);
			const values = run.pads.flatMap((_pad, p) => [run.offsetXUm[m * run.pads.length + p]!, run.offsetYUm[m * run.pads.length + p]!]);
			return regress(rows, values);
		});
	};
	test('a shift', () => {
		const run = runWith({ shift: { x: 34, y: -22 } });
		const all = fits(run);
		const expected = Math.hypot(median(all.map((f) => f[0]!)), median(all.map((f) => f[1]!)));
		expect(sizeOf(run, 'ALIGN_SHIFT')).toBeCloseTo(expected, 4);
	});
	test.each([
		['ALIGN_ROTATION', { turn: 0.62 }, 2],
		['ALIGN_STRETCH', { grow: -0.7 }, 3]
	] as const)('%s at the farthest pad', (code, faults, column) => {
		const run = runWith(faults);
		const { halfX, halfY } = box(run);
		const expected = Math.hypot(halfX, halfY) * median(fits(run).map((f) => f[column]!));
		expect(sizeOf(run, code)).toBeCloseTo(expected, 4);
	});
});

describe('panels against stroke, wipe, time and top-up at once', () => {
	/** Coefficients of the panel medians, of all pads or of the small ones. */
	const coefficients = (run: SignatureRun, which: 'all' | 'small') => {
		const r = residuals(run);
		const order = [...run.pads.keys()].sort((a, b) => run.pads[a]!.areaRatio - run.pads[b]!.areaRatio);
		const pads = which === 'all' ? order : order.slice(0, Math.round(0.4 * order.length));
		const md = run.pads.map((_, p) => median(r.map((panel) => panel[p]!)));
		const y = r.map((panel) => median(pads.map((p) => panel[p]! - md[p]!)));
		const first = run.panels[0]!.tMin;
		const length = run.panels.at(-1)!.tMin - first;
		return regress(
			run.panels.map((p) => [1, p.stroke === 'F' ? 0.5 : -0.5, p.printsSinceWipe, (p.tMin - first) / length, p.printsSinceTopup]),
			y
		);
	};
	test('front against rear', () => {
		const run = runWith({ stroke: 9, clogPerPrint: -0.6 });
		expect(sizeOf(run, 'STROKE_PAIR')).toBeCloseTo(coefficients(run, 'all')[1]!, 3);
	});
	test('small openings between wipes', () => {
		const run = runWith({ clogPerPrint: -1.9, stroke: 2 });
		expect(sizeOf(run, 'CLOG_WIPE')).toBeCloseTo(6 * coefficients(run, 'small')[2]!, 3);
	});
	test('ageing over the run, with a bead that shrinks at the same time', () => {
		const run = runWith({ ageing: -15, topupPerPrint: -0.7 });
		expect(sizeOf(run, 'PASTE_AGING')).toBeCloseTo(coefficients(run, 'all')[3]!, 3);
		expect(sizeOf(run, 'TOPUP_STARVE')).toBeCloseTo(15 * coefficients(run, 'all')[4]!, 3);
	});
});

describe('a level that leans', () => {
	test.each([
		['TILT_ACROSS', { across: 10 }, 0],
		['TILT_ALONG', { along: -11 }, 1]
	] as const)('%s: pad medians on classes and place', (code, faults, column) => {
		const run = runWith(faults);
		const r = residuals(run);
		const { x, y, halfX, halfY } = box(run);
		const classes = [...new Set(run.pads.map((p) => p.padClass))];
		const rows = run.pads.map((p) => [(p.xMm - x) / halfX, (p.yMm - y) / halfY, ...classes.map((c) => Number(p.padClass === c))]);
		const md = run.pads.map((_, p) => median(r.map((panel) => panel[p]!)));
		expect(sizeOf(run, code)).toBeCloseTo(2 * regress(rows, md)[column]!, 3);
	});
});
