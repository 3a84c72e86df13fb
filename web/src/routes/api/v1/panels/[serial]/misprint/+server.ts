import { reprintDecision } from '@keen-relay/core/printing';
import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { factsOfMisprint, recordMisprint } from '$lib/server/stations/print/print-run.ts';

/** Takes a misprinted panel off: wash and print again, or what else its history asks for. Anything but a plain wash is approved by name. */
export async function POST(event) {
	return answer(async () => {
		const records = await authorize(event, 'misprint.record');
		const said = await readJson(event, bodies.misprint);
		const { facts } = await factsOfMisprint(event.params.serial, said);
		const plain = reprintDecision(facts).decision === 'wash_and_reprint';
		const actor = plain ? records : await authorize(event, 'misprint.approve');
		return recordMisprint(actor, event.params.serial, said);
	}, 201);
}
