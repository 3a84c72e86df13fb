import { refuse } from '../../answer.ts';
import { announce, db, type Trx } from '../../db/index.ts';
import { sameCode } from '../../db/same-code.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';

async function cared(trx: Trx, actor: Actor, what: string, note: string): Promise<{ actionId: number }> {
	const actionId = await logAction(trx, actor, 'feeder.keep', `${what} was cared for: ${note}`);
	await announce(trx, 'parts');
	return { actionId };
}

/** Somebody has cleaned and checked a feeder: its picks are counted from here. */
export function careForFeeder(actor: Actor, code: string, note: string): Promise<{ actionId: number }> {
	return db.transaction().execute(async (trx) => {
		const caredAt = new Date(await plantNow());
		const done = await trx
			.updateTable('feeder')
			.set(({ ref }) => ({ caredAt, caredPicks: ref('picks') }))
			.where(sameCode('code', code))
			.returning('code')
			.executeTakeFirst();
		if (!done) return refuse('feeder', code, `There is no feeder ${code}.`);
		return cared(trx, actor, `feeder ${done.code}`, note);
	});
}

/** Somebody has cleaned a nozzle: its picks are counted from here. */
export function careForNozzle(actor: Actor, stationId: number, name: string, note: string): Promise<{ actionId: number }> {
	return db.transaction().execute(async (trx) => {
		const caredAt = new Date(await plantNow());
		const done = await trx
			.updateTable('nozzle')
			.set(({ ref }) => ({ caredAt, caredPicks: ref('picks') }))
			.where('stationId', '=', stationId)
			.where('name', '=', name)
			.returning('name')
			.executeTakeFirst();
		if (!done) return refuse('nozzle', name, `The machine has counted no picks of a nozzle ${name}.`);
		const station = await trx.selectFrom('station').select('name').where('id', '=', stationId).executeTakeFirstOrThrow();
		return cared(trx, actor, `nozzle ${done.name} of ${station.name}`, note);
	});
}
