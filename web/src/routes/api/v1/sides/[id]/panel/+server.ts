import { bodies } from '$lib/api/bodies.ts';
import { setPanel } from '$lib/server/boards/keep-board.ts';
import { route } from '$lib/server/route.ts';

const LAYOUT = {
	rows: 2,
	columns: 2,
	pitchXMm: 54,
	pitchYMm: 40,
	railMm: 6,
	fiducials: [
		{ x: 3, y: 3 },
		{ x: 115, y: 3 }
	]
};

export const PUT = route({
	who: 'panel.set',
	does: 'Sets the panel of a board, both sides.',
	body: bodies.panel,
	example: { startedFrom: 1, ...LAYOUT },
	run: ({ actor, body: { free, startedFrom, ...layout }, id }) => setPanel(actor, id, free ? { ...layout, free } : layout, startedFrom)
});
