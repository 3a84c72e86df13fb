import { answer } from '$lib/server/answer.ts';
import { find } from '$lib/server/line/find.ts';

/** What a scanned or typed code is. */
export async function GET({ url }) {
	return answer(() => find(url.searchParams.get('code') ?? ''));
}
