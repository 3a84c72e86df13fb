import { bodies } from '$lib/api/bodies.ts';
import { refuse } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { typeMessage } from '$lib/server/ingest/ingest.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { MESSAGES } from '$lib/server/stations/index.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'message.type',
	does: 'A message typed by a person in a machine’s stead: the same gate, with who typed it.',
	body: bodies.report,
	example: {
		stationId: 2,
		type: 'state',
		formId: '6f3a1c0e-7b0f-4c57-9a57-0c9d3e1f2a45',
		fields: { state: 'stopped', reason: 'panel jam' }
	},
	status: 201,
	run: async ({ actor, body: { stationId, source, type, formId, at, fields } }) => {
		const kind = MESSAGES.find((m) => m.type === type) ?? refuse('type', type, 'No station says this.');
		const station =
			stationId === null
				? null
				: ((await db
						.selectFrom('station')
						.innerJoin('line', 'line.id', 'station.lineId')
						.select(['station.name', 'station.lineId', 'line.name as line'])
						.where('station.id', '=', stationId)
						.where('station.outOfUseAt', 'is', null)
						.executeTakeFirst()) ?? refuse('stationId', stationId, 'There is no such station in use.'));
		const from = station ? `${station.line}/${station.name}` : (source ?? refuse('source', '', 'Say which sensor it is from.'));
		const when = at ?? new Date(await plantNow()).toISOString();
		const said = kind.schema.parse({ ...fields, source: from, bootId: formId, number: 0, at: when, type });
		await typeMessage(actor, station?.lineId ?? 0, said as never, kind.words);
		return { taken: true };
	}
});
