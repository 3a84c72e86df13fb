import { sql } from 'kysely';
import { insertRows } from '../../db/insert-rows.ts';
import type { BatchFacts, Taker } from '../module.ts';
import type { SensorMessage } from './messages.ts';
import { holdTouchedJars } from './sensors.ts';

/** Readings of sensors; jars that an excursion touched are held at once. */
export function sensorTaker({ trx }: BatchFacts): Taker<SensorMessage> {
	/** Id by "Sensors/name". */
	const sensors = new Map<string, number>();
	const taken = new Set<string>();
	const readings: { sensorId: number; at: Date; temperatureC: number; rhPct: number | null }[] = [];
	return {
		async read(messages) {
			for (const { id, name } of await trx.selectFrom('sensor').select(['id', 'name']).execute()) sensors.set(`Sensors/${name}`, id);
			const known = await sql<{ id: number; at: Date }>`select sensor_id as id, at from sensor_reading
				where at = any(${[...new Set(messages.map((m) => m.at))].map((at) => new Date(at))})`.execute(trx);
			for (const { id, at } of known.rows) taken.add(`${id} ${at.getTime()}`);
		},
		take(m) {
			const sensor = sensors.get(m.source);
			if (!sensor) return `unknown sensor "${m.source}": it is "Sensors/" and the sensor's name`;
			const key = `${sensor} ${Date.parse(m.at)}`;
			if (taken.has(key)) return `${m.source} has a reading of that moment already`;
			taken.add(key);
			readings.push({ sensorId: sensor, at: new Date(m.at), temperatureC: m.temperatureC, rhPct: m.rhPct ?? null });
			return null;
		},
		async write() {
			if (readings.length === 0) return;
			await insertRows(trx, 'sensorReading', readings, (r) => r);
			const latest = Math.max(...readings.map((r) => r.at.getTime()));
			await holdTouchedJars(trx, [...new Set(readings.map((r) => r.sensorId))], latest);
		}
	};
}
