import { error } from '@sveltejs/kit';
import { kindOf, KINDS } from '$lib/stations/index.ts';
import { idOf } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { stationsOf } from '$lib/server/queries/stations.ts';
import { reportForms } from '$lib/server/stations/forms.ts';

/** What may be typed in a machine's stead: of one station, or of what rides with one (its path instead of a number). */
export async function load({ params }) {
	const lineId = idOf(params.line);
	const stations = await stationsOf(lineId);
	const rider = KINDS.find((kind) => kind.machine === null && kind.path === params.station);
	const station = rider ? null : stations.find((s) => s.id === Number(params.station));
	if (!rider && !station) error(404, 'This line has no such station.');
	const sensors = rider ? await db.selectFrom('sensor').select('name').orderBy('id').execute() : [];
	const role = rider?.role ?? station!.role;
	return {
		lineId,
		stationId: station?.id ?? null,
		name: station?.name ?? rider!.name,
		path: kindOf(role).path,
		sources: sensors.map(({ name }) => `Sensors/${name}`),
		forms: reportForms(role)
	};
}
