import { readSensorLog, touchedBy, type SensorReport } from '@keen-relay/core/paste';
import { db, type Db, type Trx } from '../../db/index.ts';
import { staysIn, touchedDuring, type Touched } from './touched.ts';

const H = 3_600_000;

/** The latest reading of the room at a line, or anywhere where the line has no sensor of its own; null where none is fresh. */
export async function roomNow(
	nowMs: number,
	lineId: number | null,
	trx: Db | Trx = db
): Promise<{ temperatureC: number; rhPct: number | null; name: string } | null> {
	const rows = await trx
		.selectFrom('sensorReading')
		.innerJoin('sensor', 'sensor.id', 'sensorReading.sensorId')
		.select(['sensor.name', 'sensor.lineId', 'sensorReading.temperatureC', 'sensorReading.rhPct', 'sensorReading.at'])
		.where('sensor.kind', '=', 'room')
		.where('sensorReading.at', '<=', new Date(nowMs))
		.where('sensorReading.at', '>', new Date(nowMs - H / 2))
		.orderBy('sensorReading.at', 'desc')
		.limit(12)
		.execute();
	return rows.find((r) => r.lineId === lineId) ?? rows.find((r) => r.lineId === null) ?? null;
}

export interface SensorNow {
	id: number;
	name: string;
	kind: 'fridge' | 'room' | 'store' | 'cabinet';
	lineId: number | null;
	calibratedOn: string | null;
	everyMin: number;
	lowC: number;
	highC: number;
	lowRhPct: number | null;
	highRhPct: number | null;
	readings: { atMs: number; temperatureC: number; rhPct: number | null }[];
	report: Omit<SensorReport, 'excursions'> & { excursions: (SensorReport['excursions'][number] & { touched: Touched })[] };
}

/** Sensors with their last hours and what was wrong in them. */
export async function sensorsNow(nowMs: number, hours = 24, trx: Db | Trx = db): Promise<SensorNow[]> {
	const sensors = await trx.selectFrom('sensor').selectAll().orderBy('kind').orderBy('id').execute();
	if (sensors.length === 0) return [];
	const rows = await trx
		.selectFrom('sensorReading')
		.selectAll()
		.where('at', '>', new Date(nowMs - hours * H))
		.where('at', '<=', new Date(nowMs))
		.orderBy('at')
		.execute();
	return Promise.all(
		sensors.map(async (s) => {
			const readings = rows
				.filter((r) => r.sensorId === s.id)
				.map((r) => ({ atMs: r.at.getTime(), temperatureC: r.temperatureC, rhPct: r.rhPct }));
			const report = reportOf(s, readings);
			const excursions = await Promise.all(report.excursions.map(async (e) => ({ ...e, touched: await touchedDuring(s, e, trx) })));
			return { ...s, readings, report: { ...report, excursions } };
		})
	);
}

type Limits = Pick<SensorNow, 'kind' | 'lowC' | 'highC' | 'lowRhPct' | 'highRhPct'> & { graceMin: number; everyMin: number };

function reportOf(s: Limits, readings: SensorNow['readings']): SensorReport {
	return readSensorLog(
		readings,
		{
			lowC: s.lowC,
			highC: s.highC,
			graceMin: s.graceMin,
			neverBelowZero: s.kind === 'fridge',
			...(s.lowRhPct === null ? {} : { lowRhPct: s.lowRhPct }),
			...(s.highRhPct === null ? {} : { highRhPct: s.highRhPct })
		},
		Math.max(20, 3 * s.everyMin)
	);
}

/** What a fridge's new readings mean for the jars in it: an excursion puts every jar that it touched in quarantine, once.
 * Called in the transaction that keeps the readings.
 */
export async function holdTouchedJars(trx: Trx, sensorIds: readonly number[], nowMs: number): Promise<void> {
	const fridges = await trx.selectFrom('sensor').selectAll().where('id', 'in', sensorIds).where('kind', '=', 'fridge').execute();
	for (const fridge of fridges) {
		const rows = await trx
			.selectFrom('sensorReading')
			.selectAll()
			.where('sensorId', '=', fridge.id)
			.where('at', '>', new Date(nowMs - 24 * H))
			.orderBy('at')
			.execute();
		const { excursions } = reportOf(
			fridge,
			rows.map((r) => ({ atMs: r.at.getTime(), temperatureC: r.temperatureC, rhPct: r.rhPct }))
		);
		if (excursions.length === 0) continue;
		const stays = await staysIn(trx, fridge.id);
		for (const e of excursions)
			for (const { name: jarId } of touchedBy(e, stays)) {
				// From its begin on: the same excursion, grown longer, holds a jar only once.
				const held = await trx
					.selectFrom('pasteJarEvent')
					.select('id')
					.where('jarId', '=', jarId)
					.where('kind', '=', 'excursion')
					.where('at', '>=', new Date(e.fromMs))
					.where('at', '<=', new Date(e.toMs))
					.executeTakeFirst();
				if (held) continue;
				await trx
					.insertInto('pasteJarEvent')
					.values({
						jarId,
						kind: 'excursion',
						at: new Date(e.toMs),
						enteredAt: new Date(nowMs),
						personId: null,
						source: `Sensors/${fridge.name}`,
						stirred: null,
						byMeans: null,
						grams: null,
						stencilToolId: null,
						lineId: null,
						runId: null,
						airC: e.worst,
						ofEvent: null,
						note: `${e.kind === 'high' ? 'too warm' : e.kind === 'low' ? 'too cold' : 'below freezing'}: ${e.worst.toFixed(1)} °C`
					})
					.execute();
			}
	}
}
