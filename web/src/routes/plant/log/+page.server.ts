import { db } from '$lib/server/db/index.ts';

const MOST = 300;

/** What people did, the newest first. */
export async function load({ depends, url }) {
	depends('live:people', 'live:boards', 'live:runs', 'live:shift');
	const wanted = url.searchParams.get('find')?.trim() ?? '';
	const rows = await db
		.selectFrom('actionLog')
		.innerJoin('user', 'user.id', 'actionLog.personId')
		.leftJoin('user as approver', 'approver.id', 'actionLog.approvedBy')
		.leftJoin('actionLog as reversal', 'reversal.reverses', 'actionLog.id')
		.leftJoin('user as reverser', 'reverser.id', 'reversal.personId')
		.select([
			'actionLog.id',
			'actionLog.at',
			'actionLog.action',
			'actionLog.subject',
			'actionLog.stationPc',
			'actionLog.undo',
			'actionLog.reverses',
			'user.name',
			'approver.name as approver',
			'reverser.name as undoneBy'
		])
		.$if(wanted !== '', (query) =>
			query.where((eb) =>
				eb.or([
					eb('actionLog.subject', 'ilike', `%${wanted.replace(/[%_\\]/g, '\\$&')}%`),
					eb('user.name', 'ilike', `%${wanted.replace(/[%_\\]/g, '\\$&')}%`)
				])
			)
		)
		.orderBy('actionLog.id', 'desc')
		.limit(MOST)
		.execute();
	const tries = await db
		.selectFrom('failedTry')
		.selectAll()
		.$if(wanted !== '', (query) => query.where('badge', 'ilike', `%${wanted.replace(/[%_\\]/g, '\\$&')}%`))
		.orderBy('id', 'desc')
		.limit(MOST)
		.execute();
	return { tries, rows: rows.map(({ undo, ...row }) => ({ ...row, canUndo: undo !== null && row.undoneBy === null })), wanted, most: MOST };
}
