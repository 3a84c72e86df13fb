import { KINDS } from '$lib/stations/index.ts';
import { db } from '$lib/server/db/index.ts';
import { machineForm } from '$lib/server/stations/forms.ts';

/** Lines with their stations, and every kind of station that a line can have, with the form of its machine data. */
export async function load({ depends }) {
	depends('live:line');
	const [stations, lineRows] = await Promise.all([
		db.selectFrom('station').select(['id', 'lineId', 'name', 'role']).orderBy('lineId').orderBy('position').execute(),
		db.selectFrom('line').selectAll().orderBy('id').execute()
	]);
	return {
		entered: lineRows.map((line) => ({ ...line, stations: stations.filter((s) => s.lineId === line.id) })),
		kinds: KINDS.flatMap(({ role, name, about, many, purposes }) => {
			const machine = machineForm(role);
			return machine ? [{ role, name, about, many, purposes, ...machine }] : [];
		})
	};
}
