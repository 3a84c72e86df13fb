import { sql } from 'kysely';
import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import { faultsOfLine, kindOf, type StationRole } from '$lib/stations/index.ts';
import type { Purpose } from '$lib/stations/kind.ts';
import { Conflict, Refusal, refuse } from '../answer.ts';
import { announce, db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';

interface Entered {
	role: StationRole;
	name: string;
	spec: unknown;
}

/** Refuses stations that a line of that purpose cannot have together. */
function refuseFaults(purpose: Purpose, stations: readonly Pick<Entered, 'role' | 'name'>[]): void {
	const issues = faultsOfLine(purpose, stations);
	if (issues.length) throw new Refusal(issues);
}

async function insertStation(
	trx: Trx,
	actor: Actor,
	lineId: number,
	position: number,
	{ role, name, spec }: Entered,
	at: Date
): Promise<number> {
	const { id } = await trx
		.insertInto('station')
		.values({ lineId, position, role, name, spec: JSON.stringify(spec), state: 'idle', stateReason: null, stateAt: null, outOfUseAt: null })
		.returning('id')
		.executeTakeFirstOrThrow();
	await trx
		.insertInto('stationRevision')
		.values({ stationId: id, revision: 1, spec: JSON.stringify(spec), setBy: actor.id, setAt: at })
		.execute();
	return id;
}

/** Enters a line with its stations in the order boards travel. */
export async function createLine(actor: Actor, line: z.infer<typeof bodies.line>): Promise<{ id: number }> {
	refuseFaults(line.purpose, line.stations);
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { id } = await trx
			.insertInto('line')
			.values({ name: line.name, purpose: line.purpose, outOfUseAt: null })
			.returning('id')
			.executeTakeFirstOrThrow();
		for (const [position, station] of line.stations.entries()) await insertStation(trx, actor, id, position, station, at);
		await logAction(trx, actor, 'line.create', line.name);
		await announce(trx, 'line');
		return { id };
	});
}

/** The line, held for a change, with its stations in use. Refused while a run is on: its machines speak by these names, in this order. */
async function lineToChange(trx: Trx, lineId: number) {
	const line = await trx.selectFrom('line').selectAll().where('id', '=', lineId).forUpdate().executeTakeFirst();
	if (!line) return refuse('line', lineId, 'There is no such line.');
	const run = await trx
		.selectFrom('run')
		.innerJoin('job', 'job.id', 'run.jobId')
		.select('job.number')
		.where('run.lineId', '=', lineId)
		.where('run.endedAt', 'is', null)
		.executeTakeFirst();
	if (run)
		return refuse(
			'line',
			line.name,
			`${run.number} is on ${line.name}: end its run, then change the line. Machine data can be corrected at any time.`
		);
	const stations = await trx
		.selectFrom('station')
		.select(['id', 'role', 'name'])
		.where('lineId', '=', lineId)
		.where('outOfUseAt', 'is', null)
		.orderBy('position')
		.execute();
	return { ...line, stations };
}

/** Puts the stations in an order; the others of the line stand aside. */
async function inOrder(trx: Trx, ids: readonly number[]): Promise<void> {
	// Each number stands once: they step aside before they take their places.
	if (ids.length)
		await trx
			.updateTable('station')
			.set({ position: sql`-id` })
			.where('id', 'in', [...ids])
			.execute();
	for (const [position, id] of ids.entries()) await trx.updateTable('station').set({ position }).where('id', '=', id).execute();
}

/** Corrects a line's name, purpose, or the order in which boards travel. */
export async function changeLine(actor: Actor, lineId: number, { name, purpose, order }: z.infer<typeof bodies.lineChange>): Promise<void> {
	await db.transaction().execute(async (trx) => {
		const line = await lineToChange(trx, lineId);
		const ids = line.stations.map((s) => s.id);
		if (order && (order.length !== ids.length || !ids.every((id) => order.includes(id))))
			throw new Conflict(null, 'The line has other stations meanwhile: look at it and order them again.');
		refuseFaults(purpose ?? line.purpose, line.stations);
		await trx
			.updateTable('line')
			.set({ name: name ?? line.name, purpose: purpose ?? line.purpose })
			.where('id', '=', lineId)
			.execute();
		if (order) await inOrder(trx, order);
		const words = order ? order.map((id) => line.stations.find((s) => s.id === id)!.name).join(' → ') : '';
		await logAction(
			trx,
			actor,
			'line.create',
			[name && name !== line.name ? `${line.name} is called ${name}` : line.name, words].filter(Boolean).join(': '),
			null,
			lineId
		);
		await announce(trx, 'line');
	});
}

/** Enters one more station of a line, before the one at a place in its order, or at its end. */
export async function addStation(
	actor: Actor,
	lineId: number,
	{ at: place, ...station }: z.infer<typeof bodies.newStation>
): Promise<{ id: number }> {
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const line = await lineToChange(trx, lineId);
		if (line.outOfUseAt) return refuse('line', line.name, `${line.name} is out of use: put it back into use first.`);
		const ids = line.stations.map((s) => s.id);
		refuseFaults(line.purpose, [...line.stations, station]);
		const { last } = await trx
			.selectFrom('station')
			.select(({ fn }) => fn.max('position').as('last'))
			.where('lineId', '=', lineId)
			.executeTakeFirstOrThrow();
		const id = await insertStation(trx, actor, lineId, Math.max(0, (last ?? -1) + 1), station, at);
		await inOrder(trx, ids.toSpliced(place ?? ids.length, 0, id));
		await logAction(trx, actor, 'line.create', `${line.name}: ${station.name} entered`, null, lineId);
		await announce(trx, 'line');
		return { id };
	});
}

/** Corrects a station's name or machine data: a revision of its own. Runs that are on, and those that were, keep the one they were begun with. */
export async function setStation(
	actor: Actor,
	stationId: number,
	{ name, spec, startedFrom }: z.infer<typeof bodies.stationChange>
): Promise<{ revision: number }> {
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const station = await trx.selectFrom('station').selectAll().where('id', '=', stationId).forUpdate().executeTakeFirst();
		if (!station) return refuse('station', stationId, 'There is no such station.');
		if (startedFrom !== station.revision)
			throw new Conflict(
				station.revision,
				`Somebody else corrected ${station.name} meanwhile. Theirs stands; look at it and decide again.`
			);
		const kept = kindOf(station.role).machine!.schema.parse(spec ?? station.spec);
		const renamed = name !== undefined && name !== station.name;
		if (renamed) {
			const line = await lineToChange(trx, station.lineId);
			refuseFaults(
				line.purpose,
				line.stations.map((s) => (s.id === stationId ? { ...s, name } : s))
			);
			const program = await trx
				.selectFrom('placementProgram')
				.select('revision')
				.where('lineId', '=', station.lineId)
				.where('status', '=', 'released')
				.executeTakeFirst();
			if (program && station.role === 'place')
				return refuse(
					'name',
					name,
					`Released placement programs name ${station.name}. Put it out of use and enter another one, or keep its name.`
				);
		}
		const revision = spec === undefined ? station.revision : station.revision + 1;
		await trx
			.updateTable('station')
			.set({ name: name ?? station.name, spec: JSON.stringify(kept), revision })
			.where('id', '=', stationId)
			.execute();
		if (spec !== undefined)
			await trx
				.insertInto('stationRevision')
				.values({ stationId, revision, spec: JSON.stringify(kept), setBy: actor.id, setAt: at })
				.execute();
		const words = [
			renamed ? `${station.name} is called ${name}` : station.name,
			spec === undefined ? '' : `machine data, revision ${revision}`
		];
		await logAction(trx, actor, 'station.set', words.filter(Boolean).join(': '), null, station.lineId);
		await announce(trx, 'line');
		return { revision };
	});
}

/** Puts a line out of use with its stations, or back as it was. What was built on it stays. */
export async function useLine(actor: Actor, lineId: number, inUse: boolean): Promise<void> {
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		const line = await lineToChange(trx, lineId);
		const since = line.outOfUseAt;
		if ((since === null) === inUse) return;
		// Stations that stood aside before the line did stay aside when it comes back.
		await trx
			.updateTable('station')
			.set({ outOfUseAt: inUse ? null : at })
			.where('lineId', '=', lineId)
			.where('outOfUseAt', since === null ? 'is' : '=', since)
			.execute();
		await trx
			.updateTable('line')
			.set({ outOfUseAt: inUse ? null : at })
			.where('id', '=', lineId)
			.execute();
		await logAction(trx, actor, 'line.create', `${line.name} ${inUse ? 'is in use again' : 'is out of use'}`, null, lineId);
		await announce(trx, 'line');
	});
}

/** Puts a station out of use, or back at the end of its line. What it reported stays. */
export async function useStation(actor: Actor, stationId: number, inUse: boolean): Promise<void> {
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		const station = await trx.selectFrom('station').selectAll().where('id', '=', stationId).executeTakeFirst();
		if (!station) return refuse('station', stationId, 'There is no such station.');
		if ((station.outOfUseAt === null) === inUse) return;
		const line = await lineToChange(trx, station.lineId);
		if (line.outOfUseAt) return refuse('station', station.name, `${line.name} is out of use: put the line back into use first.`);
		const others = line.stations.filter((s) => s.id !== stationId);
		if (inUse) refuseFaults(line.purpose, [...others, station]);
		else if (others.length === 0)
			return refuse('station', station.name, `${station.name} is the last station of ${line.name}. Enter another one first.`);
		await trx
			.updateTable('station')
			.set({ outOfUseAt: inUse ? null : at, position: sql`-id` })
			.where('id', '=', stationId)
			.execute();
		await inOrder(trx, [...others.map((s) => s.id), ...(inUse ? [stationId] : [])]);
		await logAction(
			trx,
			actor,
			'line.create',
			`${line.name}: ${station.name} ${inUse ? 'is in use again' : 'is out of use'}`,
			null,
			station.lineId
		);
		await announce(trx, 'line');
	});
}
