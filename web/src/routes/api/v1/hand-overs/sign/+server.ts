import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { addressOf } from '$lib/server/people/access.ts';
import { sign } from '$lib/server/shift/hand-over.ts';

/** Signs in place: the badge and PIN in the body decide who signs, not the session. */
export async function POST(event) {
	return answer(async () => {
		const { lineId, date, shift, badge, pin } = await readJson(event, bodies.signature);
		await sign(lineId, date, shift, badge, pin, addressOf(event), event.locals.stationPc?.name ?? null);
	});
}
