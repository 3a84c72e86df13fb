import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { setPanel } from '$lib/server/boards/keep-board.ts';

const layout = z.object({
	rows: z.int(),
	columns: z.int(),
	pitchXMm: z.number().min(0).max(600),
	pitchYMm: z.number().min(0).max(600),
	railMm: z.number(),
	fiducials: z
		.array(z.object({ x: z.number(), y: z.number() }))
		.min(2, 'at least two fiducials')
		.max(12)
});

export async function PUT(event) {
	return answer(async () => {
		const person = requireAction(event.locals, 'panel.set');
		await setPanel(person.id, idOf(event.params.id), await readJson(event, layout));
	});
}
