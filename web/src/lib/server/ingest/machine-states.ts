import { settleStops, stopsOfStates, type StopSpan } from '@keen-relay/core/schedule';
import { sql } from 'kysely';
import type { z } from 'zod';
import type { Topic, Trx } from '../db/index.ts';
import { insertRows } from '../db/insert-rows.ts';
import type { machineState } from '../stations/index.ts';
import type { BatchStation } from '../stations/module.ts';

export type StateMessage = z.output<typeof machineState.schema>;

/** States that machines report, and the stops that follow from them. The times that the messages carry decide, whatever order they are heard in. */
export class MachineStates {
	readonly #said = new Map<number, { station: BatchStation; states: StateMessage[] }>();

	constructor(private readonly trx: Trx) {}

	/** @returns what open pages hear of it */
	take(m: StateMessage, station: BatchStation): Topic[] {
		const own = this.#said.get(station.id);
		if (own) own.states.push(m);
		else this.#said.set(station.id, { station, states: [m] });
		return m.state === 'stopped' ? ['line', 'shift'] : ['line'];
	}

	async write(): Promise<void> {
		if (this.#said.size === 0) return;
		// In one order, so that two batches never wait for each other.
		const all = [...this.#said.values()].sort((a, b) => a.station.id - b.station.id);
		const ids = all.map(({ station }) => station.id);
		await sql`select id from station where id = any(${ids}) order by id for update`.execute(this.trx);
		await insertRows(
			this.trx,
			'machineState',
			all.flatMap(({ station, states }) => states.map((m) => ({ station, m }))),
			({ station, m }) => ({
				stationId: station.id,
				at: new Date(m.at),
				bootId: m.bootId,
				number: m.number,
				state: m.state,
				reason: m.reason ?? null
			})
		);
		await sql`update station s set state = l.state, state_reason = l.reason, state_at = l.at from (
			select distinct on (station_id) station_id, state, reason, at from machine_state where station_id = any(${ids})
			order by station_id, at desc, number desc, boot_id desc) l where s.id = l.station_id`.execute(this.trx);
		for (const { station, states } of all) await this.#settle(station, states);
	}

	/** Works out the stops around the states that came in, and brings the record in line with them. */
	async #settle({ id, lineId }: BatchStation, states: readonly StateMessage[]): Promise<void> {
		const times = states.map((m) => Date.parse(m.at));
		const [from, to] = [new Date(Math.min(...times)), new Date(Math.max(...times))];
		// A stop that was open before the first of them, or that goes on after the last, is told whole.
		const around = await sql<{ at: Date; stopped: boolean; reason: string | null }>`
			select at, state = 'stopped' as stopped, reason from machine_state where station_id = ${id}
				and at >= coalesce((select max(at) from machine_state where station_id = ${id} and at < ${from} and state <> 'stopped'), '-infinity')
				and at <= coalesce((select min(at) from machine_state where station_id = ${id} and at > ${to} and state <> 'stopped'), 'infinity')
			order by at, number, boot_id`.execute(this.trx);
		const first = around.rows[0]!.at;
		const last = around.rows.at(-1)!.at;
		const known = await this.trx
			.selectFrom('stop')
			.select(['id', 'fromAt', 'toAt', 'machineReason'])
			.where('stationId', '=', id)
			.where('fromAt', '>=', first)
			.where('fromAt', '<=', last)
			.execute();
		const { begun, changed, gone } = settleStops(
			known.map((k) => ({ id: k.id, fromMs: k.fromAt.getTime(), toMs: k.toAt?.getTime() ?? null, machineReason: k.machineReason })),
			stopsOfStates(around.rows.map(({ at, stopped, reason }) => ({ atMs: at.getTime(), stopped, reason })))
		);
		await insertRows(
			this.trx,
			'stop',
			await Promise.all(begun.map(async (s) => ({ ...columnsOf(s), stationId: id, runId: await this.#runAt(lineId, s) }))),
			(s) => s
		);
		for (const { was, now } of changed)
			await this.trx
				.updateTable('stop')
				.set({ ...columnsOf(now), runId: await this.#runAt(lineId, now) })
				.where('id', '=', was.id)
				.execute();
		// What no state speaks of any more lasted no time; whoever explained it is still on record.
		for (const { id: stop, fromMs } of gone)
			await this.trx
				.updateTable('stop')
				.set({ toAt: new Date(fromMs) })
				.where('id', '=', stop)
				.execute();
	}

	/** The run that a stop falls into. */
	async #runAt(lineId: number, { fromMs }: StopSpan): Promise<number | null> {
		const run = await this.trx
			.selectFrom('run')
			.select('id')
			.where('lineId', '=', lineId)
			.where('startedAt', '<=', new Date(fromMs))
			.where((eb) => eb.or([eb('endedAt', 'is', null), eb('endedAt', '>', new Date(fromMs))]))
			.orderBy('startedAt', 'desc')
			.executeTakeFirst();
		return run?.id ?? null;
	}
}

const columnsOf = ({ fromMs, toMs, machineReason }: StopSpan) => ({
	fromAt: new Date(fromMs),
	toAt: toMs === null ? null : new Date(toMs),
	machineReason
});
