import { nozzleNames } from '@keen-relay/core/balance';
import { machineData } from '$lib/stations/index.ts';
import { refuse } from '../../answer.ts';
import { announce, db, type Trx } from '../../db/index.ts';
import { sameCode } from '../../db/same-code.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { noteWearEvent, type WearingThing } from './wear-events.ts';

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
		await noteWearEvent(trx, actor, { feeder: done.code }, 'care', note);
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
		await noteWearEvent(trx, actor, { stationId, nozzle: done.name }, 'care', note);
		return cared(trx, actor, `nozzle ${done.name} of ${station.name}`, note);
	});
}

/** Somebody saw a feeder or nozzle do something wrong: kept in its history, and counted until it is cared for. */
export function reportFault(actor: Actor, of: WearingThing, note: string): Promise<{ name: string }> {
	return db.transaction().execute(async (trx) => {
		const thing = await known(trx, of);
		await noteWearEvent(trx, actor, thing.of, 'fault', note);
		await logAction(trx, actor, 'feeder.load', `${thing.name}: fault, ${note}`);
		await announce(trx, 'parts');
		return { name: thing.name };
	});
}

/** The thing by its own spelling. */
async function known(trx: Trx, of: WearingThing): Promise<{ of: WearingThing; name: string }> {
	if ('feeder' in of) {
		const feeder = await trx.selectFrom('feeder').select('code').where(sameCode('code', of.feeder)).executeTakeFirst();
		return feeder
			? { of: { feeder: feeder.code }, name: `feeder ${feeder.code}` }
			: refuse('feeder', of.feeder, `There is no feeder ${of.feeder}.`);
	}
	const { station } = await nozzleAt(trx, of.stationId, of.nozzle);
	return { of, name: `nozzle ${of.nozzle} of ${station.name}` };
}

/** The placer, where it has such a nozzle. */
async function nozzleAt(trx: Trx, stationId: number, name: string) {
	const station = await trx
		.selectFrom('station')
		.select(['id', 'name', 'role', 'spec', 'lineId'])
		.where('id', '=', stationId)
		.executeTakeFirst();
	const placer = station && machineData(station, 'place')?.placer;
	if (!placer) return refuse('station', stationId, 'This is no placer.');
	const names = nozzleNames(placer.spindles);
	if (!names.includes(name)) return refuse('nozzle', name, `${station.name} has ${names[0]} to ${names.at(-1)}.`);
	return { station };
}

/** Takes a nozzle out of service, with why, or back into it. One that the machine has not counted yet is known from then on. */
export function changeNozzle(actor: Actor, stationId: number, name: string, outOfService: string | null): Promise<{ name: string }> {
	return db.transaction().execute(async (trx) => {
		const { station } = await nozzleAt(trx, stationId, name);
		await trx
			.insertInto('nozzle')
			.values({ stationId, name, outOfService })
			.onConflict((conflict) => conflict.columns(['stationId', 'name']).doUpdateSet({ outOfService }))
			.execute();
		await noteWearEvent(trx, actor, { stationId, nozzle: name }, outOfService === null ? 'in' : 'out', outOfService ?? '');
		const words = outOfService === null ? 'in service again' : `out of service, ${outOfService}`;
		await logAction(trx, actor, 'feeder.keep', `nozzle ${name} of ${station.name}: ${words}`, null, station.lineId);
		for (const topic of ['parts', 'line'] as const) await announce(trx, topic);
		return { name };
	});
}
