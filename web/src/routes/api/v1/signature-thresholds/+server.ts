import type { SignatureThresholds } from '@keen-relay/core/inspection';
import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { keepThresholds } from '$lib/server/stations/paste-check/thresholds.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Keeps a new revision of the thresholds that causes are named by. */
export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'signature.tune');
		const { thresholds, note, startedFrom } = await readJson(event, bodies.signatureThresholds);
		return keepThresholds(actor, thresholds as SignatureThresholds, note, startedFrom);
	});
}
