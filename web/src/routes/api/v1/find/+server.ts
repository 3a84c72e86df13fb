import { answer, idOf } from '$lib/server/answer.ts';
import { find } from '$lib/server/line/find.ts';

/** What a scanned or typed code is, and what may be done with it on ?line=. */
export async function GET({ url }) {
	return answer(() => find(url.searchParams.get('code') ?? '', url.searchParams.has('line') ? idOf(url.searchParams.get('line')!) : null));
}
