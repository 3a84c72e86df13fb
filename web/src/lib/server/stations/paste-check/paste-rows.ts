import { sql } from 'kysely';
import type { Trx } from '../../db/index.ts';
import type { Copy } from '../../db/pinned.ts';
import { insertRows } from '../../db/insert-rows.ts';
import type { PanelReadings, PasteResult } from '@keen-relay/core/inspection';
import { COPY_READINGS, readingsForCopy, type ReadingsRow } from './readings-copy.ts';

/** One inspection of one print that was taken. */
export interface PasteInspection {
	/** Known by the time that it is written. */
	pass: { id: number | null; run: { boardSideId: number } };
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

/** Writes inspections: what each came to and its readings by COPY.
 * @param limitRevision the limits that judged them
 */
export async function writePaste(trx: Trx, copy: Copy, pastes: readonly PasteInspection[], limitRevision: number | null): Promise<void> {
	if (pastes.length === 0) return;
	const keyOf = ({ pass, printAttempt, inspectionAttempt }: PasteInspection) => ({ passId: pass.id!, printAttempt, inspectionAttempt });
	await insertRows(trx, 'pasteSummary', pastes, (p) => ({
		...keyOf(p),
		measuredAt: p.measuredAt,
		limitRevision,
		...summaryOf(p.result)
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
}

const months = new Set<string>();

/** Makes the partition of a month when the first reading falls into it. */
async function ensureMonth(trx: Trx, month: string): Promise<void> {
	if (months.has(month)) return;
	const from = new Date(`${month}-01T00:00:00Z`);
	const to = new Date(Date.UTC(from.getUTCFullYear(), from.getUTCMonth() + 1, 1));
	const name = `paste_reading_${month.replace('-', '_')}`;
	const known = await sql<{ exists: boolean }>`select to_regclass(${name}) is not null as exists`.execute(trx);
	if (known.rows[0]?.exists) {
		months.add(month);
		return;
	}
	await sql`create table if not exists ${sql.table(name)} partition of paste_reading
		for values from (${sql.lit(from.toISOString())}) to (${sql.lit(to.toISOString())})`.execute(trx);
}
