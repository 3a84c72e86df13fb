import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson, refuse } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { typeMessage } from '$lib/server/ingest/ingest.ts';
import { authorize } from '$lib/server/people/access.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { MESSAGES } from '$lib/server/stations/index.ts';

/** What a person types in a machine's stead. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'message.type');
		const { stationId, source, type, formId, at, fields } = await readJson(event, bodies.report);
		const kind = MESSAGES.find((m) => m.type === type) ?? refuse('type', type, 'No station says this.');
		const station =
			stationId === null
				? null
				: ((await db
						.selectFrom('station')
						.innerJoin('line', 'line.id', 'station.lineId')
						.select(['station.name', 'station.lineId', 'line.name as line'])
						.where('station.id', '=', stationId)
						.executeTakeFirst()) ?? refuse('stationId', stationId, 'There is no such station.'));
		const from = station ? `${station.line}/${station.name}` : (source ?? refuse('source', '', 'Say which sensor it is from.'));
		const when = at ?? new Date(await plantNow()).toISOString();
		const said = kind.schema.parse({ ...fields, source: from, bootId: formId, number: 0, at: when, type });
		await typeMessage(actor, station?.lineId ?? 0, said as never, kind.words);
		return { taken: true };
	}, 201);
}
