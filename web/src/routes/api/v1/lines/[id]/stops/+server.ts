import { z } from 'zod';
import { answer, idOf } from '$lib/server/answer.ts';
import { stopsOf } from '$lib/server/queries/stops.ts';

const span = z.object({ from: z.iso.datetime({ offset: true }), to: z.iso.datetime({ offset: true }) });

/** Stops of a line between two times, with the machine's reason and a person's. */
export async function GET({ params, url }) {
	return answer(async () => {
		const { from, to } = span.parse(Object.fromEntries(url.searchParams));
		return stopsOf(idOf(params.id), new Date(from), new Date(to));
	});
}
