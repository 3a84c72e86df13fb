import { rightsNow } from '$lib/server/people/rights.ts';
import { db } from '$lib/server/db/index.ts';

export async function load({ depends }) {
	depends('live:people');
	const [people, rights, stationPcs] = await Promise.all([
		db.selectFrom('user').select(['id', 'name', 'username', 'role']).orderBy('name').execute(),
		rightsNow(),
		db
			.selectFrom('stationPc')
			.leftJoin('line', 'line.id', 'stationPc.lineId')
			.innerJoin('user', 'user.id', 'stationPc.createdBy')
			.select(['stationPc.id', 'stationPc.name', 'stationPc.createdAt', 'stationPc.revokedAt', 'line.name as line', 'user.name as by'])
			.orderBy('stationPc.id')
			.execute()
	]);
	return { people, rights, stationPcs };
}
