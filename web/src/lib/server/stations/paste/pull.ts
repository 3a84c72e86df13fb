import { jobsInARow, PASTE_RULES, piecesOf, pullPlan, type PullJar, type PullPlan } from '@keen-relay/core/paste';
import { pasteGPerPanel } from '@keen-relay/core/printing';
import { refuse } from '../../answer.ts';
import { announce, db } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import type { CurrentRun } from '../summary.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { jarsNow, type JarNow } from '../../queries/jars.ts';
import { lineOf, pasteOfPanel, type LinePaste } from '../../queries/bead.ts';

const H = 3_600_000;
/** Between two jobs, min (common practice; the line's own times are in its log). */
const CHANGE_OVER_MIN = 30;
/** How far ahead is planned. */
const HORIZON_MS = 48 * H;

/** Jobs that this line can print next: what is left of the run, then what waits and is released here, at its time or in the order of entry. */
async function jobsAhead(lineId: number, run: CurrentRun | null, taktS: number | null, line: LinePaste, nowMs: number) {
	const rest =
		run && run.panels > run.printed
			? [{ number: run.number, panels: run.panels - run.printed, gPerPanel: line.gPerPanel, cycleS: taktS ?? 60 }]
			: [];
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
		.innerJoin('ovenRecipe', (join) =>
			join
				.onRef('ovenRecipe.boardSideId', '=', 'boardSide.id')
				.on('ovenRecipe.lineId', '=', lineId)
				.on('ovenRecipe.status', '=', 'released')
		)
		.innerJoin('paste', 'paste.id', 'ovenRecipe.pasteId')
		.leftJoin('printRecipe', (join) =>
			join
				.onRef('printRecipe.boardSideId', '=', 'boardSide.id')
				.on('printRecipe.lineId', '=', lineId)
				.on('printRecipe.status', '=', 'released')
		)
		.leftJoinLateral(
			(q) =>
				q
					.selectFrom('jobStart')
					.select('jobStart.startsAt')
					.whereRef('jobStart.jobId', '=', 'job.id')
					.where('jobStart.lineId', '=', lineId)
					.orderBy('jobStart.id', 'desc')
					.limit(1)
					.as('wanted'),
			(join) => join.onTrue()
		)
		.select([
			'job.id',
			'job.number',
			'job.panels',
			'boardSide.side',
			'stencil.id as stencilId',
			'placementProgram.plan',
			'printRecipe.recipe'
		])
		.select(['wanted.startsAt', 'paste.id as pasteId', 'paste.name as pasteName', 'paste.partNumber', 'paste.rules'])
		.where('job.withdrawnAt', 'is', null)
		.where(({ not, exists, selectFrom }) =>
			not(exists(selectFrom('run').select('run.id').whereRef('run.jobId', '=', 'job.id').whereRef('run.boardSideId', '=', 'boardSide.id')))
		)
		.orderBy('job.id')
		.orderBy('boardSide.id')
		.limit(20)
		.execute();
	const jobs = await Promise.all(
		waiting.map(async ({ number, side, panels, stencilId, pasteId, plan, recipe, startsAt }) => {
			const { deliveredMm3, pasteGPerCm3 } = await pasteOfPanel(stencilId, pasteId);
			return {
				number: `${number} ${side}`,
				panels,
				gPerPanel: pasteGPerPanel(deliveredMm3, pasteGPerCm3, recipe?.wipes ?? []),
				cycleS: Math.max(20, ...plan.machines.map((m) => m.totalS)),
				startMs: startsAt?.getTime() ?? null
			};
		})
	);
	const [now] = jobsInARow(rest, nowMs, CHANGE_OVER_MIN);
	const row = [...(now ? [now] : []), ...jobsInARow(jobs, now ? now.endMs + CHANGE_OVER_MIN * 60_000 : nowMs, CHANGE_OVER_MIN)];
	return row
		.filter((job) => job.startMs < nowMs + HORIZON_MS)
		.map((job) => {
			const of = waiting.find((w) => `${w.number} ${w.side}` === job.number);
			return {
				...job,
				jobId: of?.id ?? null,
				wantedMs: of?.startsAt?.getTime() ?? null,
				paste: of ? (of.partNumber ?? of.pasteName) : line.wanted,
				rules: of ? { ...PASTE_RULES, ...of.rules } : line.rules
			};
		});
}

/** Says when a job is wanted on a line; null leaves it to the order of entry. */
export async function setStart(actor: Actor, jobId: number, lineId: number, startsAt: Date | null): Promise<{ jobId: number }> {
	const job = await db.selectFrom('job').select('number').where('id', '=', jobId).where('withdrawnAt', 'is', null).executeTakeFirst();
	if (!job) return refuse('job', jobId, 'There is no such job.');
	const line = await db.selectFrom('line').select('name').where('id', '=', lineId).executeTakeFirst();
	if (!line) return refuse('line', lineId, 'There is no such line.');
	const nowMs = await plantNow();
	if (startsAt && startsAt.getTime() < nowMs - 60_000) refuse('startsAt', startsAt.toISOString(), 'That time is past.');
	return db.transaction().execute(async (trx) => {
		await trx
			.insertInto('jobStart')
			.values({ jobId, lineId, startsAt, setBy: actor.id, setAt: new Date(nowMs) })
			.execute();
		const said = startsAt ? `wanted from ${startsAt.toISOString()}` : 'in the order of entry';
		await logAction(trx, actor, 'job.plan', `${job.number} on ${line.name}: ${said}`, null, lineId);
		await announce(trx, 'runs');
		return { jobId };
	});
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

/** Which jars leave the fridge when, over the jobs ahead of a line, so that the least paste is thrown away; each paste by itself. */
export async function fridgePlan(lineId: number, run: CurrentRun | null, taktS: number | null, nowMs: number) {
	const [line, jars] = await Promise.all([lineOf(lineId, nowMs), jarsNow(nowMs)]);
	const jobs = await jobsAhead(lineId, run, taktS, line, nowMs);
	const own = new Set(line.portions.map((p) => p.jar));
	const known = new Set<string>();
	const plan: PullPlan = { opens: [], short: [], discardedG: 0, shortG: 0 };
	for (const paste of new Set(jobs.flatMap((job) => job.paste ?? []))) {
		const of = jobs.filter((job) => job.paste === paste);
		const usable = jars.flatMap((jar) => {
			// What lies on another line's stencil is that line's.
			if (jar.status.state === 'on_stencil' && !own.has(jar.facts.id)) return [];
			const as = forPlan(jar, paste, nowMs);
			return as ? [as] : [];
		});
		usable.forEach((jar) => known.add(jar.id));
		const part = pullPlan(of.flatMap(piecesOf), usable, of[0]!.rules);
		plan.opens.push(...part.opens);
		plan.short.push(...part.short);
		plan.discardedG += part.discardedG;
		plan.shortG += part.shortG;
	}
	plan.opens.sort((a, b) => a.openMs - b.openMs);
	const pastes = new Set(jobs.map((job) => job.paste));
	return {
		jobs,
		plan,
		states: Object.fromEntries(jars.map((j) => [j.facts.id, j.status.state])),
		leftOut: jars
			.filter((j) => !known.has(j.facts.id))
			.map((j) => ({ id: j.facts.id, why: pastes.has(j.facts.paste) ? j.status.state.replace('_', ' ') : `is ${j.pasteName}` }))
	};
}
