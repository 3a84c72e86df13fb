import loadHighs from 'highs';
import { governingWidth } from '@keen-relay/core/geometry';
import { findSignatures, readPasteTable } from '@keen-relay/core/inspection';
import { exactInterval, seededRandom } from '@keen-relay/core/numerics';
import { jarStatus, PASTE_RULES, pullPlan, type JarEvent, type PullJar, type PullJob } from '@keen-relay/core/paste';
import { fitAlignment, wipeCosts } from '@keen-relay/core/printing';
import { chooseFoil, fitTransfer, forecastOpening, transferEfficiency, websOf } from '@keen-relay/core/stencil';
import { CAUSE_OF_FAULT, LOCAL_FAULTS } from '@keen-relay/devices/fault-causes';
import { PRINT_FAULTS } from '@keen-relay/devices/print-physics';
import { study, studyRun } from '@keen-relay/devices/signature-study';
import { median } from './measure.ts';

export interface Target {
	what: string;
	ms: number;
	targetMs: number;
	/** Measured on this machine, against the target times its slowness. */
	met: boolean;
}

const rectangle = (l: number, w: number, i: number) => ({
	name: `R${i}`,
	areaMm2: l * w,
	perimeterMm: 2 * (l + w),
	widthMm: Math.min(l, w),
	lengthMm: Math.max(l, w)
});

/** Every speed that the print cell promises, on one core. */
export async function printCellSpeeds(slow: number): Promise<Target[]> {
	const random = seededRandom(11);
	const openings = Array.from({ length: 20_000 }, (_, i) => rectangle(0.2 + random.uniform(), 0.2 + 0.5 * random.uniform(), i));
	const drawn = openings.map((o, i) => {
		const [x, y] = [(i % 200) * 1.6, Math.floor(i / 200) * 1.6];
		const [a, b] = [o.lengthMm / 2, o.widthMm / 2];
		return {
			...o,
			shape: 'rectangle',
			centre: { x, y },
			outline: [
				{ x: x - a, y: y - b },
				{ x: x + a, y: y - b },
				{ x: x + a, y: y + b },
				{ x: x - a, y: y + b }
			]
		};
	});
	const stars = Array.from({ length: 500 }, (_, k) => ({
		outline: Array.from({ length: 40 }, (__, i) => {
			const r = 0.5 + 0.15 * Math.sin(5 * (i / 40) * 2 * Math.PI + k) + 0.02 * random.uniform();
			return { x: r * Math.cos((i / 40) * 2 * Math.PI), y: r * Math.sin((i / 40) * 2 * Math.PI) };
		}),
		holes: []
	}));
	const foils = Array.from({ length: 12 }, (_, i) => 0.06 + 0.01 * i);
	const marks = [
		{ x: 20, y: 20 },
		{ x: 220, y: 20 },
		{ x: 220, y: 140 },
		{ x: 20, y: 140 }
	];
	const boards = Array.from({ length: 1000 }, () =>
		marks.map((m) => ({ x: m.x + 0.1 + 0.005 * random.normal(), y: m.y - 0.05 + 0.005 * random.normal() }))
	);
	const groups = Array.from({ length: 300 }, () => {
		const areaRatio = 0.45 + random.uniform();
		return { areaRatio, efficiency: transferEfficiency(areaRatio) + 0.01 * random.normal(), pads: 50 };
	});
	const jar = { id: 'J', lot: 'L', paste: 'P', receivedMs: 0, expiryMs: 1e12, grams: 500 };
	const events = Array.from({ length: 30 }, (_, i): JarEvent => ({
		id: i,
		kind: i === 0 ? 'store_cold' : i === 1 ? 'take_out' : i === 2 ? 'open' : i % 2 ? 'load_stencil' : 'scrape_off',
		// Opened ten hours after it was stored, then on and off the stencil every half hour.
		atMs: (i < 3 ? 5 * i : 10 + 0.5 * (i - 2)) * 3_600_000,
		stirred: true,
		grams: 5
	}));
	const rows = ['panel_no,pad_id,volume_pct,height_um,area_pct,offset_x_um,offset_y_um,peak_height_um,bridge'];
	for (let i = 0; i < 200_000; i++)
		rows.push(`P${Math.floor(i / 2000)},${i % 2000},${(95 + (i % 7)).toFixed(1)},98.4,97.2,${i % 5},-3,110.2,0`);
	const table = rows.join('\n');
	const large = studyRun(5, 40, 5000, []);
	const classes = [{ pads: 480, mean: 88, sigma: 6.5, slope: -0.6, lowestPct: 60 }];
	const list: [string, number, number, () => unknown][] = [
		['ratios and transfer of 20 000 openings', 40, 5, () => openings.forEach((o) => forecastOpening(o, 0.1))],
		['governing width of 500 polygons of 40 corners', 500, 3, () => stars.forEach((s) => governingWidth(s))],
		['webs of 20 000 openings', 400, 3, () => websOf(drawn)],
		['foil choice, 20 000 openings and 12 foils', 100, 3, () => chooseFoil(openings, 'laser', undefined, foils)],
		[
			'100 000 alignments of four marks',
			300,
			3,
			() => Array.from({ length: 100 }, () => boards.forEach((b) => fitAlignment(marks, b, marks[0]!, 116)))
		],
		['transfer fit of 300 sizes', 20, 25, () => fitTransfer(groups)],
		['state of 5 000 jars with 30 events', 100, 9, () => Array.from({ length: 5000 }, () => jarStatus(jar, events, 30 * 3_600_000))],
		['200 000 rows of paste results read and checked', 1000, 3, () => readPasteTable(table)],
		['signatures of 40 panels and 5 000 pads', 1000, 3, () => findSignatures(large)],
		['wipe interval by cost, up to 60 prints', 5, 5, () => wipeCosts(18, 0.015, 0.5, classes)]
	];
	const out: Target[] = [];
	for (const [what, targetMs, runs, work] of list) {
		work();
		const ms = await median(runs, work);
		out.push({ what, ms, targetMs, met: ms <= targetMs * slow });
	}
	return out;
}

/** The fridge plan against the exact optimum of the same integer program, on seeded instances of 40 jobs and 60 jars. */
export async function pullPlans(): Promise<{ worstGapPct: number; slowestMs: number; instances: number }> {
	const H = 3_600_000;
	let [worst, slowest] = [0, 0];
	const instances = 4;
	for (let seed = 1; seed <= instances; seed++) {
		const random = seededRandom(seed);
		let t = 6;
		const jobs = Array.from({ length: 40 }, (_, i): PullJob => {
			const h = 2 + 3 * random.uniform();
			const job = { id: `j${i}`, startMs: t * H, endMs: (t + h) * H, grams: Math.round(60 + 240 * random.uniform()) };
			t += h + random.uniform();
			return job;
		});
		const jars = Array.from({ length: 60 }, (_, i): PullJar => ({
			id: `k${i}`,
			grams: i % 3 === 0 ? 250 : 500,
			expiryMs: (400 + 400 * random.uniform()) * H,
			readyMs: 4 * H,
			openEndsMs: null
		}));
		const began = performance.now();
		const plan = pullPlan(jobs, jars);
		slowest = Math.max(slowest, performance.now() - began);
		const best = await optimum(jobs, jars);
		worst = Math.max(
			worst,
			plan.shortG > 0
				? 100
				: (100 * (plan.discardedG - best)) /
						Math.max(
							best,
							jobs.reduce((s, j) => s + j.grams, 0)
						)
		);
	}
	return { worstGapPct: worst, slowestMs: slowest, instances };
}

/** Least grams thrown away: jars of one size are alike but for their date, so that a count of openings by size, date class and job is enough. */
async function optimum(jobs: readonly PullJob[], jars: readonly PullJar[]): Promise<number> {
	const highs = await loadHighs();
	const life = PASTE_RULES.openLifeH * 3_600_000;
	const sizes = [...new Set(jars.map((j) => j.grams))];
	const kinds = sizes.map((grams) => ({ grams, count: jars.filter((j) => j.grams === grams).length }));
	const last = jobs.map((job, k) => {
		let l = k - 1;
		while (l + 1 < jobs.length && jobs[l + 1]!.endMs <= job.startMs + life) l++;
		return l;
	});
	const open: string[] = [];
	const rows: string[] = [];
	kinds.forEach(({ count }, s) => rows.push(`${jobs.map((_, k) => `n${s}_${k}`).join(' + ')} <= ${count}`));
	jobs.forEach((job, j) => {
		const from = jobs.flatMap((_, k) => (k <= j && last[k]! >= j ? [`x${k}_${j}`] : []));
		rows.push(`${from.join(' + ')} = ${job.grams}`);
	});
	jobs.forEach((_, k) => {
		const served = jobs.flatMap((__, j) => (j >= k && last[k]! >= j ? [`x${k}_${j}`] : []));
		if (served.length) rows.push(`${served.join(' + ')} ${kinds.map(({ grams }, s) => `- ${grams} n${s}_${k}`).join(' ')} <= 0`);
		kinds.forEach((__, s) => open.push(`n${s}_${k}`));
	});
	const goal = kinds.flatMap(({ grams }, s) => jobs.map((_, k) => `${grams} n${s}_${k}`)).join(' + ');
	const lp = `Minimize\n obj: ${goal}\nSubject To\n${rows.map((r, i) => ` c${i}: ${r}`).join('\n')}\nGeneral\n ${open.join(' ')}\nEnd\n`;
	const solved = highs.solve(lp, { time_limit: 60, mip_rel_gap: 0.001 });
	return solved.ObjectiveValue - jobs.reduce((sum, job) => sum + job.grams, 0);
}

/** How often each simulated fault is named, over many seeds, with exact intervals; and whether stated confidences are kept. */
export function signatureStudy(seeds: number, say: (line: string) => void): void {
	const bins = new Map<string, { right: number; all: number }>();
	for (const fault of ['none', ...PRINT_FAULTS] as const) {
		const local = fault !== 'none' && LOCAL_FAULTS.includes(fault);
		const row = study(fault, local ? 1 : 1.5, fault === 'none' ? Math.min(300, seeds) : seeds);
		const hit = fault === 'none' ? row.others : row.found;
		const { low, high } = exactInterval(hit, row.runs);
		const want = fault === 'none' ? 'no alarm' : local ? '>= 90 %' : '>= 95 %';
		const met = fault === 'none' ? hit === 0 : hit / row.runs >= (local ? 0.9 : 0.95);
		say(
			`${fault.padEnd(16)} ${String(hit).padStart(4)} of ${row.runs}  (${(100 * low).toFixed(1)} to ${(100 * high).toFixed(1)} %)  ${want}${met ? '' : ': MISSED'}  named: ${JSON.stringify(row.named)}`
		);
		const right = fault === 'none' ? null : CAUSE_OF_FAULT[fault];
		for (const report of row.reports)
			for (const s of report.signatures) {
				const key = `${Math.floor(10 * s.confidence) * 10} %`;
				const bin = bins.get(key) ?? { right: 0, all: 0 };
				bins.set(key, { right: bin.right + (s.code === right ? 1 : 0), all: bin.all + 1 });
			}
	}
	for (const [key, { right, all }] of [...bins].sort()) {
		const { low, high } = exactInterval(right, all);
		say(`named at ${key} and more: right ${right} of ${all} (${(100 * low).toFixed(1)} to ${(100 * high).toFixed(1)} %)`);
	}
}
