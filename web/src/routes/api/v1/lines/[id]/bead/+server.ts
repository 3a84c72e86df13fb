import { plantNow } from '$lib/server/plant/clock.ts';
import { beadNow, lineOf } from '$lib/server/queries/bead.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'What lies on the stencil of a line: jars, lots, grams, and when its oldest paste is past its life.',
	run: async ({ id }) => {
		const nowMs = await plantNow();
		const line = await lineOf(id, nowMs);
		const { grams, lots, oldestEndsMs } = beadNow(line, nowMs);
		return { jars: [...new Set(line.portions.map((p) => p.jar))], lots, grams, paste: line.beadPaste || null, oldestEndsMs };
	}
});
