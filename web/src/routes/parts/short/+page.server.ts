import { standOfReel } from '@keen-relay/core/parts';
import { db } from '$lib/server/db/index.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { alternatesNow } from '$lib/server/queries/alternates.ts';
import { orientations } from '$lib/server/queries/orientations.ts';
import { partsOfOpenJobs } from '$lib/server/queries/needs.ts';
import { reelsNow } from '$lib/server/queries/reels.ts';

/** What open jobs ask for, and what lies here for them. */
export async function load({ depends }) {
	depends('live:parts', 'live:line');
	const nowMs = await plantNow();
	const [needs, reels, alternates, quadrants, customers] = await Promise.all([
		partsOfOpenJobs(),
		reelsNow(nowMs),
		alternatesNow(),
		orientations(),
		db.selectFrom('boardRevision').select('customer').distinct().where('customer', '!=', '').orderBy('customer').execute()
	]);
	const wanted = new Set(needs.map(({ partNumber }) => partNumber));
	/** Pieces of an alternate that lie here and may be used. */
	const lieHere = (part: string) =>
		reels.reduce(
			(sum, { partNumber, pieces, owner, status }) =>
				partNumber === part && owner === null && !status.gone && standOfReel(status, pieces, false).level !== 'stopped'
					? sum + pieces
					: sum,
			0
		);
	return {
		nowMs,
		alternates: alternates.map((a) => ({ ...a, pieces: lieHere(a.alternate) })),
		customers: customers.map(({ customer }) => customer),
		quadrants: Object.fromEntries(quadrants),
		needs,
		stock: reels.flatMap(({ partNumber, pieces, owner, status }) =>
			!status.gone && wanted.has(partNumber)
				? [{ partNumber, pieces, owner, blocked: standOfReel(status, pieces, false).level === 'stopped' }]
				: []
		)
	};
}
