import { db } from '../../db/index.ts';
import type { StoryPart } from '../story.ts';

/** Where a panel was placed, and the reels that were loaded then: the latest load of each slot before that moment. */
export async function placeStory({ id, runId }: { id: number; runId: number }): Promise<StoryPart> {
	const [placements, reels] = await Promise.all([
		db
			.selectFrom('placementReport')
			.innerJoin('station', 'station.id', 'placementReport.stationId')
			.select(['station.name', 'placementReport.placedAt', 'placementReport.cycleS', 'placementReport.lost'])
			.where('passId', '=', id)
			.orderBy('placedAt')
			.execute(),
		db
			.selectFrom('feederLoad')
			.innerJoin('placementReport', 'placementReport.stationId', 'feederLoad.stationId')
			.innerJoin('station', 'station.id', 'feederLoad.stationId')
			.distinctOn(['feederLoad.stationId', 'feederLoad.slot'])
			.select(['station.name as station', 'feederLoad.slot', 'feederLoad.partNumber', 'feederLoad.reel', 'feederLoad.makerLot'])
			.where('feederLoad.runId', '=', runId)
			.where('placementReport.passId', '=', id)
			.whereRef('feederLoad.loadedAt', '<=', 'placementReport.placedAt')
			.orderBy('feederLoad.stationId')
			.orderBy('feederLoad.slot')
			.orderBy('feederLoad.loadedAt', 'desc')
			.execute()
	]);
	return {
		lines: placements.map((p) => ({
			at: p.placedAt,
			what: p.name,
			level: null,
			text: `${p.cycleS.toFixed(1)} s, ${lostWords(Object.values(p.lost).reduce((a, b) => a + b, 0))}`,
			notes: []
		})),
		used: [
			{
				title: 'Reels that fed it',
				columns: ['Placer', 'Slot', 'Part', 'Reel', 'Lot'],
				rows: reels.map((r) => [r.station, String(r.slot), r.partNumber, r.reel, r.makerLot]),
				none: 'Not placed yet.'
			}
		]
	};
}

const lostWords = (n: number): string => `${n} ${n === 1 ? 'pick' : 'picks'} lost`;
