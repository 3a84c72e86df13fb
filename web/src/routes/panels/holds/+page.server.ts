import { rolesThatMay } from '@keen-relay/core/people';
import { db } from '$lib/server/db/index.ts';
import { rightsNow } from '$lib/server/people/rights.ts';
import { keepJarHolds, liftedHolds, openHolds } from '$lib/server/queries/holds.ts';

const MOST_LIFTED = 40;

/** All that is held, and what was lifted last. */
export async function load({ depends }) {
	depends('live:line', 'live:results', 'live:paste');
	await keepJarHolds();
	const [open, lifted, lines] = await Promise.all([
		openHolds(),
		liftedHolds(MOST_LIFTED),
		db.selectFrom('line').select(['id', 'name']).execute()
	]);
	const rights = await rightsNow();
	return {
		open: open.map((hold) => ({ ...hold, who: rolesThatMay(hold.lifts, rights) })),
		lifted,
		lines: Object.fromEntries(lines.map(({ id, name }) => [id, name]))
	};
}
