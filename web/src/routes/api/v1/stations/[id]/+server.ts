import { bodies } from '$lib/api/bodies.ts';
import { setStation } from '$lib/server/line/stations.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'station.set',
	does: 'Corrects a station’s name or machine data, as a revision of its own; startedFrom is the one that the edit began with. Runs keep theirs.',
	body: bodies.stationChange,
	example: { spec: { cycleS: 22 }, startedFrom: 1 },
	run: ({ actor, body, id }) => setStation(actor, id, body)
});
