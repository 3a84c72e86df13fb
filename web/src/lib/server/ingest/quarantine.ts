import { announce, db } from '../db/index.ts';
import { transactionWithCopy } from '../db/pinned.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { refuse } from '../answer.ts';
import { admitOf, readmit } from './ingest.ts';
import type { StationRole } from '$lib/stations/index.ts';

/** Counts of every source, by name, with the station that it is: by its own name, or as a person said; null where that is open, and it is no sensor. */
export async function sources() {
	const [rows, stations, sensors] = await Promise.all([
		db.selectFrom('messageSource').selectAll().orderBy('source').execute(),
		stationNames(),
		db.selectFrom('sensor').select('name').execute()
	]);
	return rows.map(({ stationId, ...row }) => ({
		...row,
		is: stations.find((s) => s.source === row.source)?.source ?? stations.find((s) => s.id === stationId)?.source ?? null,
		said: stationId !== null,
		sensor: sensors.some(({ name }) => row.source === name || row.source.endsWith(`/${name}`))
	}));
}

/** Stations in use, as messages name them. */
export async function stationNames(): Promise<{ id: number; source: string; role: StationRole }[]> {
	const rows = await db
		.selectFrom('station')
		.innerJoin('line', 'line.id', 'station.lineId')
		.select(['station.id', 'station.name', 'station.role', 'line.name as line'])
		.where('station.outOfUseAt', 'is', null)
		.orderBy('station.lineId')
		.orderBy('station.position')
		.execute();
	return rows.map(({ id, line, name, role }) => ({ id, role, source: `${line}/${name}` }));
}

/** Says which station a source is that names itself otherwise; what waited for that is taken. */
export async function matchSource(actor: Actor, source: string, stationId: number | null): Promise<void> {
	await transactionWithCopy(async (trx, copy) => {
		const stations = await stationNames();
		const station = stations.find((s) => s.id === stationId);
		if (stationId !== null && !station) return refuse('stationId', stationId, 'There is no such station in use.');
		const own = stations.find((s) => s.source === source);
		if (own) return refuse('source', source, `${source} is a station’s own name: it is that station.`);
		const known = await trx
			.updateTable('messageSource')
			.set({ stationId })
			.where('source', '=', source)
			.returning('source')
			.executeTakeFirst();
		if (!known) return refuse('source', source, 'Nothing was ever heard of this source.');
		await logAction(
			trx,
			actor,
			'station.set',
			station ? `source ${source} is ${station.source}` : `source ${source} is no station any more`
		);
		if (station) await admitOf(trx, copy, source);
		await announce(trx, 'machines');
	});
}

/** Messages kept aside that nobody has settled, newest first: of each source so many, that one which talks nonsense all day hides no other.
 * @param source only of this one
 */
export function openQuarantine(mostOfSource: number, source: string | null = null) {
	return db
		.selectFrom((open) =>
			open
				.selectFrom('messageQuarantine')
				.selectAll()
				.select(({ fn }) =>
					fn
						.agg<number>('row_number')
						.over((over) => over.partitionBy('source').orderBy('id', 'desc'))
						.as('nth')
				)
				.where('state', '=', 'open')
				.$if(source !== null, (query) => query.where('source', '=', source))
				.as('open')
		)
		.selectAll()
		.where('nth', '<=', mostOfSource)
		.orderBy('id', 'desc')
		.execute();
}

async function openRow(id: number) {
	const row = await db.selectFrom('messageQuarantine').selectAll().where('id', '=', id).where('state', '=', 'open').executeTakeFirst();
	return row ?? refuse('message', id, 'There is no such message in quarantine, or it is settled already.');
}

/** Admits a corrected message; what was received stays beside it. */
export async function readmitMessage(actor: Actor, id: number, text: string): Promise<void> {
	const row = await openRow(id);
	await transactionWithCopy(async (trx, copy) => {
		const reason = await readmit(trx, copy, row, text, actor.id);
		// The transaction ends here: what the attempt had begun is gone with it.
		if (reason !== null) refuse('message', text.slice(0, 60), `Not admitted: ${reason}.`);
		await logAction(trx, actor, 'message.settle', `admitted from quarantine: message ${id} of ${row.source ?? 'an unreadable source'}`);
		await announce(trx, 'machines');
	});
}

/** Leaves a message out for good. It stays stored and counted; undo opens it again. */
export async function dismissMessage(actor: Actor, id: number): Promise<{ actionId: number }> {
	const row = await openRow(id);
	const settledAt = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await trx.updateTable('messageQuarantine').set({ state: 'dismissed', settledBy: actor.id, settledAt }).where('id', '=', id).execute();
		const actionId = await logAction(trx, actor, 'message.settle', `left out: message ${id} of ${row.source ?? 'an unreadable source'}`, {
			kind: 'quarantine',
			id
		});
		await announce(trx, 'machines');
		return { actionId };
	});
}
