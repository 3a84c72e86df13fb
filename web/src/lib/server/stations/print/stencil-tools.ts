import { panelGeometry } from '@keen-relay/core/artwork';
import type { Issue } from '@keen-relay/core/judgement';
import { judgeTension, refusesStencil, type StencilMakeUp } from '@keen-relay/core/printing';
import { Refusal, refuse } from '../../answer.ts';
import { boardSide } from '../../queries/sides.ts';
import { announce, db, type Db, type Trx } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';

/** Stencils as things: where each is, what it prints, how often it has, and how it stands; all of them, or one. */
export async function stencilTools(id: number | null = null, trx: Db | Trx = db) {
	const rows = await trx
		.selectFrom('stencilTool')
		.innerJoin('stencil', 'stencil.id', 'stencilTool.stencilId')
		.innerJoin('boardSide', 'boardSide.id', 'stencil.boardSideId')
		.innerJoin('boardRevision', 'boardRevision.id', 'boardSide.boardRevisionId')
		.selectAll('stencilTool')
		.select([
			'stencil.revision as design',
			'stencil.foilUm',
			'stencil.boardSideId',
			'boardSide.side',
			'boardRevision.name as board',
			'boardRevision.revision'
		])
		.$if(id !== null, (q) => q.where('stencilTool.id', '=', id!))
		.orderBy('stencilTool.code')
		.execute();
	if (rows.length === 0) return [];
	const ids = rows.map((r) => r.id);
	const [events, prints] = await Promise.all([
		// Of all stencils: another one may stand in the same printer since.
		trx.selectFrom('stencilToolEvent').selectAll().orderBy('at', 'desc').orderBy('id', 'desc').execute(),
		trx
			.selectFrom('run')
			.select(({ fn }) => ['run.stencilToolId', fn.sum<number>('run.prints').as('n')])
			.where('run.stencilToolId', 'in', ids)
			.groupBy('run.stencilToolId')
			.execute()
	]);
	// A printer holds one stencil: the one that was mounted there last, until it is taken off.
	const onLine = new Map<number, number>();
	for (const e of [...events].reverse()) {
		if (e.kind === 'mount' && e.lineId !== null) onLine.set(e.lineId, e.stencilToolId);
		if (e.kind === 'unmount') for (const [line, tool] of onLine) if (tool === e.stencilToolId) onLine.delete(line);
	}
	return rows.map((row) => {
		const own = events.filter((e) => e.stencilToolId === row.id);
		const tension = own.find((e) => e.kind === 'measure')?.tension ?? [];
		const cleaned = own.find((e) => e.kind === 'clean')?.at ?? null;
		const used = prints.find((p) => p.stencilToolId === row.id);
		return {
			...row,
			prints: used?.n ?? 0,
			cleanedAt: cleaned,
			tension,
			tensionVerdict: judgeTension(tension),
			mountedOn: [...onLine].find(([, tool]) => tool === row.id)?.[0] ?? null,
			events: own.slice(0, 12).map(({ id, kind, at, note }) => ({ id, kind, at, note }))
		};
	});
}

export type StencilToolNow = Awaited<ReturnType<typeof stencilTools>>[number];

function makeUpOf(tool: StencilToolNow): StencilMakeUp {
	return {
		code: tool.code,
		board: tool.board,
		revision: tool.revision,
		side: tool.side,
		circuits: tool.circuits,
		fiducials: tool.fiducials,
		foilUm: tool.foilUm,
		state: tool.state,
		damage: tool.damage
	};
}

/** What a line's stencil has to be for a board side. */
async function jobOf(sideId: number, foilUm: number | null) {
	const side = (await boardSide(sideId)) ?? refuse('side', sideId, 'There is no such board side.');
	const panel = panelGeometry(side, side.panel, side.side);
	return { board: side.name, revision: side.revision, side: side.side, circuits: panel.origins.length, fiducials: panel.fiducials, foilUm };
}

export async function keepStencilTool(actor: Actor, given: { code: string; stencilId: number; place: string; measuredUm: number | null }) {
	const at = new Date(await plantNow());
	const design = await db.selectFrom('stencil').selectAll().where('id', '=', given.stencilId).executeTakeFirst();
	if (!design) return refuse('stencilId', given.stencilId, 'There is no such stencil design.');
	const job = await jobOf(design.boardSideId, design.foilUm);
	return db.transaction().execute(async (trx) => {
		const row = await trx
			.insertInto('stencilTool')
			.values({
				code: given.code,
				stencilId: given.stencilId,
				place: given.place,
				measuredUm: given.measuredUm,
				damage: null,
				circuits: job.circuits,
				fiducials: JSON.stringify(job.fiducials),
				madeBy: actor.id,
				madeAt: at
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		await logAction(trx, actor, 'stencilTool.keep', `${given.code}, ${job.board} ${job.revision} ${job.side}`);
		await announce(trx, 'boards');
		return row;
	});
}

/** Mounts, cleans, moves, damages, repairs or scraps a stencil. Mounting the wrong one is refused with every reason. */
export async function reportStencilTool(
	actor: Actor,
	id: number,
	{
		kind,
		lineId,
		note
	}: { kind: 'mount' | 'unmount' | 'clean' | 'move' | 'damage' | 'repair' | 'scrap'; lineId?: number | undefined; note: string }
) {
	const at = new Date(await plantNow());
	if ((kind === 'move' || kind === 'damage') && note === '')
		refuse('note', '', kind === 'move' ? 'Say where it is now.' : 'Say what is damaged.');
	return db.transaction().execute(async (trx) => {
		// Two people at one stencil: the second sees what the first did.
		await trx.selectFrom('stencilTool').select('id').where('id', '=', id).forUpdate().execute();
		if (lineId !== undefined) await trx.selectFrom('line').select('id').where('id', '=', lineId).forUpdate().execute();
		const tool = (await stencilTools(id, trx))[0] ?? refuse('stencil', id, 'There is no such stencil.');
		const run = kind === 'mount' ? await runToMount(tool, lineId) : null;
		await trx
			.insertInto('stencilToolEvent')
			.values({ stencilToolId: id, kind, at, personId: actor.id, lineId: lineId ?? null, note: note || null, tension: null })
			.execute();
		if (kind === 'move') await trx.updateTable('stencilTool').set({ place: note }).where('id', '=', id).execute();
		if (kind === 'damage') await trx.updateTable('stencilTool').set({ state: 'blocked', damage: note }).where('id', '=', id).execute();
		if (kind === 'repair') await trx.updateTable('stencilTool').set({ state: 'usable', damage: null }).where('id', '=', id).execute();
		if (kind === 'scrap')
			await trx
				.updateTable('stencilTool')
				.set({ state: 'scrapped', damage: note || tool.damage })
				.where('id', '=', id)
				.execute();
		if (run) await trx.updateTable('run').set({ stencilToolId: id }).where('id', '=', run.id).execute();
		await logAction(
			trx,
			actor,
			kind === 'mount' || kind === 'unmount' ? 'stencilTool.mount' : 'stencilTool.keep',
			`${tool.code}: ${kind}`,
			null,
			lineId ?? null
		);
		await announce(trx, 'boards');
		await announce(trx, 'line');
		return { id };
	});
}

async function runToMount(tool: StencilToolNow, lineId: number | undefined) {
	if (!lineId) return refuse('lineId', '', `Say on which line ${tool.code} is mounted.`);
	const run = await runOnLine(lineId);
	if (!run) return refuse('lineId', lineId, 'This line has no run: start the job first.');
	const reasons = await refusesOn(tool, run.boardSideId, run.foilUm);
	if (reasons.length)
		throw new Refusal(
			reasons.map((r): Issue => ({ severity: 'error', code: r.code, field: 'stencil', value: tool.code, message: `${r.why} ${r.fix}.` }))
		);
	return run;
}

/** Every reason against a stencil for a run: its job and side, and its tension. */
export async function refusesOn(tool: StencilToolNow, sideId: number, foilUm: number) {
	const reasons = refusesStencil(makeUpOf(tool), await jobOf(sideId, foilUm));
	if (tool.tensionVerdict.level === 'stopped')
		reasons.push({ code: 'tension', why: `${tool.code}: ${tool.tensionVerdict.statement}`, fix: 'Take another stencil' });
	return reasons;
}

/** What a line's run prints with: its side, and the foil that was released. */
export function runOnLine(lineId: number) {
	return db
		.selectFrom('run')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.innerJoin('job', 'job.id', 'run.jobId')
		.select(['run.id', 'run.boardSideId', 'stencil.foilUm', 'job.number'])
		.where('run.lineId', '=', lineId)
		.where('run.endedAt', 'is', null)
		.executeTakeFirst();
}

export async function measureTension(actor: Actor, id: number, readings: { x: number; y: number; nPerCm: number }[]) {
	const at = new Date(await plantNow());
	const tool = await db.selectFrom('stencilTool').select('code').where('id', '=', id).executeTakeFirst();
	if (!tool) return refuse('stencil', id, 'There is no such stencil.');
	const verdict = judgeTension(readings);
	await db.transaction().execute(async (trx) => {
		await trx
			.insertInto('stencilToolEvent')
			.values({
				stencilToolId: id,
				kind: 'measure',
				at,
				personId: actor.id,
				lineId: null,
				note: verdict.statement,
				tension: JSON.stringify(readings)
			})
			.execute();
		await logAction(trx, actor, 'stencilTool.keep', `${tool.code}: tension measured`);
		await announce(trx, 'boards');
	});
	return { verdict };
}
