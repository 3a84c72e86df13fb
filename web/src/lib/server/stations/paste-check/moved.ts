import { judgeReadings, wrongLength, type PanelReadings } from '@keen-relay/core/inspection';
import { sql } from 'kysely';
import type { Trx } from '../../db/index.ts';
import { runsForJudging } from '../../queries/runs.ts';
import { boardPads } from '../../queries/sides.ts';
import type { MovedRow } from '../module.ts';
import { limitsOfRevision } from './limits.ts';
import { summaryOf } from './paste-rows.ts';

/** Takes the readings along with an inspection that is of another pass, and judges them by the foil and the pads of that one; the limits stay the ones that
 * judged it. Where the readings cannot be of that side it stays as it was judged.
 */
export async function movedPaste(trx: Trx, rows: readonly MovedRow[]): Promise<void> {
	for (const { from, to, at, key } of rows) {
		const [print, inspection] = [key.print_attempt!, key.inspection_attempt!];
		const run = await runsForJudging(trx)
			.innerJoin('panelPass', 'panelPass.runId', 'run.id')
			.where('panelPass.id', '=', to)
			.executeTakeFirstOrThrow();
		await sql`update paste_extra set pass_id = ${to}
			where pass_id = ${from} and print_attempt = ${print} and inspection_attempt = ${inspection}`.execute(trx);
		const { rows: blocks } = await sql<{ block: number; volume: number[]; height: number[]; area: number[]; x: number[]; y: number[] }>`
			update paste_reading set pass_id = ${to}, board_side_id = ${run.boardSideId}
			where pass_id = ${from} and measured_at = ${at} and print_attempt = ${print} and inspection_attempt = ${inspection}
			returning block, volume, height, area, offset_x as x, offset_y as y`.execute(trx);
		if (blocks.length === 0) continue;
		blocks.sort((a, b) => a.block - b.block);
		const extra = await trx
			.selectFrom('pasteExtra')
			.select(['peakHeight', 'bridgedPads'])
			.where('passId', '=', to)
			.where('printAttempt', '=', print)
			.where('inspectionAttempt', '=', inspection)
			.executeTakeFirst();
		const all = (name: 'volume' | 'height' | 'area' | 'x' | 'y', scale: number) => blocks.flatMap((b) => b[name].map((v) => v / scale));
		const readings: PanelReadings = {
			volumePct: all('volume', 10),
			heightUm: all('height', 10),
			areaPct: all('area', 10),
			offsetXUm: all('x', 1),
			offsetYUm: all('y', 1),
			peakHeightUm: extra?.peakHeight?.map((v) => v / 10),
			bridgedPads: extra?.bridgedPads ?? undefined
		};
		const side = await boardPads(trx, run.boardSideId);
		if (wrongLength(readings, side)) continue;
		const { limitRevision } = await trx
			.selectFrom('pasteSummary')
			.select('limitRevision')
			.where('passId', '=', to)
			.where('printAttempt', '=', print)
			.where('inspectionAttempt', '=', inspection)
			.executeTakeFirstOrThrow();
		const result = judgeReadings(readings, side, run.foilUm, await limitsOfRevision(limitRevision));
		await trx
			.updateTable('pasteSummary')
			.set(summaryOf(result))
			.where('passId', '=', to)
			.where('printAttempt', '=', print)
			.where('inspectionAttempt', '=', inspection)
			.execute();
	}
}
