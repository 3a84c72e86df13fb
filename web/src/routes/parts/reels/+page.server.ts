import { db } from '$lib/server/db/index.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { reelsNow } from '$lib/server/queries/reels.ts';

/** Every reel that is there, and all that happened to the one that is open. */
export async function load({ depends, url }) {
	depends('live:parts', 'live:results');
	const nowMs = await plantNow();
	const reels = await reelsNow(nowMs);
	const asked = url.searchParams.get('reel')?.toLowerCase();
	const chosen = reels.find((r) => r.code.toLowerCase() === asked) ?? null;
	const [story, scans, stations] = await Promise.all([
		chosen
			? db
					.selectFrom('reelEvent')
					.innerJoin('user', 'user.id', 'reelEvent.personId')
					.select([
						'reelEvent.id',
						'reelEvent.kind',
						'reelEvent.at',
						'reelEvent.pieces',
						'reelEvent.rhPct',
						'reelEvent.place',
						'reelEvent.note',
						'user.name as by'
					])
					.where('reel', '=', chosen.code)
					.orderBy('at', 'desc')
					.execute()
			: [],
		chosen
			? db
					.selectFrom('feederScan')
					.innerJoin('user', 'user.id', 'feederScan.personId')
					.leftJoin('station', 'station.id', 'feederScan.stationId')
					.select([
						'feederScan.id',
						'feederScan.at',
						'feederScan.words',
						'feederScan.ok',
						'feederScan.slot',
						'station.name as station',
						'user.name as by'
					])
					.where('reel', '=', chosen.code)
					.orderBy('at', 'desc')
					.limit(100)
					.execute()
			: [],
		db
			.selectFrom('station')
			.innerJoin('line', 'line.id', 'station.lineId')
			.select(['station.id', 'station.name', 'station.lineId', 'line.name as line'])
			.execute()
	]);
	const places = new Map(stations.map((s) => [s.id, s]));
	return {
		reels: reels.map((reel) => ({ ...reel, at: (reel.feeder?.stationId ? places.get(reel.feeder.stationId) : null) ?? null })),
		asked: chosen?.code ?? null,
		story,
		scans
	};
}
