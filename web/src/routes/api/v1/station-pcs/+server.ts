import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { createStationPc } from '$lib/server/people/station-pc.ts';

/** Signs the browser that asks in as a station PC. */
export async function POST(event) {
	return answer(async () => {
		const lead = await authorize(event, 'stationPc.create');
		const { name, lineId } = await readJson(event, bodies.stationPc);
		return createStationPc(lead, event.cookies, name, lineId);
	}, 201);
}
