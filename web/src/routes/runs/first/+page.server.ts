import { firstBoardOf } from '$lib/server/line/first-board.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { boardSide } from '$lib/server/queries/sides.ts';

/** The first board of the run of the chosen line, line by line. */
export async function load({ depends, parent }) {
	depends('live:runs', 'live:line', 'live:boards', 'live:paste', 'live:parts', 'live:results');
	const { line } = await parent();
	const run = line?.run ?? null;
	if (!line || !run) return { run: null, lineId: line?.id ?? null, first: null, side: null };
	const [first, side] = await Promise.all([firstBoardOf(run, line.id, await plantNow()), boardSide(run.boardSideId)]);
	return { run, lineId: line.id, first, side: side && { id: side.id, side: side.side, panel: side.panel } };
}
