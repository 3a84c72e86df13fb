import { PASTE_RULES } from '@keen-relay/core/paste';
import { db } from '$lib/server/db/index.ts';
import { plantNow } from '$lib/server/line/clock.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { sensorsNow } from '$lib/server/paste/sensors.ts';

export async function load({ params, url, depends }) {
	depends('live:paste');
	const [{ station, lineId }, nowMs] = await Promise.all([stationPage(params.line, 'print', url), plantNow()]);
	const [pastes, sensors, lines] = await Promise.all([
		db.selectFrom('paste').selectAll().orderBy('name').execute(),
		sensorsNow(nowMs),
		db.selectFrom('line').select(['id', 'name']).orderBy('id').execute()
	]);
	return {
		station,
		lineId,
		lines,
		common: PASTE_RULES,
		pastes: pastes.map(({ window: _, ...paste }) => paste),
		sensors: sensors.map(({ readings, report, ...sensor }) => ({
			...sensor,
			latest: readings.at(-1) ?? null,
			outside: report.excursions.some((e) => e.open),
			silent: nowMs - (readings.at(-1)?.atMs ?? 0) > Math.max(20, 3 * sensor.everyMin) * 60_000
		}))
	};
}
