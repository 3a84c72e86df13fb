import { answer, idOf } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { revokeToken } from '$lib/server/people/tokens.ts';

export async function DELETE(event) {
	return answer(async () => revokeToken(await authorize(event, 'token.revoke'), idOf(event.params.id)));
}
