import { panelGeometry } from '@keen-relay/core/artwork';
import { piecesLeft } from '@keen-relay/core/feeders';
import { boardSide } from '../db/boards.ts';
import { db } from '../db/index.ts';
import { reels } from '../db/results.ts';
import { currentRun, drainingRun, waitingPanels } from './start-run.ts';

/** Everything that the machines of a line need to build the run that is on, as plain data; null where the line is idle and empty.
 * A run that was ended while panels stood on the line is given once more, so that a machine that starts again takes them on.
 */
export async function workOf(lineId: number) {
	const run = (await currentRun(lineId)) ?? (await drainingRun(lineId));
	if (!run) return null;
	const side = await boardSide(run.boardSideId);
	if (!side) return null;
	const panel = panelGeometry(side, side.panel, side.side);
	const [loadedReels, onLine, waiting] = await Promise.all([
		reels(run.id),
		panelsOnLine(run.id),
		run.secondPass ? waitingPanels(run.jobId, run.boardSideId) : []
	]);
	const loaded = new Map(loadedReels.map((reel) => [`${reel.station}/${reel.slot}`, reel]));
	/** Pieces that a slot's reel still holds; null where none was loaded in this run. */
	const leftAt = (machine: string, slot: number, perPanel: number) => {
		const reel = loaded.get(`${machine}/${slot}`);
		return reel ? piecesLeft(reel, perPanel) : null;
	};
	return {
		runId: run.id,
		job: run.number,
		side: run.side,
		panels: run.panels,
		printed: run.printed,
		ended: run.endedAt !== null,
		/** Serials for a second pass, in order; null where the printer opens new panels. */
		serials: run.secondPass ? waiting.map((w) => w.serial) : null,
		/** Panels between the machines, with the station that reported them last: a line that starts again puts them back there. */
		onLine,
		foilUm: run.foilUm,
		circuits: panel.origins.length,
		panel: { widthMm: panel.widthMm, heightMm: panel.heightMm, origins: panel.origins },
		/** Openings of one circuit in their stable order; readings come circuit by circuit. */
		pads: side.apertures.map((a) => ({
			xMm: a.centre.x,
			yMm: a.centre.y,
			areaMm2: a.areaMm2,
			perimeterMm: a.perimeterMm,
			padClass: a.padClass,
			refDes: a.refDes
		})),
		parts: side.parts.filter((part) => part.fitted).map(({ refDes, packageName, partNumber }) => ({ refDes, packageName, partNumber })),
		machines: run.plan.machines.map((machine) => ({
			name: machine.machine,
			cycleS: machine.totalS,
			feeders: machine.loadList.map(({ slot, partNumber, perPanel, supply }) => ({
				slot,
				partNumber,
				perPanel,
				reelPieces: supply.pieces,
				left: leftAt(machine.machine, slot, perPanel)
			}))
		})),
		recipe: run.recipe
	};
}

function panelsOnLine(runId: number) {
	return db
		.selectFrom('panelPass')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.innerJoin('station', 'station.id', 'panelPass.stationId')
		.select(['panel.serial', 'station.name as after'])
		.where('panelPass.runId', '=', runId)
		.where('panelPass.finishedAt', 'is', null)
		.orderBy('panelPass.printedAt')
		.execute();
}
