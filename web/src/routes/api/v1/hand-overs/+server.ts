import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { writeNote } from '$lib/server/shift/hand-over.ts';

export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'handOver.write');
		const { lineId, date, shift, note, startedFrom } = await readJson(event, bodies.handOver);
		return writeNote(actor, lineId, date, shift, note, startedFrom);
	});
}
