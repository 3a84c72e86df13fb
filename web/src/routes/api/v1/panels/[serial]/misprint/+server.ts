import { reprintDecision } from '@keen-relay/core/printing';
import { bodies } from '$lib/api/bodies.ts';
import { factsOfMisprint, recordMisprint } from '$lib/server/stations/print/print-run.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'misprint.record',
	also: ['misprint.approve'],
	does: 'Takes a misprinted panel off: wash and print again, or what its history asks for. Anything but a plain wash is approved by name.',
	body: bodies.misprint,
	example: { finish: 'other' },
	status: 201,
	run: async ({ actor: records, body: said, part, asking }) => {
		const { facts } = await factsOfMisprint(part('serial'), said);
		const plain = reprintDecision(facts).decision === 'wash_and_reprint';
		const actor = plain ? records : await asking('misprint.approve');
		return recordMisprint(actor, part('serial'), said);
	}
});
