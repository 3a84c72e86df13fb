import { SIGNATURE_THRESHOLDS } from '@keen-relay/core/inspection';
import type { SignatureThresholds } from '@keen-relay/core/inspection';
import { bodies } from '$lib/api/bodies.ts';
import { keepThresholds } from '$lib/server/stations/paste-check/thresholds.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'signature.tune',
	does: 'Keeps a new revision of the thresholds that causes are named by.',
	body: bodies.signatureThresholds,
	example: { thresholds: SIGNATURE_THRESHOLDS, note: 'as the model starts' },
	run: ({ actor, body: { thresholds, note, startedFrom } }) => keepThresholds(actor, thresholds as SignatureThresholds, note, startedFrom)
});
