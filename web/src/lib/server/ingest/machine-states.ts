import type { Trx } from '../db/index.ts';
import { insertRows } from './insert-rows.ts';
import type { MessageOf } from './messages.ts';

interface Stop {
	/** null until it is written. */
	id: number | null;
	stationId: number;
	runId: number | null;
	fromAt: Date;
	toAt: Date | null;
	machineReason: string | null;
}

/** States that machines report, and the stops that begin and end with them. */
export class MachineStates {
	readonly #open = new Map<number, Stop>();
	readonly #begun: Stop[] = [];
	readonly #ended: { id: number; toAt: Date }[] = [];
	readonly #latest = new Map<number, { state: MessageOf<'state'>['state']; reason: string | null; at: Date }>();

	constructor(private readonly trx: Trx) {}

	async readOpenStops(): Promise<void> {
		for (const row of await this.trx.selectFrom('stop').selectAll().where('toAt', 'is', null).execute()) this.#open.set(row.stationId, row);
	}

	/** @param runId the run that a stop that begins now falls into
	 * @returns whether a stop began or ended
	 */
	take(m: MessageOf<'state'>, stationId: number, runId: number | null): boolean {
		const at = new Date(m.at);
		this.#latest.set(stationId, { state: m.state, reason: m.reason ?? null, at });
		const open = this.#open.get(stationId);
		if ((m.state === 'stopped') === Boolean(open)) return false;
		if (open) {
			open.toAt = at;
			if (open.id !== null) this.#ended.push({ id: open.id, toAt: at });
			this.#open.delete(stationId);
		} else {
			const stop = { id: null, stationId, runId, fromAt: at, toAt: null, machineReason: m.reason ?? null };
			this.#open.set(stationId, stop);
			this.#begun.push(stop);
		}
		return true;
	}

	async write(): Promise<void> {
		// In one order, so that two batches never wait for each other.
		for (const [id, { state, reason, at }] of [...this.#latest].sort((a, b) => a[0] - b[0]))
			await this.trx.updateTable('station').set({ state, stateReason: reason, stateAt: at }).where('id', '=', id).execute();
		await insertRows(this.trx, 'stop', this.#begun, ({ stationId, runId, fromAt, toAt, machineReason }) => ({
			stationId,
			runId,
			fromAt,
			toAt,
			machineReason
		}));
		for (const { id, toAt } of this.#ended) await this.trx.updateTable('stop').set({ toAt }).where('id', '=', id).execute();
	}
}
