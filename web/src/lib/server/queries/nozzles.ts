import { usedNozzles, type LinePlan } from '@keen-relay/core/balance';
import { db } from '../db/index.ts';

/** Every nozzle that a machine has counted picks of. */
export async function nozzlesNow() {
	const rows = await db
		.selectFrom('nozzle')
		.innerJoin('station', 'station.id', 'nozzle.stationId')
		.innerJoin('line', 'line.id', 'station.lineId')
		.select([
			'nozzle.stationId',
			'nozzle.name',
			'nozzle.picks',
			'nozzle.lost',
			'nozzle.caredPicks',
			'nozzle.caredAt',
			'nozzle.outOfService'
		])
		.select(['station.name as station', 'line.name as line', 'line.id as lineId'])
		.execute();
	const order = new Intl.Collator('en', { numeric: true });
	return rows.sort((a, b) => order.compare(`${a.line} ${a.station} ${a.name}`, `${b.line} ${b.station} ${b.name}`));
}

/** Nozzles out of service with which a program places on a line. */
export async function nozzlesOut(lineId: number, plan: Pick<LinePlan, 'machines'>) {
	const rows = await db
		.selectFrom('nozzle')
		.innerJoin('station', 'station.id', 'nozzle.stationId')
		.select(['nozzle.stationId', 'nozzle.name', 'nozzle.outOfService', 'station.name as station'])
		.where('station.lineId', '=', lineId)
		.where('nozzle.outOfService', 'is not', null)
		.orderBy('nozzle.stationId')
		.orderBy('nozzle.name')
		.execute();
	return rows.flatMap(({ stationId, name, outOfService, station }) => {
		const machine = plan.machines.find((m) => m.machine === station);
		if (!machine || usedNozzles(machine)?.has(name) === false) return [];
		return [{ stationId, station, name, why: outOfService!, where: `/place/${stationId}/picks` }];
	});
}
