import { answer, idOf } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { revokeStationPc } from '$lib/server/people/station-pc.ts';

export async function DELETE(event) {
	return answer(async () => revokeStationPc(await authorize(event, 'stationPc.revoke'), idOf(event.params.id)));
}
