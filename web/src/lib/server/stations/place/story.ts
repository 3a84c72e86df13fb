import { piecesInPath, reelsOfPanel } from '@keen-relay/core/feeders';
import { sql } from 'kysely';
import { machineData } from '$lib/stations/index.ts';
import { db } from '../../db/index.ts';
import type { StoryPart } from '../story.ts';

/** Where a panel was placed, and the reels that fed it. */
export async function placeStory({ id, runId }: { id: number; runId: number }): Promise<StoryPart> {
	const [placements, reels] = await Promise.all([
		db
			.selectFrom('placementReport')
			.innerJoin('station', 'station.id', 'placementReport.stationId')
			.select(['station.name', 'placementReport.placedAt', 'placementReport.cycleS', 'placementReport.lost', 'placementReport.skipped'])
			.where('passId', '=', id)
			.orderBy('placedAt')
			.execute(),
		reelsThatFed(id, runId)
	]);
	return {
		lines: placements.map((p) => ({
			at: p.placedAt,
			what: p.name,
			level: null,
			text: `${p.cycleS.toFixed(1)} s, ${lostWords(Object.values(p.lost).reduce((a, b) => a + b, 0))}${skippedWords(p.skipped)}`,
			notes: []
		})),
		used: [
			{
				title: 'Reels that fed it',
				columns: ['Placer', 'Slot', 'Part', 'Reel', 'Lot'],
				rows: reels,
				none: 'Not placed yet.'
			}
		]
	};
}

const lostWords = (n: number): string => `${n} ${n === 1 ? 'pick' : 'picks'} lost`;

const skippedWords = (circuits: readonly number[]): string =>
	circuits.length
		? `; left out because it is marked: circuit${circuits.length === 1 ? '' : 's'} ${circuits.map((circuit) => circuit + 1).join(', ')}`
		: '';

/** The reels that fed a panel, as rows: after a splice the one before goes on until its tape has run through the path. */
async function reelsThatFed(passId: number, runId: number): Promise<string[][]> {
	const { rows } = await sql<{
		station: string;
		stationId: number;
		slot: number;
		partNumber: string;
		reel: string;
		makerLot: string;
		spliced: boolean;
		panelsSince: number;
	}>`
		select s.name as station, s.id as "stationId", l.slot, l.part_number as "partNumber", l.reel, l.maker_lot as "makerLot", l.spliced, (
			select coalesce(sum(case when other.id = report.id then 1 else other.good_share end), 0)::float8 from placement_report other join panel_pass pass on pass.id = other.pass_id
			where other.station_id = l.station_id and pass.run_id = l.run_id and other.placed_at between l.loaded_at and report.placed_at) as "panelsSince"
		from feeder_load l join placement_report report on report.station_id = l.station_id join station s on s.id = l.station_id
		where l.run_id = ${runId} and report.pass_id = ${passId} and l.loaded_at <= report.placed_at
		order by l.station_id, l.slot, l.loaded_at`.execute(db);
	const [stations, run] = await Promise.all([
		db.selectFrom('station').select(['id', 'role', 'spec']).where('role', '=', 'place').execute(),
		db
			.selectFrom('run')
			.innerJoin('placementProgram', 'placementProgram.id', 'run.placementProgramId')
			.select('placementProgram.plan')
			.where('run.id', '=', runId)
			.executeTakeFirst()
	]);
	const slots = new Map<string, typeof rows>();
	for (const row of rows) {
		const key = `${row.stationId} ${row.slot}`;
		slots.set(key, [...(slots.get(key) ?? []), row]);
	}
	return [...slots.values()].flatMap((loads) => {
		const { station, stationId, slot } = loads[0]!;
		const needs = run?.plan.machines.find((m) => m.machine === station)?.loadList.find((load) => load.slot === slot);
		const spec = stations.find((s) => s.id === stationId);
		const pathMm = spec ? machineData(spec, 'place')?.placer.pathMm : undefined;
		const inPath = needs && pathMm !== undefined && needs.supply.pitchMm ? piecesInPath(pathMm, needs.supply.pitchMm) : 0;
		const fed = needs ? reelsOfPanel(loads, needs.perPanel, inPath) : [loads.at(-1)!.reel];
		return fed.map((reel) => {
			const load = loads.findLast((l) => l.reel === reel)!;
			return [load.station, String(load.slot), load.partNumber, load.reel, load.makerLot];
		});
	});
}
