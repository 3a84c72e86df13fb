import { db } from '$lib/server/db/index.ts';
import { openQuarantine, sources } from '$lib/server/ingest/quarantine.ts';

const MOST_SHOWN = 100;

export async function load({ depends }) {
	depends('live:machines', 'live:people');
	const [counts, quarantine, tokens, waiting] = await Promise.all([
		sources(),
		openQuarantine(MOST_SHOWN),
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
	return { counts, quarantine, tokens, waiting: waiting.n };
}
