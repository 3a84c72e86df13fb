import { CAUSES, causeText, reopens, REOPEN_PANELS, splitAtAct, type SignatureReport } from '@keen-relay/core/inspection';
import { refuse } from '../../answer.ts';
import { isAway } from '../../db/away.ts';
import { announce, db } from '../../db/index.ts';
import { heavily } from '../../heavy/pool.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { runsForJudging } from '../../queries/runs.ts';
import { currentModel } from '../../queries/transfer.ts';
import { inspectedPanels, signatureRun } from '../../queries/readings.ts';
import { currentGolden, currentThresholds } from './thresholds.ts';

/** Panels that a verdict looks back on. */
const WINDOW = 36;
/** A run is looked at again after this many more panels, and not more often than this. */
const EVERY_PANELS = 3;
const LEAST_PAUSE_MS = 8000;

interface Kept {
	/** What it was read from: panels, and the thresholds and baseline that it was read by. */
	key: string;
	panels: number;
	thresholdRevision: number | null;
	report: SignatureReport;
}

/** What was found last in each run, for the pages of this process. */
const reports = new Map<number, Kept>();

/** What a run's readings are held against: the transfer curve or an approved baseline of this side and foil, and the plant's thresholds. */
async function judgedBy(runId: number) {
	const run = await runsForJudging(db).where('run.id', '=', runId).executeTakeFirstOrThrow();
	const [model, { revision, thresholds }, golden] = await Promise.all([
		currentModel(db),
		currentThresholds(),
		currentGolden(run.boardSideId, run.foilUm)
	]);
	return { model, revision, thresholds, golden };
}

/** The signatures of a run's latest panels; computed anew only when panels have come in. */
async function signaturesOf(runId: number): Promise<Kept> {
	const [panels, by] = await Promise.all([inspectedPanels(runId), judgedBy(runId)]);
	const key = `${panels.length} ${by.revision} ${by.golden?.id}`;
	const known = reports.get(runId);
	if (known?.key === key) return known;
	const run = await signatureRun(runId, panels.slice(-WINDOW));
	const report: SignatureReport = run
		? await heavily('signatures', run, by.model, by.thresholds, by.golden?.efficiency)
		: {
				signatures: [],
				notJudged: [{ codes: [], why: 'No pad readings in this run yet.', test: 'Print on' }],
				panels: 0,
				pads: 0,
				series: { all: [], small: [] },
				blindShare: 1
			};
	const kept = { key, panels: panels.length, thresholdRevision: by.revision, report };
	reports.set(runId, kept);
	if (reports.size > 40) reports.delete(reports.keys().next().value!);
	return kept;
}

/** The causes as they were looked for last: a run is looked at again every few panels, and what tile and page say in between is that. */
export async function causesNow(runId: number): Promise<Kept> {
	return reports.get(runId) ?? signaturesOf(runId);
}

/** Keeps the cases of a run up to date: new causes open one, an action that was marked done is judged by the panels since, and a cause that comes back
 * within 50 panels opens its case again.
 */
async function updateCases(runId: number): Promise<void> {
	const [{ report, panels: count, thresholdRevision }, by] = await Promise.all([signaturesOf(runId), judgedBy(runId)]);
	const at = new Date(await plantNow());
	const cases = await db.selectFrom('signatureCase').selectAll().where('runId', '=', runId).orderBy('id').execute();
	const panels = await inspectedPanels(runId);
	let changed = false;
	for (const s of report.signatures) {
		if (s.code === 'PANEL_OUTLIER' || cases.some((c) => c.code === s.code)) continue;
		await db
			.insertInto('signatureCase')
			.values({
				runId,
				code: s.code,
				openedAt: at,
				openedPrints: count,
				signature: JSON.stringify(s),
				latest: JSON.stringify(s),
				state: 'open',
				doneBy: null,
				doneAt: null,
				donePrints: null,
				doneNote: null,
				answer: null,
				thresholdRevision
			})
			.onConflict((c) => c.doNothing())
			.execute();
		changed = true;
	}
	for (const c of cases) {
		const now = report.signatures.find((s) => s.code === c.code);
		if ((c.state === 'open' || c.state === 'noBetter') && now) {
			await db
				.updateTable('signatureCase')
				.set({ latest: JSON.stringify(now) })
				.where('id', '=', c.id)
				.execute();
			continue;
		}
		if (c.donePrints === null || c.doneAt === null || (c.state !== 'done' && c.state !== 'better')) continue;
		const act = splitAtAct(
			panels.map((p) => p.printedAt.getTime()),
			c.doneAt.getTime()
		);
		const since = panels.slice(act.from);
		const after = await signatureRun(runId, since.slice(-WINDOW));
		if (c.state === 'better') {
			if (since.length > REOPEN_PANELS || !after) continue;
			const back = (await heavily('signatures', after, by.model, by.thresholds, by.golden?.efficiency)).signatures;
			if (!reopens(c.code, since.length, back)) continue;
			await db
				.updateTable('signatureCase')
				.set({ state: 'open', reopened: c.reopened + 1, latest: JSON.stringify(back.find((s) => s.code === c.code)), donePrints: null })
				.where('id', '=', c.id)
				.execute();
			changed = true;
			continue;
		}
		const before = await signatureRun(runId, panels.slice(Math.max(0, act.before - WINDOW), act.before));
		if (!before) continue;
		const answer = await heavily('signatureFollowUp', before, after, c.signature, by.model, by.thresholds, by.golden?.efficiency);
		await db
			.updateTable('signatureCase')
			.set({ answer: JSON.stringify(answer), state: answer.answer === 'tooEarly' ? 'done' : answer.answer })
			.where('id', '=', c.id)
			.execute();
		changed ||= answer.answer !== 'tooEarly';
	}
	if (changed) await announce(db, 'results');
}

export async function casesOf(runId: number) {
	const rows = await db
		.selectFrom('signatureCase')
		.leftJoin('user', 'user.id', 'signatureCase.doneBy')
		.selectAll('signatureCase')
		.select('user.name as doneByName')
		.where('runId', '=', runId)
		.orderBy('signatureCase.id')
		.execute();
	return rows.map((row) => ({ ...row, text: causeText(row.code) }));
}

/** Marks the action of a case done: the panels from here on are compared with those before. Or lays the case aside, with a note. */
export async function actOnCase(actor: Actor, id: number, action: 'done' | 'dismiss', note: string) {
	const row = await db
		.selectFrom('signatureCase')
		.innerJoin('run', 'run.id', 'signatureCase.runId')
		.select(['signatureCase.code', 'signatureCase.state', 'signatureCase.runId', 'run.lineId'])
		.where('signatureCase.id', '=', id)
		.executeTakeFirst();
	if (!row) return refuse('case', id, 'There is no such case.');
	if (row.state !== 'open' && row.state !== 'noBetter') return refuse('case', id, 'Nothing is open there: it was acted on already.');
	if (action === 'dismiss' && note === '') refuse('note', '', 'Say why it is laid aside.');
	const [at, panels] = [new Date(await plantNow()), await inspectedPanels(row.runId)];
	await db.transaction().execute(async (trx) => {
		await trx
			.updateTable('signatureCase')
			.set(
				action === 'done'
					? { state: 'done', doneBy: actor.id, doneAt: at, donePrints: panels.length, doneNote: note || null, answer: null }
					: { state: 'dismissed', doneBy: actor.id, doneAt: at, doneNote: note }
			)
			.where('id', '=', id)
			.execute();
		await logAction(
			trx,
			actor,
			'signature.act',
			`${CAUSES[row.code].name}: ${action === 'done' ? CAUSES[row.code].action : `laid aside, ${note}`}`,
			null,
			row.lineId
		);
		await announce(trx, 'results');
	});
	return { id };
}

const watched = new Map<number, { panels: number; atMs: number; timer: NodeJS.Timeout | null }>();

/** Looks at a run again some moments after panels were inspected; never more often than is of use. */
export function watchRun(runId: number): void {
	const w = watched.get(runId) ?? { panels: -EVERY_PANELS, atMs: 0, timer: null };
	watched.set(runId, w);
	if (w.timer) return;
	const wait = Math.max(1500, w.atMs + LEAST_PAUSE_MS - Date.now());
	w.timer = setTimeout(() => {
		w.timer = null;
		w.atMs = Date.now();
		void look(runId, w);
	}, wait);
	w.timer.unref();
}

async function look(runId: number, w: { panels: number }): Promise<void> {
	try {
		const run = await db.selectFrom('run').select(['endedAt', 'pasteReports']).where('id', '=', runId).executeTakeFirst();
		if (!run || run.endedAt) return void watched.delete(runId);
		const n = run.pasteReports;
		if (n < w.panels + EVERY_PANELS) return;
		w.panels = n;
		await updateCases(runId);
		// The pages of this run's line say what was found just now.
		await announce(db, 'results');
	} catch (caught) {
		// The next panel asks again; a database that is away is said elsewhere.
		if (!isAway(caught)) console.error('signatures could not be read', caught);
	}
}
