import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { dismissMessage, readmitMessage } from '$lib/server/ingest/quarantine.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Admits a message from quarantine, as it is sent here. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'message.settle');
		await readmitMessage(actor, idOf(event.params.id), (await readJson(event, bodies.readmit)).text);
	});
}

/** Leaves a message out; it stays stored. */
export async function DELETE(event) {
	return answer(async () => dismissMessage(await authorize(event, 'message.settle'), idOf(event.params.id)));
}
