import { jobsInARow, piecesOf, pullPlan, type AheadJob, type PullJar, type PullPlan } from '@keen-relay/core/paste';
import { db } from '../db/index.ts';
import type { CurrentRun } from '../line/station-summary.ts';
import { jarsNow, lineOf, pasteOfPanel, type JarNow } from './jars.ts';

const H = 3_600_000;
/** Between two jobs, min (common practice; the line's own times are in its log). */
const CHANGE_OVER_MIN = 30;
/** How far ahead is planned. */
const HORIZON_MS = 48 * H;

/** Jobs that this line can print next, one after the other as they were entered: what is left of the run, then what waits and is released here. */
async function jobsAhead(
	lineId: number,
	run: CurrentRun | null,
	taktS: number | null,
	gPerPanel: number,
	nowMs: number
): Promise<AheadJob[]> {
	const ahead =
		run && run.panels > run.printed ? [{ number: run.number, panels: run.panels - run.printed, gPerPanel, cycleS: taktS ?? 60 }] : [];
	const waiting = await db
		.selectFrom('job')
		.innerJoin('boardSide', 'boardSide.boardRevisionId', 'job.boardRevisionId')
		.innerJoin('placementProgram', (join) =>
			join
				.onRef('placementProgram.boardSideId', '=', 'boardSide.id')
				.on('placementProgram.lineId', '=', lineId)
				.on('placementProgram.status', '=', 'released')
		)
		.innerJoin('stencil', (join) => join.onRef('stencil.boardSideId', '=', 'boardSide.id').on('stencil.status', '=', 'released'))
		.select(['job.number', 'job.panels', 'boardSide.id as sideId', 'stencil.foilUm', 'placementProgram.plan'])
		.where('job.withdrawnAt', 'is', null)
		.where(({ not, exists, selectFrom }) =>
			not(exists(selectFrom('run').select('run.id').whereRef('run.jobId', '=', 'job.id').whereRef('run.boardSideId', '=', 'boardSide.id')))
		)
		.orderBy('job.id')
		.limit(20)
		.execute();
	for (const { number, panels, sideId, foilUm, plan } of waiting) {
		const cycleS = Math.max(20, ...plan.machines.map((m) => m.totalS));
		const { gPerPanel: taken } = await pasteOfPanel(sideId, foilUm);
		ahead.push({ number, panels, gPerPanel: taken, cycleS });
	}
	return jobsInARow(ahead, nowMs, CHANGE_OVER_MIN).filter((job) => job.startMs < nowMs + HORIZON_MS);
}

/** A jar as the plan sees it; null where no job can have it. */
function forPlan({ facts, status, rules }: JarNow, wanted: string, nowMs: number): PullJar | null {
	if (facts.paste !== wanted || status.gramsLeft <= 0) return null;
	const gateMs = (rules.warmUpH * 60 + rules.stirMin) * 60_000;
	const jar = { id: facts.id, grams: status.gramsLeft, expiryMs: facts.expiryMs };
	switch (status.state) {
		case 'received':
		case 'cold':
			return { ...jar, readyMs: nowMs + gateMs, openEndsMs: null };
		case 'warming':
		case 'ready':
		case 'mixed':
			return { ...jar, readyMs: status.readyMs ?? nowMs, openEndsMs: null };
		case 'open':
		case 'on_stencil':
			// Whatever ends first: its open life, or the stencil life of what it was loaded for.
			return status.openedMs === null
				? null
				: { ...jar, readyMs: status.openedMs, openEndsMs: Math.min(status.untilMs ?? Infinity, status.openedMs + rules.openLifeH * H) };
		default:
			return null;
	}
}

/** Which jars leave the fridge when, over the jobs ahead of a line, so that the least paste is thrown away. */
export async function fridgePlan(
	lineId: number,
	run: CurrentRun | null,
	taktS: number | null,
	nowMs: number
): Promise<{
	jobs: AheadJob[];
	plan: PullPlan;
	wanted: string | null;
	states: Record<string, string>;
	leftOut: { id: string; why: string }[];
}> {
	const [line, jars] = await Promise.all([lineOf(lineId, nowMs), jarsNow(nowMs)]);
	const jobs = await jobsAhead(lineId, run, taktS, line.gPerPanel, nowMs);
	const own = new Set(line.portions.map((p) => p.jar));
	const usable = jars.flatMap((jar) => {
		// What lies on another line's stencil is that line's.
		if (jar.status.state === 'on_stencil' && !own.has(jar.facts.id)) return [];
		const as = line.wanted === null ? null : forPlan(jar, line.wanted, nowMs);
		return as ? [as] : [];
	});
	const known = new Set(usable.map((j) => j.id));
	return {
		jobs,
		plan: pullPlan(jobs.flatMap(piecesOf), usable, line.rules),
		wanted: line.wantedName,
		states: Object.fromEntries(jars.map((j) => [j.facts.id, j.status.state])),
		leftOut: jars
			.filter((j) => !known.has(j.facts.id))
			.map((j) => ({ id: j.facts.id, why: j.facts.paste === line.wanted ? j.status.state.replace('_', ' ') : `is ${j.pasteName}` }))
	};
}
