import { specOfRun } from './stations.ts';
import { machineData } from '$lib/stations/index.ts';
import { runsForJudging } from './runs.ts';
import { panelPads, type PanelPad, type SignaturePanel, type SignatureRun } from '@keen-relay/core/inspection';
import { boardSide } from './sides.ts';
import { db } from '../db/index.ts';

interface InspectedPanel extends SignaturePanel {
	passId: number;
	printedAt: Date;
	measuredAt: Date;
}

/** Panels of a run whose pads were measured, in order, with how each was printed. The latest inspection of the latest print counts. */
export async function inspectedPanels(runId: number): Promise<InspectedPanel[]> {
	const rows = await db
		.selectFrom('pasteSummary')
		.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.innerJoin('print', (join) =>
			join.onRef('print.passId', '=', 'panelPass.id').onRef('print.printAttempt', '=', 'pasteSummary.printAttempt')
		)
		.distinctOn('panelPass.id')
		.select([
			'panelPass.id as passId',
			'panel.serial',
			'pasteSummary.measuredAt',
			'print.printedAt',
			'print.stroke',
			'print.printsSinceWipe',
			'print.printsSinceTopup',
			'print.minutesSincePrevious'
		])
		.where('panelPass.runId', '=', runId)
		.orderBy('panelPass.id')
		.orderBy('pasteSummary.printAttempt', 'desc')
		.orderBy('pasteSummary.inspectionAttempt', 'desc')
		.execute();
	rows.sort((a, b) => a.printedAt.getTime() - b.printedAt.getTime());
	const first = rows[0]?.printedAt.getTime() ?? 0;
	return rows.map((r, i) => ({
		passId: r.passId,
		printedAt: r.printedAt,
		measuredAt: r.measuredAt,
		serial: r.serial,
		tMin: (r.printedAt.getTime() - first) / 60_000,
		stroke: r.stroke,
		printsSinceWipe: r.printsSinceWipe,
		printsSinceTopup: r.printsSinceTopup ?? i,
		minutesSincePrevious: r.minutesSincePrevious ?? (i ? (r.printedAt.getTime() - rows[i - 1]!.printedAt.getTime()) / 60_000 : 0)
	}));
}

interface Remembered {
	key: string;
	value: Promise<unknown>;
}

/** What was worked out from a run's panels, by run and name: it holds until another panel comes in. */
const remembered = new Map<string, Remembered>();
const MOST_REMEMBERED = 60;

/** Works something out from a run's inspected panels once, until another inspection is on record.
 * @param name what it is; @param more that it depends on
 */
export async function oncePerPanel<T>(runId: number, name: string, more: string, compute: () => Promise<T>): Promise<T> {
	const run = await db.selectFrom('run').select('pasteReports').where('id', '=', runId).executeTakeFirst();
	const key = `${run?.pasteReports} ${more}`;
	const place = `${runId} ${name}`;
	const known = remembered.get(place);
	if (known?.key === key) return known.value as Promise<T>;
	const entry = { key, value: compute() };
	entry.value.catch(() => remembered.get(place) === entry && remembered.delete(place));
	remembered.delete(place);
	remembered.set(place, entry);
	for (const oldest of remembered.keys()) {
		if (remembered.size <= MOST_REMEMBERED) break;
		remembered.delete(oldest);
	}
	return entry.value;
}

/** The latest panels of a run that passed, with their readings; null where none was kept. */
export async function passedRun(runId: number): Promise<SignatureRun | null> {
	const passed = await db
		.selectFrom('pasteSummary')
		.innerJoin('panelPass', 'panelPass.id', 'pasteSummary.passId')
		.select('passId')
		.where('panelPass.runId', '=', runId)
		.where('pasteSummary.result', '!=', 'reject')
		.execute();
	const good = new Set(passed.map((p) => p.passId));
	return signatureRun(runId, (await inspectedPanels(runId)).filter((p) => good.has(p.passId)).slice(-60));
}

/** Along which axis the blades of a run's printer travel: away from the operator where nothing was entered. */
async function strokeAxisOf(runId: number): Promise<'x' | 'y'> {
	const printer = await db
		.selectFrom('station')
		.innerJoin('run', 'run.lineId', 'station.lineId')
		.select(['station.role', specOfRun.as('spec')])
		.where('run.id', '=', runId)
		.where('station.role', '=', 'print')
		.orderBy(({ eb }) => eb('station.outOfUseAt', 'is', null), 'desc')
		.executeTakeFirst();
	return (printer && machineData(printer, 'print')?.strokeAxis) ?? 'y';
}

/** Readings of some panels of a run as the signatures take them; panels whose pads were not kept are left out. */
export async function signatureRun(
	runId: number,
	panels: readonly InspectedPanel[]
): Promise<(Omit<SignatureRun, 'pads'> & { pads: PanelPad[]; bridgedPads: number[][] }) | null> {
	if (panels.length === 0) return null;
	const run = await runsForJudging(db).where('run.id', '=', runId).executeTakeFirstOrThrow();
	const side = (await boardSide(run.boardSideId))!;
	const { foilUm } = run;
	const pads = panelPads(side, foilUm);
	const n = pads.length;
	const ids = panels.map((p) => p.passId);
	const times = panels.map((p) => p.measuredAt.getTime());
	const [rows, extras] = await Promise.all([
		db
			.selectFrom('pasteReading')
			.select(['passId', 'block', 'volume', 'height', 'area', 'offsetX', 'offsetY'])
			.where('boardSideId', '=', run.boardSideId)
			.where(
				'block',
				'in',
				Array.from({ length: Math.ceil(n / BLOCK_PADS) }, (_, b) => b)
			)
			.where('measuredAt', '>=', new Date(Math.min(...times)))
			.where('measuredAt', '<=', new Date(Math.max(...times)))
			.where('passId', 'in', ids)
			.orderBy('printAttempt')
			.orderBy('inspectionAttempt')
			.execute(),
		db.selectFrom('pasteExtra').selectAll().where('passId', 'in', ids).execute()
	]);
	const measured = new Set(rows.map((r) => r.passId));
	const kept = panels.filter((p) => measured.has(p.passId));
	if (kept.length === 0) return null;
	const at = new Map(kept.map((p, i) => [p.passId, i]));
	const blank = () => new Float32Array(n * kept.length).fill(NaN);
	const out = { volumePct: blank(), heightUm: blank(), areaPct: blank(), offsetXUm: blank(), offsetYUm: blank() };
	for (const r of rows) {
		const from = at.get(r.passId)! * n + r.block * BLOCK_PADS;
		for (let i = 0; i < r.volume.length; i++) {
			out.volumePct[from + i] = r.volume[i]! / 10;
			out.heightUm[from + i] = r.height[i]! / 10;
			out.areaPct[from + i] = r.area[i]! / 10;
			out.offsetXUm[from + i] = r.offsetX[i]!;
			out.offsetYUm[from + i] = r.offsetY[i]!;
		}
	}
	let peaks: Float32Array | null = null;
	const bridgedPads = kept.map((): number[] => []);
	for (const e of extras) {
		const i = at.get(e.passId);
		if (i === undefined) continue;
		bridgedPads[i] = e.bridgedPads ?? [];
		if (!e.peakHeight) continue;
		peaks ??= blank();
		e.peakHeight.forEach((v, p) => (peaks![i * n + p] = v / 10));
	}
	return {
		pads,
		panels: kept,
		...out,
		...(peaks ? { peakHeightUm: peaks } : {}),
		bridges: bridgedPads.map((b) => b.length),
		bridgedPads,
		foilUm,
		strokeAxis: await strokeAxisOf(runId)
	};
}

/** Pads of a block: one row of the readings table. */
export const BLOCK_PADS = 64;
