import { error } from '@sveltejs/kit';
import { KINDS } from '$lib/stations/index.ts';
import { db } from '$lib/server/db/index.ts';
import { machineForm } from '$lib/server/stations/forms.ts';

/** Lines with their stations, the revisions of the chosen one's machine data, and every kind of station that a line can have, with the form of its machine data. */
export async function load({ depends, url }) {
	depends('live:line');
	const [stations, lineRows] = await Promise.all([
		db
			.selectFrom('station')
			.select(['id', 'lineId', 'name', 'role', 'spec', 'revision', 'outOfUseAt'])
			.orderBy('lineId')
			.orderBy('position')
			.execute(),
		db.selectFrom('line').selectAll().orderBy('id').execute()
	]);
	const asked = url.searchParams.get('line');
	const chosen = asked === 'new' ? null : asked ? Number(asked) : (lineRows[0]?.id ?? null);
	if (chosen !== null && !lineRows.some((line) => line.id === chosen)) error(404, 'There is no such line.');
	const revisions = await db
		.selectFrom('stationRevision')
		.innerJoin('station', 'station.id', 'stationRevision.stationId')
		.leftJoin('user', 'user.id', 'stationRevision.setBy')
		.select(['stationRevision.stationId', 'stationRevision.revision', 'stationRevision.setAt', 'user.name as by'])
		.where('station.lineId', '=', chosen ?? 0)
		.orderBy('stationRevision.revision', 'desc')
		.execute();
	return {
		chosen,
		entered: lineRows.map((line) => ({
			...line,
			stations: stations.filter((s) => s.lineId === line.id && s.outOfUseAt === null),
			outOfUse: stations.filter((s) => s.lineId === line.id && s.outOfUseAt !== null)
		})),
		revisions,
		kinds: KINDS.flatMap(({ role, name, about, many, purposes }) => {
			const machine = machineForm(role);
			return machine ? [{ role, name, about, many, purposes, ...machine }] : [];
		})
	};
}
