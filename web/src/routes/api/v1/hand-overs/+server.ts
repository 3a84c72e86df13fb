import { bodies } from '$lib/api/bodies.ts';
import { writeNote } from '$lib/server/shift/hand-over.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'handOver.write',
	does: 'Writes the note of a shift.',
	body: bodies.handOver,
	example: { lineId: 1, date: '2026-11-25', shift: 'Early', note: 'Watch U3.' },
	run: ({ actor, body: { lineId, date, shift, note, startedFrom } }) => writeNote(actor, lineId, date, shift, note, startedFrom)
});
