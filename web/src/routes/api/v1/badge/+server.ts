import { error } from '@sveltejs/kit';
import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { clearBadge, showBadge } from '$lib/server/people/station-pc.ts';

function stationPc(locals: App.Locals) {
	if (!locals.stationPc) error(401, 'Badges are shown at a station PC. Sign in here instead.');
	return locals.stationPc.id;
}

/** A badge names the person for what is done next at this station PC. */
export async function POST(event) {
	return answer(async () => showBadge(stationPc(event.locals), (await readJson(event, bodies.badge)).badge));
}

export async function DELETE({ locals }) {
	return answer(() => clearBadge(stationPc(locals)));
}
