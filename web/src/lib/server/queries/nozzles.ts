import { db } from '../db/index.ts';

/** Every nozzle that a machine has counted picks of. */
export async function nozzlesNow() {
	const rows = await db
		.selectFrom('nozzle')
		.innerJoin('station', 'station.id', 'nozzle.stationId')
		.innerJoin('line', 'line.id', 'station.lineId')
		.select(['nozzle.stationId', 'nozzle.name', 'nozzle.picks', 'nozzle.lost', 'nozzle.caredPicks', 'nozzle.caredAt'])
		.select(['station.name as station', 'line.name as line', 'line.id as lineId'])
		.execute();
	const order = new Intl.Collator('en', { numeric: true });
	return rows.sort((a, b) => order.compare(`${a.line} ${a.station} ${a.name}`, `${b.line} ${b.station} ${b.name}`));
}
