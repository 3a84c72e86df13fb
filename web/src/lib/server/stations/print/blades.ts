import { judgeBlade } from '@keen-relay/core/printing';
import { sql } from 'kysely';
import { refuse } from '../../answer.ts';
import { announce, db } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';

export interface BladeChange {
	stroke: 'F' | 'R';
	code: string;
	why: string;
	nicked: boolean;
}

/** The blades in a line's printer, each with the strokes that it has made: a blade keeps its own when it changes holders or lines. */
export async function bladesOf(lineId: number) {
	const fittings = await db
		.selectFrom('bladeFitting')
		.innerJoin('user', 'user.id', 'bladeFitting.fittedBy')
		.select(['bladeFitting.id', 'stroke', 'code', 'why', 'nicked', 'fittedAt', 'user.name as fittedBy'])
		.where('lineId', '=', lineId)
		.distinctOn('stroke')
		.orderBy('stroke')
		.orderBy('bladeFitting.id', 'desc')
		.execute();
	return Promise.all(
		fittings.map(async (f) => {
			const strokes = await strokesLately(f.code);
			return { ...f, strokes, verdict: judgeBlade(strokes, f.nicked) };
		})
	);
}

/** Counting every print of a blade's life takes its time: what was counted holds for a while, real ms. */
const COUNTED_MS = 20_000;
const counted = new Map<string, { at: number; strokes: Promise<number> }>();

function strokesLately(code: string): Promise<number> {
	const known = counted.get(code);
	if (known && Date.now() - known.at < COUNTED_MS) return known.strokes;
	const strokes = strokesOf(code);
	strokes.catch(() => counted.delete(code));
	counted.set(code, { at: Date.now(), strokes });
	return strokes;
}

/** Strokes of a blade while it stood in a printer: a print of more than one stroke begins with the side that it reports and takes both in turn. */
async function strokesOf(code: string): Promise<number> {
	const each = sql<number>`coalesce((print_recipe.recipe ->> 'strokes')::int, 1)`;
	const { n } = await db
		.with('held', (q) =>
			q.selectFrom('bladeFitting').select(({ fn }) => [
				'lineId',
				'stroke',
				'code',
				'fittedAt',
				fn
					.agg<Date | null>('lead', ['fittedAt'])
					.over((o) => o.partitionBy(['lineId', 'stroke']).orderBy('bladeFitting.id'))
					.as('until')
			])
		)
		.selectFrom('held')
		.innerJoin('run', 'run.lineId', 'held.lineId')
		.innerJoin('panelPass', 'panelPass.runId', 'run.id')
		.innerJoin('print', 'print.passId', 'panelPass.id')
		.leftJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
		.select(sql<number>`coalesce(sum(case when print.stroke = held.stroke then (${each} + 1) / 2 else ${each} / 2 end), 0)::int`.as('n'))
		.where('held.code', '=', code)
		.whereRef('print.printedAt', '>=', 'held.fittedAt')
		.where(({ or, eb, ref }) => or([eb('held.until', 'is', null), eb('print.printedAt', '<', ref('held.until'))]))
		.executeTakeFirstOrThrow();
	return n;
}

/** The line whose printer a blade stands in; null for none. */
async function standsOn(code: string): Promise<{ lineId: number; line: string } | null> {
	const now = await db
		.selectFrom('bladeFitting')
		.innerJoin('line', 'line.id', 'bladeFitting.lineId')
		.distinctOn(['bladeFitting.lineId', 'stroke'])
		.select(['bladeFitting.lineId', 'line.name as line', 'code'])
		.orderBy('bladeFitting.lineId')
		.orderBy('stroke')
		.orderBy('bladeFitting.id', 'desc')
		.execute();
	return now.find((f) => f.code === code) ?? null;
}

/** Says which blade stands in a holder now, or that a nick was seen on it. Taking one from the other holder swaps the two. */
export async function fitBlade(actor: Actor, lineId: number, { stroke, code, why, nicked }: BladeChange) {
	const line = await db.selectFrom('line').select('id').where('id', '=', lineId).executeTakeFirst();
	if (!line) return refuse('line', lineId, 'There is no such line.');
	const fittedAt = new Date(await plantNow());
	const inPlace = await bladesOf(lineId);
	const here = inPlace.find((b) => b.stroke === stroke);
	const there = inPlace.find((b) => b.stroke !== stroke);
	const swapped = there?.code === code;
	if (swapped && !here) return refuse('code', code, `${code} stands in the other holder. Say first what stands in this one.`);
	const elsewhere = await standsOn(code);
	if (elsewhere !== null && elsewhere.lineId !== lineId)
		return refuse('code', code, `${code} stands in the printer of ${elsewhere.line}. Say first what stands there now.`);
	return db.transaction().execute(async (trx) => {
		const row = (side: 'F' | 'R', blade: { code: string; nicked: boolean }) => ({
			lineId,
			stroke: side,
			code: blade.code,
			nicked: blade.nicked,
			why,
			fittedBy: actor.id,
			fittedAt
		});
		await trx
			.insertInto('bladeFitting')
			.values(swapped ? [row(stroke, { code, nicked: nicked || there.nicked }), row(there.stroke, here!)] : [row(stroke, { code, nicked })])
			.execute();
		const what = swapped ? `${code} and ${here!.code} swapped` : `${code} ${stroke === 'F' ? 'front' : 'rear'}${nicked ? ', a nick' : ''}`;
		counted.clear();
		await logAction(trx, actor, 'blade.fit', `${what}: ${why}`, null, lineId);
		await announce(trx, 'boards');
		return { swapped };
	});
}
