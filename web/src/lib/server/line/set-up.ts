import { error } from '@sveltejs/kit';
import { panelGeometry } from '@keen-relay/core/artwork';
import { idOf, missing } from '../answer.ts';
import { boardSide, released, sideNames } from '../queries/sides.ts';
import { stationsAsOf } from '../queries/stations.ts';
import { lineNow } from './memory.ts';

/** The run that the line's state speaks of: every page of the line means the same one. */
const runNow = async (lineId: number) => (await lineNow(lineId))?.run ?? null;

/** What a station page works on: the side asked for with ?side=, else the one that is running, else the newest.
 * Geometry is left out: pages ask for it once.
 */
export async function setUp(lineId: number, asked: string | null) {
	const run = await runNow(lineId);
	// A side that is looked at beside the run is planned on the machines as they are now.
	const [boards, stations] = await Promise.all([
		sideNames(),
		stationsAsOf(lineId, run && (asked === null || idOf(asked) === run.boardSideId) ? run : null)
	]);
	if (stations.length === 0)
		missing('This line has no station in use, or there is no such line.', '/plant/set-up/lines', 'Lines and machines');
	const sides = boards.map((board) => ({ sideId: board.sideId, label: `${board.name} ${board.revision}, ${board.side}` }));
	const sideId = asked ? idOf(asked) : (run?.boardSideId ?? sides[0]?.sideId);
	const row = sideId === undefined ? undefined : await boardSide(sideId);
	if (asked && !row) error(404, `There is no board side ${asked}.`);
	if (!row) return { sides, side: null, run, stations, ready: { stencil: null, program: null, recipe: null } };
	const { id, name, revision, side: face, widthMm, heightMm, build, panel } = row;
	const side = {
		id,
		name,
		revision,
		side: face,
		widthMm,
		heightMm,
		build,
		panel,
		geometry: panelGeometry(row, panel, face),
		running: run?.boardSideId === id
	};
	return { sides, side, parts: row.parts, run, stations, ready: await released(id, lineId) };
}
