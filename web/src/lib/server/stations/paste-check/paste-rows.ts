import type { PadClass } from '@keen-relay/core/parts';
import { localParts } from '@keen-relay/core/units';
import type { Trx } from '../../db/index.ts';
import type { Copy } from '../../db/pinned.ts';
import { plantInfo } from '../../plant/settings.ts';
import { insertRows } from '../../db/insert-rows.ts';
import type { ClassSum, PanelReadings, PasteResult } from '@keen-relay/core/inspection';
import { ensureMonth } from '../../db/months.ts';
import { COPY_READINGS, readingsForCopy, type ReadingsRow } from './readings-copy.ts';

/** One inspection of one print that was taken. */
export interface PasteInspection {
	/** Known by the time that it is written. */
	pass: { id: number | null; run: { id: number; boardSideId: number } };
	printAttempt: number;
	inspectionAttempt: number;
	measuredAt: Date;
	result: PasteResult;
	/** null where the unit sent sums only. */
	raw: PanelReadings | null;
}

/** What a panel came to, as it is stored. */
export const summaryOf = ({ result, pads, fails, warnings, meanVolumePct, classes, worst, bridges, offsetUm }: PasteResult) => ({
	result,
	pads,
	fails,
	warnings,
	meanVolumePct,
	classMeans: JSON.stringify(Object.fromEntries(classes.map((c) => [c.padClass, c.sum / c.pads]))),
	worst: JSON.stringify(worst),
	bridges,
	offsetXUm: offsetUm?.x ?? null,
	offsetYUm: offsetUm?.y ?? null
});

/** Writes inspections: what each came to, its readings by COPY, and the sums of the day.
 * @param limitRevision the limits that judged them
 */
export async function writePaste(trx: Trx, copy: Copy, pastes: readonly PasteInspection[], limitRevision: number | null): Promise<void> {
	if (pastes.length === 0) return;
	const keyOf = ({ pass, printAttempt, inspectionAttempt }: PasteInspection) => ({ passId: pass.id!, printAttempt, inspectionAttempt });
	await insertRows(trx, 'pasteSummary', pastes, (p) => ({
		...keyOf(p),
		measuredAt: p.measuredAt,
		limitRevision,
		...summaryOf(p.result),
		classSums: p.raw ? null : JSON.stringify(p.result.classes)
	}));
	await insertRows(
		trx,
		'pasteExtra',
		pastes.filter(({ raw }) => raw && (raw.peakHeightUm || raw.bridgedPads)),
		(p) => ({
			...keyOf(p),
			peakHeight: p.raw!.peakHeightUm?.map((v) => Math.round(v * 10)) ?? null,
			bridgedPads: p.raw!.bridgedPads ?? null
		})
	);
	const rows = pastes.flatMap((p): ReadingsRow[] => {
		if (!p.raw) return [];
		const { volumePct, heightUm, areaPct, offsetXUm, offsetYUm } = p.raw;
		const values: ReadingsRow['values'] = [volumePct, heightUm, areaPct, offsetXUm, offsetYUm];
		return [{ ...keyOf(p), boardSideId: p.pass.run.boardSideId, measuredAt: p.measuredAt, values }];
	});
	for (const month of new Set(rows.map((row) => row.measuredAt.toISOString().slice(0, 7)))) await ensureMonth(trx, month);
	if (rows.length) await copy(COPY_READINGS, readingsForCopy(rows));
	const reports = new Map<number, number>();
	for (const { pass } of pastes) reports.set(pass.run.id, (reports.get(pass.run.id) ?? 0) + 1);
	await countReports(trx, reports);
	await addToDays(
		trx,
		pastes.map((p) => ({ ...p, boardSideId: p.pass.run.boardSideId, classes: p.result.classes, sign: 1 }))
	);
}

/** Counts inspections by run. @param more how many, by run; in one order, so that two batches never wait for each other */
export async function countReports(trx: Trx, more: ReadonlyMap<number, number>): Promise<void> {
	for (const [runId, n] of [...more].sort((a, b) => a[0] - b[0]))
		await trx
			.updateTable('run')
			.set((eb) => ({ pasteReports: eb('pasteReports', '+', n) }))
			.where('id', '=', runId)
			.execute();
}

/** What an inspection adds to the sums of its day. */
interface DayShare {
	boardSideId: number;
	inspectionAttempt: number;
	measuredAt: Date;
	classes: readonly ClassSum[];
	/** −1 takes away what was counted for another side. */
	sign: 1 | -1;
}

/** The sums of a day, by board side and class. */
export async function addToDays(trx: Trx, shares: readonly DayShare[]): Promise<void> {
	const { timeZone } = await plantInfo();
	const days = new Map<string, ClassSum & { boardSideId: number; day: string; padClass: PadClass }>();
	for (const { boardSideId, inspectionAttempt, measuredAt, classes, sign } of shares) {
		// The sums of a day count each print once, however often it was measured.
		if (inspectionAttempt > 1) continue;
		const day = localParts(measuredAt.getTime(), timeZone).date;
		for (const c of classes) {
			const key = `${boardSideId} ${day} ${c.padClass}`;
			const sum = days.get(key) ?? { padClass: c.padClass, pads: 0, fails: 0, sum: 0, sumSquares: 0, boardSideId, day };
			for (const name of ['pads', 'fails', 'sum', 'sumSquares'] as const) sum[name] += sign * c[name];
			days.set(key, sum);
		}
	}
	if (days.size === 0) return;
	// In one order, so that two batches never wait for each other.
	const rows = [...days].sort((a, b) => a[0].localeCompare(b[0])).map(([, row]) => row);
	await trx
		.insertInto('pasteClassDay')
		.values(
			rows.map(({ boardSideId, day, padClass, pads, fails, sum, sumSquares }) => ({
				boardSideId,
				day,
				padClass,
				pads,
				fails,
				sumPct: sum,
				sumSquaresPct: sumSquares
			}))
		)
		.onConflict((conflict) =>
			conflict.columns(['boardSideId', 'day', 'padClass']).doUpdateSet((eb) => ({
				pads: eb('pasteClassDay.pads', '+', eb.ref('excluded.pads')),
				fails: eb('pasteClassDay.fails', '+', eb.ref('excluded.fails')),
				sumPct: eb('pasteClassDay.sumPct', '+', eb.ref('excluded.sumPct')),
				sumSquaresPct: eb('pasteClassDay.sumSquaresPct', '+', eb.ref('excluded.sumSquaresPct'))
			}))
		)
		.execute();
}
