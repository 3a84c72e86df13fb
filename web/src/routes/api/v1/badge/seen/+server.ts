import { error } from '@sveltejs/kit';
import { answer } from '$lib/server/answer.ts';
import { touchBadge } from '$lib/server/people/station-pc.ts';

/** Somebody is still at the screen: the badge keeps naming its person. */
export async function POST({ locals }) {
	return answer(async () => {
		if (!locals.stationPc) error(401, 'This is no station PC.');
		await touchBadge(locals.stationPc.id);
	});
}
