import { db } from '$lib/server/db/index.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { reelsNow } from '$lib/server/queries/reels.ts';

const LATEST = 60;

/** What was received last, and every part number that a board asks for. */
export async function load({ depends }) {
	depends('live:parts', 'live:boards');
	const [latest, boards] = await Promise.all([
		db.selectFrom('reel').select('code').orderBy('receivedAt', 'desc').orderBy('code').limit(LATEST).execute(),
		db.selectFrom('boardSide').select('parts').execute()
	]);
	const numbers = new Set(boards.flatMap(({ parts }) => parts.filter((p) => p.fitted).map((p) => p.partNumber)));
	return {
		latest: latest.length
			? await reelsNow(
					await plantNow(),
					latest.map((r) => r.code)
				)
			: [],
		partNumbers: [...numbers].sort()
	};
}
