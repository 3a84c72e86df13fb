import type { Topic, Trx } from '../db/index.ts';
import type { StationRole } from '$lib/model/types.ts';
import type { Message, MessageOf } from './messages.ts';
import { recordPaste, type KnownPanel } from './record-paste.ts';

interface Station {
	id: number;
	lineId: number;
	role: StationRole;
	name: string;
	last: boolean;
}

const ROLE_OF: Record<Message['type'], StationRole | null> = {
	state: null,
	print: 'print',
	paste_inspection: 'pasteCheck',
	placement: 'place',
	feeder_loaded: 'place',
	oven_pass: 'oven',
	optical_inspection: 'optical',
	in_circuit_test: 'inCircuit'
};

/** Writes one message into the tables it belongs to. @returns why it could not be, or null */
export async function record(trx: Trx, m: Message, topics: Set<Topic>): Promise<string | null> {
	const station = await stationOf(trx, m.source);
	if (!station) return `unknown source "${m.source}": it is "line name/station name"`;
	const role = ROLE_OF[m.type];
	if (role && role !== station.role) return `a ${station.role} station does not report ${m.type}`;
	topics.add('line');
	if (m.type === 'state') {
		await trx
			.updateTable('station')
			.set({ state: m.state, stateReason: m.reason ?? null, stateAt: new Date(m.at) })
			.where('id', '=', station.id)
			.execute();
		return null;
	}
	if (m.type === 'feeder_loaded') return recordFeeder(trx, m, station);
	topics.add('results');
	const panel = m.type === 'print' ? await openPanel(trx, m, station) : await knownPanel(trx, m.panel);
	if (!panel) return m.type === 'print' ? `this line has no run ${m.runId}` : `unknown panel "${m.panel}"`;
	await trx
		.updateTable('panel')
		.set(station.last ? { stationId: null, finishedAt: new Date(m.at) } : { stationId: station.id })
		.where('id', '=', panel.id)
		.execute();
	switch (m.type) {
		case 'print':
			await trx
				.insertInto('print')
				.values({
					panelId: panel.id,
					printAttempt: m.printAttempt,
					printedAt: new Date(m.at),
					stroke: m.stroke,
					printsSinceWipe: m.printsSinceWipe,
					cycleS: m.cycleS
				})
				.execute();
			return null;
		case 'paste_inspection':
			return recordPaste(trx, m, panel);
		case 'placement':
			await trx
				.insertInto('placementReport')
				.values({ panelId: panel.id, stationId: station.id, placedAt: new Date(m.at), cycleS: m.cycleS, lost: JSON.stringify(m.lost) })
				.execute();
			return null;
		case 'oven_pass':
			await trx
				.insertInto('ovenPass')
				.values({
					panelId: panel.id,
					stationId: station.id,
					enteredAt: new Date(m.enteredAt),
					leftAt: new Date(m.at),
					zoneC: m.zoneC,
					beltCmPerMin: m.beltCmPerMin
				})
				.execute();
			return null;
		default:
			return recordVisit(trx, m, panel, station);
	}
}

async function stationOf(trx: Trx, source: string): Promise<Station | null> {
	const [lineName, stationName] = source.split('/');
	const stations = await trx
		.selectFrom('station')
		.innerJoin('line', 'line.id', 'station.lineId')
		.select(['station.id', 'station.lineId', 'station.role', 'station.name'])
		.where('line.name', '=', lineName ?? '')
		.orderBy('station.position')
		.execute();
	const at = stations.findIndex((station) => station.name === stationName);
	const found = stations[at];
	return found ? { ...found, last: at === stations.length - 1 } : null;
}

async function knownPanel(trx: Trx, serial: string): Promise<KnownPanel | null> {
	const panel = await trx
		.selectFrom('panel')
		.innerJoin('run', 'run.id', 'panel.runId')
		.select(['panel.id', 'panel.runId', 'run.boardSideId'])
		.where('panel.serial', '=', serial)
		.executeTakeFirst();
	return panel ?? null;
}

/** The first print of a panel opens it under the run that the machine was given; a re-print finds it. */
async function openPanel(trx: Trx, m: MessageOf<'print'>, station: Station): Promise<KnownPanel | null> {
	const known = await knownPanel(trx, m.panel);
	if (known) return known;
	const run = await runOfLine(trx, m.runId, station.lineId);
	if (!run) return null;
	const { id } = await trx
		.insertInto('panel')
		.values({ serial: m.panel, runId: run.id, stationId: station.id, printedAt: new Date(m.at), finishedAt: null })
		.returning('id')
		.executeTakeFirstOrThrow();
	return { id, runId: run.id, boardSideId: run.boardSideId };
}

/** A run of this line, also one that has ended: what a machine did is a fact. */
function runOfLine(trx: Trx, runId: number, lineId: number) {
	return trx.selectFrom('run').select(['id', 'boardSideId']).where('id', '=', runId).where('lineId', '=', lineId).executeTakeFirst();
}

async function recordFeeder(trx: Trx, m: MessageOf<'feeder_loaded'>, station: Station): Promise<string | null> {
	const run = await runOfLine(trx, m.runId, station.lineId);
	if (!run) return `this line has no run ${m.runId}`;
	await trx
		.insertInto('feederLoad')
		.values({
			stationId: station.id,
			runId: run.id,
			slot: m.slot,
			partNumber: m.partNumber,
			reel: m.reel,
			makerLot: m.makerLot,
			pieces: m.pieces,
			loadedAt: new Date(m.at)
		})
		.execute();
	return null;
}

async function recordVisit(
	trx: Trx,
	m: MessageOf<'optical_inspection' | 'in_circuit_test'>,
	panel: KnownPanel,
	station: Station
): Promise<string | null> {
	const visit = await trx
		.insertInto('inspectionVisit')
		.values({
			panelId: panel.id,
			stationId: station.id,
			circuit: m.circuit,
			attempt: m.attempt,
			startedAt: new Date(m.startedAt),
			endedAt: new Date(m.at),
			result: m.result
		})
		.onConflict((conflict) => conflict.doNothing())
		.returning('id')
		.executeTakeFirst();
	if (!visit) return `circuit ${m.circuit} of panel ${m.panel} has an attempt ${m.attempt} already`;
	if (m.calls.length)
		await trx
			.insertInto('inspectionCall')
			.values(m.calls.map((call) => ({ visitId: visit.id, ...call })))
			.execute();
	return null;
}
