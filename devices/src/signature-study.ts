import { seededRandom, type Random } from '@keen-relay/core/numerics';
import { findSignatures, type SignatureReport, type SignatureRun } from '@keen-relay/core/inspection';
import { CAUSE_OF_FAULT } from './fault-causes.ts';
import { measureDeposits, PrintPhysics, type PhysicsPad, type PrintFault, type PrintFaultKind } from './print-physics.ts';

interface StudyPad extends PhysicsPad {
	refDes: string;
	padClass: string;
}

/** A board of that many openings: fine grids, chips, leads and large pads, scattered by a seed. */
export function studyBoard(pads: number, random: Random): StudyPad[] {
	const out: StudyPad[] = [];
	const put = (refDes: string, padClass: string, x: number, y: number, l: number, w: number) =>
		out.push({ refDes, padClass, xMm: x, yMm: y, areaMm2: l * w, perimeterMm: 2 * (l + w), minSideMm: Math.min(l, w) });
	for (let part = 1; out.length < pads; part++) {
		const [x, y] = [8 + 144 * random.uniform(), 8 + 84 * random.uniform()];
		const kind = random.uniform();
		if (kind < 0.08)
			for (let i = 0; i < 16; i++) put(`U${part}`, 'fineBallGrid', x + (i % 4) * 0.5, y + Math.floor(i / 4) * 0.5, 0.27, 0.27);
		else if (kind < 0.2) for (let i = 0; i < 12; i++) put(`U${part}`, 'fineLead', x + (i % 6) * 0.5, y + (i < 6 ? 0 : 5), 0.25, 1.3);
		else if (kind < 0.3) for (let i = 0; i < 4; i++) put(`J${part}`, 'large', x + (i % 2) * 2, y + Math.floor(i / 2) * 3, 1.6, 1.2);
		else if (kind < 0.6) for (let i = 0; i < 2; i++) put(`C${part}`, 'smallChip', x + i * 0.55, y, 0.32, 0.32);
		else for (let i = 0; i < 2; i++) put(`R${part}`, 'chip', x + i, y, 0.5, 0.55);
	}
	return out.slice(0, pads);
}

/** One simulated run: panels × pads as an inspection unit reports them. Wipes, top-ups and pauses come at intervals of their own. */
export function studyRun(seed: number, panels: number, pads: number, faults: readonly PrintFault[]): SignatureRun {
	const random = seededRandom(seed);
	const board = studyBoard(pads, random);
	const foilUm = 100;
	const physics = new PrintPhysics(board, foilUm, random, 'y');
	const [wipeEvery, topupEvery] = [5 + random.integer(5), 13 + random.integer(8)];
	const pauses = new Set(Array.from({ length: 4 }, (_, i) => 5 + i * 8 + random.integer(4)));
	const blank = () => new Float32Array(panels * pads);
	const run = { volumePct: blank(), heightUm: blank(), areaPct: blank(), offsetXUm: blank(), offsetYUm: blank() };
	const peaks = faults.some((f) => f.kind === 'peaks') ? blank() : null;
	const bridges: number[] = [];
	let [sinceWipe, sinceTopup, tMin] = [0, random.integer(5), 0];
	const list = Array.from({ length: panels }, (_, m) => {
		const pause = pauses.has(m) ? 22 + 20 * random.uniform() : 0.6 + 0.2 * random.uniform();
		tMin += pause;
		if (m > 0 && (sinceWipe >= wipeEvery || pauses.has(m))) sinceWipe = 0;
		if (sinceTopup >= topupEvery) sinceTopup = 0;
		// Front and rear follow each other; now and then one is left out, as after a knead.
		const stroke = {
			stroke: m % 2 ? ('R' as const) : ('F' as const),
			printsSinceWipe: sinceWipe,
			beadUsed: sinceTopup / topupEvery,
			minutesSincePrevious: pause,
			ageShare: m / Math.max(1, panels - 1),
			print: m
		};
		const measured = measureDeposits(physics.print(stroke, faults), foilUm, random, faults);
		for (let p = 0; p < pads; p++) {
			const i = m * pads + p;
			run.volumePct[i] = measured.volumePct[p]!;
			run.heightUm[i] = measured.heightUm[p]!;
			run.areaPct[i] = measured.areaPct[p]!;
			run.offsetXUm[i] = measured.offsetXUm[p]!;
			run.offsetYUm[i] = measured.offsetYUm[p]!;
			if (peaks) peaks[i] = measured.peakHeightUm![p]!;
		}
		bridges.push(measured.bridges);
		sinceWipe++;
		sinceTopup++;
		return {
			serial: `S-${m + 1}`,
			tMin,
			stroke: stroke.stroke,
			printsSinceWipe: stroke.printsSinceWipe,
			printsSinceTopup: sinceTopup - 1,
			minutesSincePrevious: pause
		};
	});
	return {
		pads: board.map((p, i) => ({
			name: `${p.refDes} pad ${i + 1}`,
			refDes: p.refDes,
			padClass: p.padClass,
			xMm: p.xMm,
			yMm: p.yMm,
			minSideMm: p.minSideMm,
			areaRatio: (p.areaMm2 / p.perimeterMm / foilUm) * 1000
		})),
		panels: list,
		...run,
		...(peaks ? { peakHeightUm: peaks } : {}),
		bridges,
		foilUm,
		strokeAxis: 'y'
	};
}

export interface StudyRow {
	fault: PrintFaultKind | 'none';
	runs: number;
	/** How often each cause was named. */
	named: Record<string, number>;
	/** Runs in which the right cause was among the named. */
	found: number;
	/** Runs in which something else was named as well or instead. */
	others: number;
	reports: SignatureReport[];
}

/** Runs one fault over many seeds and counts what is named. */
export function study(fault: PrintFaultKind | 'none', strength: number, seeds: number, panels = 36, pads = 300, firstSeed = 1): StudyRow {
	const row: StudyRow = { fault, runs: seeds, named: {}, found: 0, others: 0, reports: [] };
	for (let k = 0; k < seeds; k++) {
		const run = studyRun(firstSeed + 7919 * k, panels, pads, fault === 'none' ? [] : [{ kind: fault, strength }]);
		const report = findSignatures(run);
		row.reports.push(report);
		const right = fault === 'none' ? null : CAUSE_OF_FAULT[fault];
		for (const code of new Set(report.signatures.map((s) => s.code))) row.named[code] = (row.named[code] ?? 0) + 1;
		if (right && report.signatures.some((s) => s.code === right)) row.found++;
		if (report.signatures.some((s) => s.code !== right)) row.others++;
	}
	return row;
}
