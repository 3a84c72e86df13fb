import { bodies } from '$lib/api/bodies.ts';
import { answer, idOf, readJson } from '$lib/server/answer.ts';
import { setPanel } from '$lib/server/boards/keep-board.ts';
import { authorize } from '$lib/server/people/access.ts';

export async function PUT(event) {
	return answer(async () => {
		const actor = await authorize(event, 'panel.set');
		const { free, ...layout } = await readJson(event, bodies.panel);
		return setPanel(actor, idOf(event.params.id), free ? { ...layout, free } : layout);
	});
}
