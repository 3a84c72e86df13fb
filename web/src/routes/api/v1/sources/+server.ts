import { bodies } from '$lib/api/bodies.ts';
import { matchSource, sources } from '$lib/server/ingest/quarantine.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Sources of messages with their counts, and the station that each is.',
	run: () => sources()
});

export const PUT = route({
	who: 'station.set',
	does: 'Says which station a source is that names itself otherwise; what was kept aside for that is taken.',
	body: bodies.sourceMatch,
	example: { source: 'PRINTER-07', stationId: 2 },
	run: ({ actor, body }) => matchSource(actor, body.source, body.stationId)
});
