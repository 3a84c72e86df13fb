import { z } from 'zod';
import { answer, readJson } from '$lib/server/answer.ts';
import { sign } from '$lib/server/shift/hand-over.ts';

const body = z.object({
	lineId: z.int(),
	date: z.iso.date(),
	shift: z.string(),
	badge: z.string().min(1, 'scan a badge'),
	pin: z.string().min(1, 'type the PIN')
});

/** Signs in place: the badge and PIN in the body decide who signs, not the session. */
export async function POST(event) {
	return answer(async () => {
		const { lineId, date, shift, badge, pin } = await readJson(event, body);
		await sign(lineId, date, shift, badge, pin);
	});
}
