import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { writeNote } from '$lib/server/shift/hand-over.ts';

const body = z.object({ lineId: z.int(), date: z.iso.date(), shift: z.string(), note: z.string().max(4000) });

export async function PUT(event) {
	return answer(async () => {
		const person = requireAction(event.locals, 'handOver.write');
		const { lineId, date, shift, note } = await readJson(event, body);
		await writeNote(person.id, lineId, date, shift, note);
	});
}
