import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { authorize } from '$lib/server/people/access.ts';
import { createToken } from '$lib/server/people/tokens.ts';

/** Makes a machine token: the answer shows it this once. */
export async function POST(event) {
	return answer(async () => createToken(await authorize(event, 'token.create'), (await readJson(event, bodies.token)).name), 201);
}
