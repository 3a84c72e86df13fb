import { answer, idOf } from '$lib/server/answer.ts';
import { planFor } from '$lib/server/stations/place/program.ts';

/** Deals the parts to the placers of ?line=; nothing is kept. */
export async function GET({ params, url }) {
	return answer(() => planFor(idOf(params.id), idOf(url.searchParams.get('line') ?? '')));
}
