import { db } from '$lib/server/db/index.ts';

/** Feeders with what is in them and where they stand. */
export async function load({ depends }) {
	depends('live:parts');
	return {
		feeders: await db
			.selectFrom('feeder')
			.leftJoin('reel', 'reel.code', 'feeder.reel')
			.leftJoin('station', 'station.id', 'feeder.stationId')
			.leftJoin('line', 'line.id', 'station.lineId')
			.select([
				'feeder.code',
				'feeder.tapeMm',
				'feeder.pitchMm',
				'feeder.reel',
				'feeder.slot',
				'feeder.stationId',
				'feeder.outOfService',
				'reel.partNumber',
				'station.name as station',
				'line.name as line',
				'line.id as lineId',
				({ selectFrom }) =>
					selectFrom('feederScan')
						.select(({ fn }) => fn.countAll<number>().as('n'))
						.whereRef('feederScan.feeder', '=', 'feeder.code')
						.where('feederScan.ok', '=', true)
						.as('scans')
			])
			.orderBy('feeder.code')
			.execute()
	};
}
