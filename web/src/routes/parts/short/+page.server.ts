import { standOfReel } from '@keen-relay/core/parts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { partsOfOpenJobs } from '$lib/server/queries/needs.ts';
import { reelsNow } from '$lib/server/queries/reels.ts';

/** What open jobs ask for, and what lies here for them. */
export async function load({ depends }) {
	depends('live:parts', 'live:line');
	const nowMs = await plantNow();
	const [needs, reels] = await Promise.all([partsOfOpenJobs(), reelsNow(nowMs)]);
	const wanted = new Set(needs.map(({ partNumber }) => partNumber));
	return {
		nowMs,
		needs,
		stock: reels.flatMap(({ partNumber, pieces, owner, status }) =>
			!status.gone && wanted.has(partNumber)
				? [{ partNumber, pieces, owner, blocked: standOfReel(status, pieces, false).level === 'stopped' }]
				: []
		)
	};
}
