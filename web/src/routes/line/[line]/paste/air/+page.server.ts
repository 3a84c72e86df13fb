import { judgeSensors } from '@keen-relay/core/paste';
import { idOf } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { sensorsNow } from '$lib/server/stations/paste/sensors.ts';

export async function load({ params, depends }) {
	depends('live:paste');
	const lineId = idOf(params.line);
	const nowMs = await plantNow();
	const [sensors, lines] = await Promise.all([
		sensorsNow(nowMs),
		db.selectFrom('line').select(['id', 'name']).where('outOfUseAt', 'is', null).orderBy('id').execute()
	]);
	const { verdict, silent } = judgeSensors(
		sensors.map(({ name, calibratedOn, everyMin, readings, report }) => ({
			name,
			calibrated: calibratedOn !== null,
			everyMin,
			latestMs: readings.at(-1)?.atMs ?? null,
			outside: report.excursions.some((e) => e.open)
		})),
		nowMs
	);
	return {
		lineId,
		nowMs,
		lines,
		verdict,
		sensors: sensors.map((sensor) => ({
			...sensor,
			latest: sensor.readings.at(-1) ?? null,
			outside: sensor.report.excursions.some((e) => e.open),
			silent: silent.includes(sensor.name)
		}))
	};
}
