import { rightsNow } from '$lib/server/people/rights.ts';
import { ruleNow } from '$lib/server/plant/rules.ts';
import { db } from '$lib/server/db/index.ts';

export async function load({ depends }) {
	depends('live:people');
	const [pins, people, rights, stationPcs] = await Promise.all([
		ruleNow('pins'),
		db.selectFrom('user').select(['id', 'name', 'username', 'role', 'leftAt', 'codeEndsAt']).orderBy('name').execute(),
		rightsNow(),
		db
			.selectFrom('stationPc')
			.leftJoin('line', 'line.id', 'stationPc.lineId')
			.innerJoin('user', 'user.id', 'stationPc.createdBy')
			.select(['stationPc.id', 'stationPc.name', 'stationPc.createdAt', 'stationPc.revokedAt', 'line.name as line', 'user.name as by'])
			.orderBy('stationPc.id')
			.execute()
	]);
	return { pins, people, rights, stationPcs };
}
