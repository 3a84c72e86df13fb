import { sql } from 'kysely';
import type { SidePads } from '@keen-relay/core/inspection';
import { kindOf } from '$lib/stations/index.ts';
import type { Topic, Trx } from '../db/index.ts';
import { ROWS_AT_ONCE } from '../db/insert-rows.ts';
import type { Copy } from '../db/pinned.ts';
import { runsForJudging } from '../queries/runs.ts';
import { boardPads } from '../queries/sides.ts';
import { ownerOf } from '../stations/index.ts';
import type { AnyMessage } from '../stations/message-parts.ts';
import type { BatchFacts, BatchPass, BatchRun, BatchStation, StationModule, Taker } from '../stations/module.ts';
import { MachineStates, type StateMessage } from './machine-states.ts';
import { setPassesApart } from './passes-apart.ts';

interface Pass extends BatchPass {
	panelId: number | null;
	/** Of its first print. */
	printedAt: Date;
	/** Station it was last reported from; null once it left the line. */
	stationId: number | null;
	finishedAt: Date | null;
	/** When it was last reported, and from which place of the line. */
	seenAt: Date;
	seenPosition: number;
	changed: boolean;
}

/** Why a message cannot be taken: for good, or until a panel of that serial was printed. */
export interface Refused {
	reason: string;
	waitsFor: string | null;
}

/** A side's pads never change once it was run, nor does its panel: they are read once. */
const knownSides = new Map<number, SidePads>();
const BEYOND = Number.MAX_SAFE_INTEGER;

/** What a message waits for whose source nobody has matched to a station yet. */
export const sourceWait = (source: string) => `source/${source}`.slice(0, 80);

/** Turns machine messages into rows: what they refer to is read once for all of them, each is taken or refused by its station's module, and every
 * table is written once. A refused message leaves nothing behind. What a message means follows from its own time, not from when it was heard.
 */
export class Batch {
	readonly topics = new Set<Topic>();
	/** Serials of which a print was heard that says more of when a pass began: what waited for them can be taken now. */
	readonly opened = new Set<string>();
	#stations = new Map<string, BatchStation>();
	#runs = new Map<number, BatchRun>();
	#passes = new Map<string, Pass[]>();
	#jobOf = new Map<string, { panelId: number | null; jobId: number }>();
	#states: MachineStates;
	#takers = new Map<StationModule, Taker>();

	private constructor(
		private readonly trx: Trx,
		private readonly copy: Copy
	) {
		this.#states = new MachineStates(trx);
	}

	/** Reads what these messages refer to. */
	static async begin(trx: Trx, copy: Copy, messages: readonly AnyMessage[]): Promise<Batch> {
		const batch = new Batch(trx, copy);
		const serials = [...new Set(messages.flatMap((m) => m.panel ?? []))];
		const runIds = new Set(messages.flatMap((m) => m.runId ?? []));
		await batch.#readStations();
		if (serials.length) await batch.#readPasses(serials, runIds);
		await batch.#readRuns(runIds);
		await batch.#beginTakers(messages);
		return batch;
	}

	async #beginTakers(messages: readonly AnyMessage[]): Promise<void> {
		const facts: BatchFacts = { trx: this.trx, copy: this.copy, runs: this.#runs, pads: (sideId) => knownSides.get(sideId)! };
		const own = new Map<StationModule, AnyMessage[]>();
		for (const m of messages) {
			const module = ownerOf(m.type)?.module;
			if (module) own.set(module, [...(own.get(module) ?? []), m]);
		}
		const passIds = [...this.#passes.values()].flat().flatMap((pass) => pass.id ?? []);
		for (const [module, said] of own) {
			const taker = module.taker!(facts);
			this.#takers.set(module, taker);
			await taker.read?.(said, passIds);
		}
	}

	async #readStations(): Promise<void> {
		const rows = await this.trx
			.selectFrom('station')
			.innerJoin('line', 'line.id', 'station.lineId')
			.select(['station.id', 'station.lineId', 'station.role', 'station.name', 'station.position', 'line.name as line'])
			.where('station.outOfUseAt', 'is', null)
			.orderBy('station.lineId')
			.orderBy('station.position')
			.execute();
		const stations = new Map(rows.map((row, i) => [row.id, { ...row, last: rows[i + 1]?.lineId !== row.lineId }]));
		// What a person has said of a source that names itself otherwise; a station's own name comes first.
		const matched = await this.trx.selectFrom('messageSource').select(['source', 'stationId']).where('stationId', 'is not', null).execute();
		for (const { source, stationId } of matched) {
			const station = stations.get(stationId!);
			if (station) this.#stations.set(source, station);
		}
		for (const station of stations.values()) this.#stations.set(`${station.line}/${station.name}`, station);
	}

	async #readPasses(serials: readonly string[], runIds: Set<number>): Promise<void> {
		const rows = await this.trx
			.selectFrom('panel')
			.leftJoin('panelPass', 'panelPass.panelId', 'panel.id')
			.leftJoin('station', 'station.id', 'panelPass.stationId')
			.select(['panel.id as panelId', 'panel.serial', 'panel.jobId', 'panelPass.id', 'panelPass.runId', 'panelPass.stationId'])
			.select(['panelPass.printedAt', 'panelPass.finishedAt', 'panelPass.seenAt', 'station.position'])
			.where('panel.serial', 'in', serials)
			.orderBy('panel.serial')
			.orderBy('panelPass.printedAt')
			// Two machines that speak of one panel at once do it one after the other.
			.forNoKeyUpdate('panel')
			.execute();
		for (const row of rows) if (row.runId !== null) runIds.add(row.runId);
		await this.#readRuns(runIds);
		for (const row of rows) {
			this.#jobOf.set(row.serial, { panelId: row.panelId, jobId: row.jobId });
			if (row.id === null || row.runId === null) continue;
			this.#addPass({
				id: row.id,
				panelId: row.panelId,
				serial: row.serial,
				run: this.#runs.get(row.runId)!,
				stationId: row.stationId,
				printedAt: row.printedAt!,
				finishedAt: row.finishedAt,
				seenAt: row.seenAt!,
				seenPosition: row.position ?? BEYOND,
				changed: false
			});
		}
	}

	async #readRuns(ids: ReadonlySet<number>): Promise<void> {
		const missing = [...ids].filter((id) => !this.#runs.has(id));
		if (missing.length === 0) return;
		const rows = await runsForJudging(this.trx).where('run.id', 'in', missing).execute();
		for (const row of rows) this.#runs.set(row.id, row);
		for (const sideId of new Set(rows.map((row) => row.boardSideId)))
			if (!knownSides.has(sideId)) knownSides.set(sideId, await boardPads(this.trx, sideId));
	}

	#addPass(pass: Pass): void {
		const list = this.#passes.get(pass.serial);
		if (list) list.push(pass);
		else this.#passes.set(pass.serial, [pass]);
	}

	/** Takes one message. @returns why it cannot be taken, or null */
	take(m: AnyMessage): Refused | null {
		const no = (reason: string | null): Refused | null => (reason === null ? null : { reason, waitsFor: null });
		const owner = ownerOf(m.type);
		// What is no machine of a line is its own source: a sensor.
		const rides = owner !== undefined && kindOf(owner.module.role).machine === null;
		const station = this.#stations.get(m.source);
		if (rides) return no(this.#hand(m, owner!.module, station));
		if (!station)
			return {
				reason: `unknown source "${m.source}": it is "line name/station name", or somebody says on Plant: Machines which station it is`,
				waitsFor: sourceWait(m.source)
			};
		if (!owner) {
			for (const topic of this.#states.take(m as StateMessage, station)) this.topics.add(topic);
			return null;
		}
		if (owner.module.role !== station.role) return no(`a ${station.role} station does not report ${m.type}`);
		const run = m.runId === undefined ? null : (this.#runs.get(m.runId) ?? null);
		if (m.runId !== undefined && run?.lineId !== station.lineId) return no(`this line has no run ${m.runId}`);
		if (m.panel === undefined) return no(this.#hand(m, owner.module, station, null, run));
		const at = new Date(m.at);
		const pass = run ? this.#open(m.panel, run, station, at) : this.#passOn(m.panel, station.lineId, at);
		if (typeof pass === 'string') return no(pass);
		if (!pass) return { reason: `unknown panel "${m.panel}": no print of it was reported yet`, waitsFor: m.panel };
		const reason = this.#hand(m, owner.module, station, pass, run);
		// It may be of a pass whose print was not heard yet.
		if (reason !== null) return { reason, waitsFor: run ? null : m.panel };
		if (!this.#passes.get(pass.serial)?.includes(pass)) {
			this.#addPass(pass);
			this.opened.add(pass.serial);
			if (!this.#jobOf.has(pass.serial)) this.#jobOf.set(pass.serial, { panelId: null, jobId: pass.run.jobId });
		}
		// At a bench of another line it is looked at; it has not left its own.
		if (pass.run.lineId === station.lineId) this.#see(pass, station, at, run !== null);
		return null;
	}

	#hand(m: AnyMessage, module: StationModule, station: BatchStation | undefined, pass: Pass | null = null, run: BatchRun | null = null) {
		const reason = this.#takers.get(module)!.take(m, { station: station!, pass, run });
		if (reason === null) for (const topic of ownerOf(m.type)!.message.topics) this.topics.add(topic);
		return reason;
	}

	/** Moves a panel to where it was reported, unless a later report knows better. */
	#see(pass: Pass, station: BatchStation, at: Date, isPrint: boolean): void {
		pass.changed = true;
		if (isPrint && at < pass.printedAt) {
			pass.printedAt = at;
			this.opened.add(pass.serial);
		}
		const later = at.getTime() - pass.seenAt.getTime() || station.position - pass.seenPosition;
		if (later < 0) return;
		pass.seenAt = at;
		pass.seenPosition = station.last ? BEYOND : station.position;
		[pass.stationId, pass.finishedAt] = station.last ? [null, at] : [station.id, null];
	}

	/** The first print of a panel in a run opens its pass; a re-print finds it. A run that has ended still takes what its machine did. */
	#open(serial: string, run: BatchRun, station: BatchStation, at: Date): Pass | string {
		const known = this.#passes.get(serial)?.find((pass) => pass.run.id === run.id);
		if (known) return known;
		const panel = this.#jobOf.get(serial);
		if (panel && panel.jobId !== run.jobId) return `panel "${serial}" belongs to another job`;
		return {
			id: null,
			panelId: panel?.panelId ?? null,
			serial,
			run,
			stationId: station.id,
			printedAt: at,
			finishedAt: null,
			seenAt: at,
			seenPosition: station.position,
			changed: true
		};
	}

	/** The pass that a panel is on at that time: the latest that was printed by then, on this line where it was on it at all; undefined where none was printed yet. */
	#passOn(serial: string, lineId: number, at: Date): Pass | undefined {
		const all = [...(this.#passes.get(serial) ?? [])];
		const here = all.filter((pass) => pass.run.lineId === lineId);
		const own = here.length ? here : all;
		own.sort((a, b) => a.printedAt.getTime() - b.printedAt.getTime());
		return own.findLast((pass) => pass.printedAt <= at) ?? own[0];
	}

	/** Writes everything that was taken. */
	async write(): Promise<void> {
		await this.#writePasses();
		await this.#states.write();
		for (const taker of this.#takers.values()) await taker.write();
		await setPassesApart(this.trx, this.#panelsAgain());
	}

	/** Panels of which a print was heard that says more, and that have been through a line more than once. */
	#panelsAgain(): number[] {
		return [...this.opened].flatMap((serial) => {
			const passes = this.#passes.get(serial) ?? [];
			return passes.length > 1 ? [passes[0]!.panelId!] : [];
		});
	}

	/** Once all of it is on record. */
	afterwards(): void {
		for (const taker of this.#takers.values()) taker.afterwards?.();
	}

	async #writePasses(): Promise<void> {
		const all = [...this.#passes.values()].flat();
		const fresh = all.filter((pass) => pass.id === null);
		const isFresh = new Set(fresh);
		const serials = [...new Set(fresh.filter((pass) => pass.panelId === null).map((pass) => pass.serial))];
		for (let i = 0; i < serials.length; i += ROWS_AT_ONCE) {
			const made = await this.trx
				.insertInto('panel')
				.values(serials.slice(i, i + ROWS_AT_ONCE).map((serial) => ({ serial, jobId: this.#jobOf.get(serial)!.jobId })))
				.returning(['id', 'serial'])
				.execute();
			for (const { id, serial } of made) for (const pass of this.#passes.get(serial)!) pass.panelId = id;
		}
		for (let i = 0; i < fresh.length; i += ROWS_AT_ONCE) {
			const some = fresh.slice(i, i + ROWS_AT_ONCE);
			const made = await this.trx
				.insertInto('panelPass')
				.values(
					some.map(({ panelId, run, stationId, printedAt, finishedAt, seenAt }) => ({
						panelId: panelId!,
						runId: run.id,
						stationId,
						printedAt,
						finishedAt,
						seenAt
					}))
				)
				.returning(['id', 'panelId', 'runId'])
				.execute();
			const ids = new Map(made.map((row) => [`${row.panelId} ${row.runId}`, row.id]));
			for (const pass of some) pass.id = ids.get(`${pass.panelId} ${pass.run.id}`)!;
		}
		const moved = all.filter((pass) => pass.changed && !isFresh.has(pass)).sort((a, b) => a.id! - b.id!);
		const column = <T>(of: (pass: Pass) => T) => moved.map(of);
		if (moved.length)
			await sql`update panel_pass p set station_id = m.station_id, finished_at = m.finished_at, printed_at = m.printed_at, seen_at = m.seen_at
				from unnest(${column((p) => p.id)}::int[], ${column((p) => p.stationId)}::int[], ${column((p) => p.finishedAt)}::timestamptz[],
					${column((p) => p.printedAt)}::timestamptz[], ${column((p) => p.seenAt)}::timestamptz[])
				as m(id, station_id, finished_at, printed_at, seen_at) where p.id = m.id`.execute(this.trx);
	}
}
