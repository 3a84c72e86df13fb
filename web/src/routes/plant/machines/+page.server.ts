import { db } from '$lib/server/db/index.ts';
import { openQuarantine, sources, stationNames } from '$lib/server/ingest/quarantine.ts';

/** Kept-aside messages of one source that the page lists: next to the others, and alone. */
const SHOWN_BESIDE = 10;
const SHOWN_ALONE = 200;

export async function load({ depends, url }) {
	const only = url.searchParams.get('source');
	depends('live:machines', 'live:people');
	const [counts, stations, quarantine, tokens, waiting] = await Promise.all([
		sources(),
		stationNames(),
		openQuarantine(only === null ? SHOWN_BESIDE : SHOWN_ALONE, only),
		db
			.selectFrom('machineToken')
			.leftJoin('user', 'user.id', 'machineToken.createdBy')
			.select([
				'machineToken.id',
				'machineToken.name',
				'machineToken.createdAt',
				'machineToken.revokedAt',
				'machineToken.usedAt',
				'user.name as by'
			])
			.orderBy('machineToken.id')
			.execute(),
		db
			.selectFrom('messageQuarantine')
			.select(({ fn }) => fn.countAll<number>().as('n'))
			.where('state', '=', 'open')
			.executeTakeFirstOrThrow()
	]);
	return { stations, counts, quarantine, tokens, waiting: waiting.n, only };
}
