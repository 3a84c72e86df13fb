import { sql } from 'kysely';
import { panelGeometry } from '@keen-relay/core/artwork';
import { DEPOSIT_LIMITS } from '@keen-relay/core/inspection';
import type { StationRole } from '$lib/model/types.ts';
import type { Topic, Trx } from '../db/index.ts';
import { holdTouchedJars } from '../paste/sensors.ts';
import { currentLimits, type CurrentLimits } from '../paste-check/limits.ts';
import type { Copy } from '../db/pinned.ts';
import { insertRows, ROWS_AT_ONCE } from './insert-rows.ts';
import { MachineStates } from './machine-states.ts';
import type { Message, MessageOf } from './messages.ts';
import { fromSummary, judgeReadings, wrongLength, type SidePads } from './paste.ts';
import { writePaste, type PasteInspection } from './paste-rows.ts';

interface Station {
	id: number;
	lineId: number;
	role: StationRole;
	name: string;
	last: boolean;
}

interface Run {
	id: number;
	jobId: number;
	lineId: number;
	boardSideId: number;
	stencilToolId: number | null;
	foilUm: number;
}

/** A panel on its way through a line; `id` is null until the batch is written. */
interface Pass {
	id: number | null;
	panelId: number | null;
	serial: string;
	run: Run;
	stationId: number | null;
	printedAt: Date;
	finishedAt: Date | null;
	changed: boolean;
}

const ROLE_OF: Record<Message['type'], StationRole | null> = {
	state: null,
	print: 'print',
	paste_loaded: 'print',
	sensor_reading: null,
	paste_inspection: 'pasteCheck',
	paste_summary: 'pasteCheck',
	placement: 'place',
	feeder_loaded: 'place',
	oven_pass: 'oven',
	optical_inspection: 'optical',
	in_circuit_test: 'inCircuit'
};

/** A side's pads never change once it was run, nor does its panel: they are read once. */
const knownSides = new Map<number, SidePads>();

/** Turns machine messages into rows: what they need is read once for all of them, each is taken or refused in turn, and every table is
 * written once. A refused message leaves nothing behind.
 */
export class Batch {
	readonly topics = new Set<Topic>();
	#stations = new Map<string, Station>();
	#runs = new Map<number, Run>();
	#passes = new Map<string, Pass[]>();
	#jobOf = new Map<string, { panelId: number | null; jobId: number }>();
	/** Keys of what is there already: a second report of the same is refused. */
	#taken = new Set<string>();
	#jars = new Set<string>();
	/** Id by "Sensors/name". */
	#sensors = new Map<string, number>();
	#limits: CurrentLimits = { revision: null, limits: DEPOSIT_LIMITS };
	#loads: { station: Station; m: MessageOf<'paste_loaded'> }[] = [];
	#readings: { sensorId: number; at: Date; temperatureC: number; rhPct: number | null }[] = [];
	#states: MachineStates;
	#prints: { pass: Pass; m: MessageOf<'print'> }[] = [];
	#pastes: (PasteInspection & { pass: Pass })[] = [];
	#placements: { pass: Pass; station: Station; m: MessageOf<'placement'> }[] = [];
	#feeders: { station: Station; m: MessageOf<'feeder_loaded'> }[] = [];
	#ovens: { pass: Pass; station: Station; m: MessageOf<'oven_pass'> }[] = [];
	#visits: { pass: Pass; station: Station; m: MessageOf<'optical_inspection' | 'in_circuit_test'> }[] = [];

	private constructor(
		private readonly trx: Trx,
		private readonly copy: Copy
	) {
		this.#states = new MachineStates(trx);
	}

	/** Reads what these messages refer to. */
	static async begin(trx: Trx, copy: Copy, messages: readonly Message[]): Promise<Batch> {
		const batch = new Batch(trx, copy);
		const serials = [...new Set(messages.flatMap((m) => ('panel' in m ? [m.panel] : [])))];
		const runIds = new Set(messages.flatMap((m) => ('runId' in m ? [m.runId] : [])));
		await batch.#readStations();
		if (serials.length) await batch.#readPasses(serials, runIds);
		if (messages.some((m) => m.type === 'state')) await batch.#states.readOpenStops();
		await batch.#readRuns(runIds);
		await batch.#readPrintCell(messages);
		return batch;
	}

	/** Jars, sensors and limits, where these messages speak of them. */
	async #readPrintCell(messages: readonly Message[]): Promise<void> {
		const jars = messages.flatMap((m) => (m.type === 'paste_loaded' ? [m.jar] : []));
		if (jars.length) {
			const known = await this.trx.selectFrom('pasteJar').select('id').where('id', 'in', jars).execute();
			this.#jars = new Set(known.map((jar) => jar.id));
		}
		const readings = messages.filter((m) => m.type === 'sensor_reading');
		if (readings.length) {
			for (const { id, name } of await this.trx.selectFrom('sensor').select(['id', 'name']).execute())
				this.#sensors.set(`Sensors/${name}`, id);
			const known = await sql<{ id: number; at: Date }>`select sensor_id as id, at from sensor_reading
				where at = any(${[...new Set(readings.map((m) => m.at))].map((at) => new Date(at))})`.execute(this.trx);
			for (const { id, at } of known.rows) this.#taken.add(`sensor ${id} ${at.getTime()}`);
		}
		if (messages.some((m) => m.type === 'paste_inspection')) this.#limits = await currentLimits(this.trx);
	}

	async #readStations(): Promise<void> {
		const rows = await this.trx
			.selectFrom('station')
			.innerJoin('line', 'line.id', 'station.lineId')
			.select(['station.id', 'station.lineId', 'station.role', 'station.name', 'line.name as line'])
			.orderBy('station.lineId')
			.orderBy('station.position')
			.execute();
		rows.forEach((row, i) => this.#stations.set(`${row.line}/${row.name}`, { ...row, last: rows[i + 1]?.lineId !== row.lineId }));
	}

	async #readPasses(serials: readonly string[], runIds: Set<number>): Promise<void> {
		const rows = await this.trx
			.selectFrom('panel')
			.leftJoin('panelPass', 'panelPass.panelId', 'panel.id')
			.select([
				'panel.id as panelId',
				'panel.serial',
				'panel.jobId',
				'panelPass.id',
				'panelPass.runId',
				'panelPass.stationId',
				'panelPass.printedAt',
				'panelPass.finishedAt'
			])
			.where('panel.serial', 'in', serials)
			.orderBy('panelPass.printedAt')
			.execute();
		for (const row of rows) if (row.runId !== null) runIds.add(row.runId);
		await this.#readRuns(runIds);
		const ids: number[] = [];
		for (const row of rows) {
			this.#jobOf.set(row.serial, { panelId: row.panelId, jobId: row.jobId });
			if (row.id === null || row.runId === null) continue;
			ids.push(row.id);
			this.#addPass({
				id: row.id,
				panelId: row.panelId,
				serial: row.serial,
				run: this.#runs.get(row.runId)!,
				stationId: row.stationId,
				printedAt: row.printedAt!,
				finishedAt: row.finishedAt,
				changed: false
			});
		}
		if (ids.length) await this.#readTaken(ids);
	}

	async #readTaken(ids: readonly number[]): Promise<void> {
		const taken = await sql<{ key: string }>`
			select 'print ' || pass_id || ' ' || print_attempt as key from print where pass_id = any(${ids})
			union all select 'paste ' || pass_id || ' ' || print_attempt || ' ' || inspection_attempt from paste_summary where pass_id = any(${ids})
			union all select 'place ' || pass_id || ' ' || station_id from placement_report where pass_id = any(${ids})
			union all select 'visit ' || pass_id || ' ' || station_id || ' ' || circuit || ' ' || attempt from inspection_visit where pass_id = any(${ids})
		`.execute(this.trx);
		for (const { key } of taken.rows) this.#taken.add(key);
	}

	async #readRuns(ids: ReadonlySet<number>): Promise<void> {
		const missing = [...ids].filter((id) => !this.#runs.has(id));
		if (missing.length === 0) return;
		const rows = await this.trx
			.selectFrom('run')
			.innerJoin('stencil', 'stencil.id', 'run.stencilId')
			.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
			// Heights are judged by the foil as it was measured, where it was.
			.select(({ fn }) => [
				'run.id',
				'run.jobId',
				'run.lineId',
				'run.boardSideId',
				'run.stencilToolId',
				fn.coalesce('stencilTool.measuredUm', 'stencil.foilUm').as('foilUm')
			])
			.where('run.id', 'in', missing)
			.execute();
		for (const row of rows) this.#runs.set(row.id, row);
		for (const sideId of new Set(rows.map((row) => row.boardSideId))) await this.#readSide(sideId);
	}

	async #readSide(sideId: number): Promise<void> {
		if (knownSides.has(sideId)) return;
		const side = await this.trx
			.selectFrom('boardSide')
			.select(['widthMm', 'heightMm', 'panel', 'apertures', 'side'])
			.where('id', '=', sideId)
			.executeTakeFirstOrThrow();
		knownSides.set(sideId, {
			circuits: panelGeometry(side, side.panel, side.side).origins.length,
			classes: side.apertures.map((a) => a.padClass),
			widthsMm: side.apertures.map((a) => a.widthMm),
			refDes: side.apertures.map((a) => a.refDes)
		});
	}

	#addPass(pass: Pass): Pass {
		const list = this.#passes.get(pass.serial);
		if (list) list.push(pass);
		else this.#passes.set(pass.serial, [pass]);
		return pass;
	}

	/** Takes one message. @returns why it cannot be, or null */
	take(m: Message): string | null {
		if (m.type === 'sensor_reading') return this.#takeSensor(m);
		const station = this.#stations.get(m.source);
		if (!station) return `unknown source "${m.source}": it is "line name/station name"`;
		const role = ROLE_OF[m.type];
		if (role && role !== station.role) return `a ${station.role} station does not report ${m.type}`;
		if (m.type === 'state') {
			const runId = [...this.#runs.values()].findLast((run) => run.lineId === station.lineId)?.id ?? null;
			this.topics.add('line');
			if (this.#states.take(m, station.id, runId)) this.topics.add('shift');
			return null;
		}
		if (m.type === 'feeder_loaded') return this.#takeFeeder(m, station);
		if (m.type === 'paste_loaded') return this.#takeJar(m, station);
		const pass = m.type === 'print' ? this.#open(m, station) : this.#passOn(m.panel, station.lineId);
		if (typeof pass === 'string') return pass;
		const reason = this.#takeResult(m, pass, station);
		if (reason !== null) return reason;
		if (pass.id === null && !this.#passes.get(pass.serial)?.includes(pass)) {
			this.#addPass(pass);
			if (!this.#jobOf.has(pass.serial)) this.#jobOf.set(pass.serial, { panelId: null, jobId: pass.run.jobId });
		}
		this.topics.add('line').add('results');
		pass.changed = true;
		if (station.last) [pass.stationId, pass.finishedAt] = [null, new Date(m.at)];
		else pass.stationId = station.id;
		return null;
	}

	#takeFeeder(m: MessageOf<'feeder_loaded'>, station: Station): string | null {
		if (this.#runs.get(m.runId)?.lineId !== station.lineId) return `this line has no run ${m.runId}`;
		this.topics.add('line');
		this.#feeders.push({ station, m });
		return null;
	}

	/** A jar that the printer says it was given: recorded as it happened, whatever the rules say of it. */
	#takeJar(m: MessageOf<'paste_loaded'>, station: Station): string | null {
		if (this.#runs.get(m.runId)?.lineId !== station.lineId) return `this line has no run ${m.runId}`;
		if (!this.#jars.has(m.jar)) return `unknown jar "${m.jar}"`;
		this.topics.add('paste').add('line');
		this.#loads.push({ station, m });
		return null;
	}

	#takeSensor(m: MessageOf<'sensor_reading'>): string | null {
		const sensor = this.#sensors.get(m.source);
		if (!sensor) return `unknown sensor "${m.source}": it is "Sensors/" and the sensor's name`;
		const key = `sensor ${sensor} ${Date.parse(m.at)}`;
		if (this.#taken.has(key)) return `${m.source} has a reading of that moment already`;
		this.#taken.add(key);
		this.topics.add('paste');
		this.#readings.push({ sensorId: sensor, at: new Date(m.at), temperatureC: m.temperatureC, rhPct: m.rhPct ?? null });
		return null;
	}

	/** The first print of a panel in a run opens its pass; a re-print finds it. A run that has ended still takes what its machine did. */
	#open(m: MessageOf<'print'>, station: Station): Pass | string {
		const run = this.#runs.get(m.runId);
		if (!run || run.lineId !== station.lineId) return `this line has no run ${m.runId}`;
		const known = this.#passes.get(m.panel)?.find((pass) => pass.run.id === run.id);
		if (known) return known;
		const panel = this.#jobOf.get(m.panel);
		if (panel && panel.jobId !== run.jobId) return `panel "${m.panel}" belongs to another job`;
		return {
			id: null,
			panelId: panel?.panelId ?? null,
			serial: m.panel,
			run,
			stationId: station.id,
			printedAt: new Date(m.at),
			finishedAt: null,
			changed: true
		};
	}

	/** The pass that a panel is on at this line: the latest that was printed. */
	#passOn(serial: string, lineId: number): Pass | string {
		return this.#passes.get(serial)?.findLast((pass) => pass.run.lineId === lineId) ?? `unknown panel "${serial}"`;
	}

	#claim(key: string, pass: Pass, rest: string): boolean {
		const full = `${key} ${pass.id ?? `${pass.serial}@${pass.run.id}`} ${rest}`;
		if (this.#taken.has(full)) return false;
		this.#taken.add(full);
		return true;
	}

	#takeResult(
		m: Exclude<Message, { type: 'state' | 'feeder_loaded' | 'paste_loaded' | 'sensor_reading' }>,
		pass: Pass,
		station: Station
	): string | null {
		switch (m.type) {
			case 'print':
				if (!this.#claim('print', pass, String(m.printAttempt))) return `panel ${m.panel} has print ${m.printAttempt} already`;
				this.#prints.push({ pass, m });
				return null;
			case 'paste_inspection':
			case 'paste_summary':
				return this.#takePaste(m, pass);
			case 'placement':
				if (!this.#claim('place', pass, String(station.id))) return `panel ${m.panel} was reported by ${station.name} already`;
				this.#placements.push({ pass, station, m });
				return null;
			case 'oven_pass':
				this.#ovens.push({ pass, station, m });
				return null;
			default:
				if (!this.#claim('visit', pass, `${station.id} ${m.circuit} ${m.attempt}`))
					return `circuit ${m.circuit} of panel ${m.panel} has an attempt ${m.attempt} already`;
				this.#visits.push({ pass, station, m });
				return null;
		}
	}

	#takePaste(m: MessageOf<'paste_inspection' | 'paste_summary'>, pass: Pass): string | null {
		const pads = knownSides.get(pass.run.boardSideId)!;
		const raw = m.type === 'paste_inspection' ? m : null;
		const wrong = raw && wrongLength(raw, pads);
		if (wrong) return wrong;
		if (!this.#claim('paste', pass, `${m.printAttempt} ${m.inspectionAttempt}`))
			return `panel ${m.panel} has inspection ${m.inspectionAttempt} of print ${m.printAttempt} already`;
		this.#pastes.push({
			pass,
			printAttempt: m.printAttempt,
			inspectionAttempt: m.inspectionAttempt,
			measuredAt: new Date(m.at),
			result: raw ? judgeReadings(raw, pads, pass.run.foilUm, this.#limits.limits) : fromSummary(m as MessageOf<'paste_summary'>),
			raw
		});
		return null;
	}

	/** Runs whose panels were inspected pad by pad. */
	get inspectedRuns(): Set<number> {
		return new Set(this.#pastes.filter((p) => p.raw).map((p) => p.pass.run.id));
	}

	/** Writes everything that was taken. */
	async write(): Promise<void> {
		await this.#writePasses();
		await this.#states.write();
		await insertRows(this.trx, 'print', this.#prints, ({ pass, m }) => ({
			passId: pass.id!,
			printAttempt: m.printAttempt,
			printedAt: new Date(m.at),
			stroke: m.stroke,
			printsSinceWipe: m.printsSinceWipe,
			printsSinceTopup: m.printsSinceTopup ?? null,
			minutesSincePrevious: m.minutesSincePrevious ?? null,
			alignment: m.stencilMarks && m.boardMarks ? JSON.stringify({ stencilMarks: m.stencilMarks, boardMarks: m.boardMarks }) : null,
			cycleS: m.cycleS
		}));
		await insertRows(this.trx, 'pasteJarEvent', this.#loads, ({ station, m }) => ({
			jarId: m.jar,
			kind: 'load_stencil',
			at: new Date(m.at),
			enteredAt: new Date(m.at),
			source: m.source,
			grams: m.grams,
			lineId: station.lineId,
			runId: m.runId,
			stencilToolId: this.#runs.get(m.runId)!.stencilToolId
		}));
		await insertRows(this.trx, 'sensorReading', this.#readings, (r) => r);
		if (this.#readings.length) {
			const latest = Math.max(...this.#readings.map((r) => r.at.getTime()));
			await holdTouchedJars(this.trx, [...new Set(this.#readings.map((r) => r.sensorId))], latest);
		}
		await writePaste(this.trx, this.copy, this.#pastes, this.#limits.revision);
		await insertRows(this.trx, 'placementReport', this.#placements, ({ pass, station, m }) => ({
			passId: pass.id!,
			stationId: station.id,
			placedAt: new Date(m.at),
			cycleS: m.cycleS,
			lost: JSON.stringify(m.lost)
		}));
		await insertRows(this.trx, 'feederLoad', this.#feeders, ({ station, m }) => ({
			stationId: station.id,
			runId: m.runId,
			slot: m.slot,
			partNumber: m.partNumber,
			reel: m.reel,
			makerLot: m.makerLot,
			pieces: m.pieces,
			loadedAt: new Date(m.at)
		}));
		await insertRows(this.trx, 'ovenPass', this.#ovens, ({ pass, station, m }) => ({
			passId: pass.id!,
			stationId: station.id,
			enteredAt: new Date(m.enteredAt),
			leftAt: new Date(m.at),
			zoneC: m.zoneC,
			beltCmPerMin: m.beltCmPerMin
		}));
		await this.#writeVisits();
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
					some.map(({ panelId, run, stationId, printedAt, finishedAt }) => ({
						panelId: panelId!,
						runId: run.id,
						stationId,
						printedAt,
						finishedAt
					}))
				)
				.returning(['id', 'panelId', 'runId'])
				.execute();
			const ids = new Map(made.map((row) => [`${row.panelId} ${row.runId}`, row.id]));
			for (const pass of some) pass.id = ids.get(`${pass.panelId} ${pass.run.id}`)!;
		}
		const moved = all.filter((pass) => pass.changed && !isFresh.has(pass)).sort((a, b) => a.id! - b.id!);
		if (moved.length)
			await sql`update panel_pass p set station_id = m.station_id, finished_at = m.finished_at
				from unnest(${moved.map((p) => p.id)}::int[], ${moved.map((p) => p.stationId)}::int[], ${moved.map((p) => p.finishedAt)}::timestamptz[])
				as m(id, station_id, finished_at) where p.id = m.id`.execute(this.trx);
	}

	async #writeVisits(): Promise<void> {
		for (let i = 0; i < this.#visits.length; i += ROWS_AT_ONCE) {
			const some = this.#visits.slice(i, i + ROWS_AT_ONCE);
			const made = await this.trx
				.insertInto('inspectionVisit')
				.values(
					some.map(({ pass, station, m }) => ({
						passId: pass.id!,
						stationId: station.id,
						circuit: m.circuit,
						attempt: m.attempt,
						startedAt: new Date(m.startedAt),
						endedAt: new Date(m.at),
						result: m.result
					}))
				)
				.returning(['id', 'passId', 'stationId', 'circuit', 'attempt'])
				.execute();
			const ids = new Map(made.map((v) => [`${v.passId} ${v.stationId} ${v.circuit} ${v.attempt}`, v.id]));
			await insertRows(
				this.trx,
				'inspectionCall',
				some.flatMap(({ pass, station, m }) => {
					const visitId = ids.get(`${pass.id} ${station.id} ${m.circuit} ${m.attempt}`)!;
					return m.calls.map((call) => ({ visitId, ...call }));
				}),
				(call) => call
			);
		}
	}
}
