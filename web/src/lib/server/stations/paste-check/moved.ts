import { judgeReadings, wrongLength, type PanelReadings } from '@keen-relay/core/inspection';
import type { CameTo } from '@keen-relay/core/trace';
import type { Trx } from '../../db/index.ts';
import { runsForJudging } from '../../queries/runs.ts';
import { boardPads } from '../../queries/sides.ts';
import type { MovedRow } from '../module.ts';
import { limitsOfRevision } from './limits.ts';
import { addToDays, countReports, summaryOf } from './paste-rows.ts';

/** Takes the readings along with an inspection that is of another pass, and judges them by the foil and the pads of that one; the limits stay the ones that
 * judged it. Readings that cannot be of that side stay as they were judged.
 */
export async function movedPaste(trx: Trx, rows: readonly MovedRow[]): Promise<{ shown: CameTo; judged: CameTo }[]> {
	const came: { shown: CameTo; judged: CameTo }[] = [];
	for (const { from, to, at, key } of rows) {
		const id = { passId: to, printAttempt: key.print_attempt!, inspectionAttempt: key.inspection_attempt! };
		const [before, now] = [await runOf(trx, from), await runOf(trx, to)];
		await countReports(trx, new Map([before, now].map((run) => [run.id, 1])));
		const readings = await takeAlong(trx, from, id, at, now.boardSideId);
		const { limitRevision, classSums, ...shown } = await trx
			.selectFrom('pasteSummary')
			.select(['limitRevision', 'classSums', 'result', 'fails', 'pads'])
			.where((eb) => eb.and(id))
			.executeTakeFirstOrThrow();
		if (before.boardSideId === now.boardSideId && before.foilUm === now.foilUm) {
			came.push({ shown, judged: shown });
			continue;
		}
		const limits = await limitsOfRevision(limitRevision);
		const judged = async (run: typeof now) => {
			const side = await boardPads(trx, run.boardSideId);
			return readings && !wrongLength(readings, side) ? judgeReadings(readings, side, run.foilUm, limits) : null;
		};
		const [was, is] = [await judged(before), await judged(now)];
		if (is)
			await trx
				.updateTable('pasteSummary')
				.set(summaryOf(is))
				.where((eb) => eb.and(id))
				.execute();
		came.push({ shown, judged: is ?? shown });
		const share = (run: typeof now, classes = classSums ?? [], sign: 1 | -1) => ({
			...{ boardSideId: run.boardSideId, inspectionAttempt: id.inspectionAttempt, measuredAt: at, classes, sign }
		});
		await addToDays(trx, [share(before, was?.classes, -1), share(now, (is ?? was)?.classes, 1)]);
	}
	return came.map(({ shown, judged: { result, fails, pads } }) => ({ shown, judged: { result, fails, pads } }));
}

const runOf = (trx: Trx, passId: number) =>
	runsForJudging(trx).innerJoin('panelPass', 'panelPass.runId', 'run.id').where('panelPass.id', '=', passId).executeTakeFirstOrThrow();

/** Puts what else is kept of an inspection with its new pass.
 * @returns its readings; null where only sums were sent
 */
async function takeAlong(
	trx: Trx,
	from: number,
	to: { passId: number; printAttempt: number; inspectionAttempt: number },
	at: Date,
	boardSideId: number
): Promise<PanelReadings | null> {
	const own = { passId: from, printAttempt: to.printAttempt, inspectionAttempt: to.inspectionAttempt };
	const extra = await trx
		.updateTable('pasteExtra')
		.set({ passId: to.passId })
		.where((eb) => eb.and(own))
		.returning(['peakHeight', 'bridgedPads'])
		.executeTakeFirst();
	const blocks = await trx
		.updateTable('pasteReading')
		.set({ passId: to.passId, boardSideId })
		.where((eb) => eb.and({ ...own, measuredAt: at }))
		.returning(['block', 'volume', 'height', 'area', 'offsetX', 'offsetY'])
		.execute();
	if (blocks.length === 0) return null;
	blocks.sort((a, b) => a.block - b.block);
	const all = (name: 'volume' | 'height' | 'area' | 'offsetX' | 'offsetY', scale: number) =>
		blocks.flatMap((b) => b[name].map((v) => v / scale));
	return {
		volumePct: all('volume', 10),
		heightUm: all('height', 10),
		areaPct: all('area', 10),
		offsetXUm: all('offsetX', 1),
		offsetYUm: all('offsetY', 1),
		peakHeightUm: extra?.peakHeight?.map((v) => v / 10),
		bridgedPads: extra?.bridgedPads ?? undefined
	};
}
