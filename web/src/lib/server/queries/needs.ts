import { panelGeometry } from '@keen-relay/core/artwork';
import { piecesOfPanels } from '@keen-relay/core/parts';
import { sql } from 'kysely';
import { db } from '../db/index.ts';
import { boardSide } from './sides.ts';

/** Jobs of a side that are not built whole yet, as they were entered: another way of building it concerns them. */
export async function openJobsOf(sideId: number): Promise<{ number: string; panels: number }[]> {
	const open = await sql<{ number: string; panels: number }>`
		select j.number, j.panels from job j join board_side s on s.board_revision_id = j.board_revision_id
		left join lateral (select * from run where run.job_id = j.id and run.board_side_id = s.id order by run.id desc limit 1) run on true
		where s.id = ${sideId} and j.withdrawn_at is null and run.ended_at is null
		order by j.id`.execute(db);
	return open.rows;
}

/** What open jobs still ask for, side by side: pieces by part, when they are built, whose board it is. A side whose run was ended asks for nothing more. */
export async function partsOfOpenJobs(): Promise<
	{ partNumber: string; pieces: number; startMs: number | null; customer: string; job: string }[]
> {
	const open = await sql<{ number: string; panels: number; customer: string; sideId: number; startsAt: Date | null; placed: number }>`
		select j.number, j.panels, r.customer, s.id as "sideId",
			coalesce(run.started_at, (select w.starts_at from job_start w where w.job_id = j.id order by w.id desc limit 1)) as "startsAt",
			(select count(*)::int from panel_pass p where p.run_id = run.id
				and exists (select 1 from placement_report placed where placed.pass_id = p.id)) as placed
		from job j join board_revision r on r.id = j.board_revision_id join board_side s on s.board_revision_id = r.id
		left join lateral (select * from run where run.job_id = j.id and run.board_side_id = s.id order by run.id desc limit 1) run on true
		where j.withdrawn_at is null and run.ended_at is null
		order by j.id, s.id`.execute(db);
	const needs = await Promise.all(
		open.rows.map(async ({ number, panels, customer, sideId, startsAt, placed }) => {
			const side = (await boardSide(sideId))!;
			const circuits = panelGeometry(side, side.panel, side.side).origins.length;
			const startMs = startsAt?.getTime() ?? null;
			return piecesOfPanels(side.parts, circuits, panels - placed).map((of) => ({ ...of, startMs, customer, job: number }));
		})
	);
	return needs.flat();
}
