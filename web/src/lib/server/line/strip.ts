import { piecesLeft } from '@keen-relay/core/feeders';
import { nextUp, shiftAt, type Due } from '@keen-relay/core/schedule';
import { stagesOf, stationsOf, taktOf } from '../boards/release.ts';
import { boardSide } from '../db/boards.ts';
import { db } from '../db/index.ts';
import { reels } from '../db/results.ts';
import type { StationRole, Tile } from '$lib/model/types.ts';
import { currentRun } from '../runs/start-run.ts';
import { plantNow } from './clock.ts';
import { plantInfo } from './plant.ts';
import { pasteTile } from '../paste/paste-station.ts';
import { stopsOf, type StopRow } from '../shift/stops.ts';
import { summarise, type CurrentRun, type StationSummary } from './station-summary.ts';

const STATION_PATH: Record<StationRole, string> = {
	print: 'print',
	pasteCheck: 'paste-check',
	place: 'place',
	oven: 'oven',
	optical: 'optical',
	inCircuit: 'in-circuit'
};

/** Roles that a line may have several stations of: their pages are known by number. */
const MANY = new Set<StationRole>(['place', 'optical']);

export interface LineNow {
	id: number;
	name: string;
	tiles: Tile[];
	summaries: Record<number, StationSummary>;
	run: CurrentRun | null;
	taktS: number | null;
	due: Due[];
	/** Stops of this shift that ask for a reason, the latest first. */
	unexplained: StopRow[];
}

/** The line as the strip shows it: every station's state, number and next need, the run, and what is due. */
export async function lineNow(lineId: number): Promise<LineNow | null> {
	const line = await db.selectFrom('line').selectAll().where('id', '=', lineId).executeTakeFirst();
	if (!line) return null;
	const [stations, run, counts, unexplained] = await Promise.all([
		stationsOf(lineId),
		currentRun(lineId),
		db
			.selectFrom('panelPass')
			.select(({ fn }) => ['stationId', fn.countAll<number>().as('panels')])
			.where('stationId', 'is not', null)
			.groupBy('stationId')
			.execute(),
		unexplainedStops(lineId)
	]);
	const summaries: Record<number, StationSummary> = {};
	await Promise.all(stations.map(async (station) => (summaries[station.id] = await summarise(station, run))));
	const standing = run ? await dueOf(lineId, run, stations) : { taktS: null, due: await dueWithoutRun(lineId) };
	const { taktS } = standing;
	const printer = stations.find((station) => station.role === 'print');
	const paste = printer ? await pasteTile(lineId, run, taktS, await plantNow()) : null;
	const due = [...standing.due, ...(paste?.due ?? [])].sort((a, b) => a.atMs - b.atMs);
	const tiles = stations.map((station, i): Tile => {
		const { verdict, figure, unit } = summaries[station.id]!;
		const path = STATION_PATH[station.role];
		return {
			stationId: station.id,
			role: station.role,
			name: station.name,
			href: `/line/${lineId}/${path}${MANY.has(station.role) ? `/${station.id}` : ''}`,
			state: station.state,
			level: station.state === 'stopped' ? 'stopped' : verdict.level,
			figure,
			unit,
			// What the machine before has reported is on its way to this one, or in it.
			panels: counts.find((count) => count.stationId === stations[i - 1]?.id)?.panels ?? 0,
			dueAtMs: due.find((entry) => entry.station === station.name)?.atMs ?? null
		};
	});
	if (paste)
		tiles.unshift({
			stationId: 0,
			role: 'paste',
			name: 'Paste',
			href: `/line/${lineId}/paste`,
			state: printer!.state,
			level: paste.verdict.level,
			figure: paste.figure,
			unit: paste.unit,
			panels: 0,
			dueAtMs: paste.due[0]?.atMs ?? null
		});
	return { id: line.id, name: line.name, tiles, summaries, run, taktS, due, unexplained };
}

async function dueOf(lineId: number, run: CurrentRun, stations: Awaited<ReturnType<typeof stationsOf>>) {
	const [side, loaded, shift] = await Promise.all([boardSide(run.boardSideId), reels(run.id), shiftState(lineId)]);
	const { taktS } = taktOf(stagesOf(stations, side!, run.plan, run.recipe.beltCmPerMin));
	const perPanel = new Map(
		run.plan.machines.flatMap((m) => m.loadList.map((load) => [`${m.machine}/${load.slot}`, load.perPanel] as const))
	);
	const due = nextUp(shift.nowMs, {
		taktS: taktS ?? 60,
		panelsToGo: Math.max(0, run.panels - run.printed),
		reels: loaded.flatMap((reel) => {
			const each = perPanel.get(`${reel.station}/${reel.slot}`);
			if (!each) return [];
			return [
				{
					station: reel.station,
					slot: reel.slot,
					partNumber: reel.partNumber,
					pieces: piecesLeft(reel, each),
					perPanel: each
				}
			];
		}),
		shiftEndMs: shift.endMs,
		handOverSigned: shift.signed
	});
	if (run.held)
		due.unshift({
			atMs: shift.nowMs,
			station: 'Print',
			action: 'Release the first prints',
			reason: 'the printer waits for it',
			who: 'technician, engineer, lead'
		});
	return { taktS, due };
}

async function dueWithoutRun(lineId: number): Promise<Due[]> {
	const shift = await shiftState(lineId);
	return nextUp(shift.nowMs, { taktS: 0, panelsToGo: 0, reels: [], shiftEndMs: shift.endMs, handOverSigned: shift.signed });
}

/** Stops of this shift that nobody has explained. */
async function unexplainedStops(lineId: number): Promise<StopRow[]> {
	const [nowMs, plant] = await Promise.all([plantNow(), plantInfo()]);
	const shift = shiftAt(nowMs, plant.shifts, plant.timeZone);
	if (!shift) return [];
	const stops = await stopsOf(lineId, new Date(shift.startMs), new Date(nowMs));
	return stops.filter((stop) => stop.reason === null).reverse();
}

/** When the shift ends and whether its hand-over bears both signatures. */
async function shiftState(lineId: number): Promise<{ nowMs: number; endMs: number | null; signed: boolean }> {
	const [nowMs, plant] = await Promise.all([plantNow(), plantInfo()]);
	const shift = shiftAt(nowMs, plant.shifts, plant.timeZone);
	if (!shift) return { nowMs, endMs: null, signed: false };
	const signed = await db
		.selectFrom('handOver')
		.select('id')
		.where('lineId', '=', lineId)
		.where('shiftDate', '=', shift.date)
		.where('shiftName', '=', shift.name)
		.where('incomingId', 'is not', null)
		.executeTakeFirst();
	return { nowMs, endMs: shift.endMs, signed: signed !== undefined };
}
