import { createHash } from 'node:crypto';
import { defaultPanel, panelGeometry, type PanelLayout, type Side } from '@keen-relay/core/artwork';
import type { BoardBuild } from '@keen-relay/core/reflow';
import { bareBoardHeat } from '@keen-relay/core/reflow';
import { announce, db, type Trx } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { Refusal, refuse } from '../answer.ts';
import { bounded } from '../heavy/pool.ts';
import { enteredFacts } from '../queries/packages.ts';
import type { BoardFiles } from '@keen-relay/core/boards';
import { rememberReading } from './read-before.ts';
import { refuseStale } from '../queries/started-from.ts';

export interface BoardEntry {
	/** A board that is new, or the revision that gets its other side. */
	board: { name: string; customer: string; revision: string } | { revisionId: number };
	build: BoardBuild;
	files: BoardFiles;
}

/** Keeps a board side: the files as they came, what was read from them, and the issues that stand. Refuses a paste layer with errors. */
export async function keepBoard(actor: Actor, entry: BoardEntry): Promise<{ id: number; sideId: number }> {
	const board = await bounded('files', 'board', entry.files, await enteredFacts());
	bareBoardHeat(entry.build);
	if (board.refused) throw new Refusal(board.issues.filter((issue) => issue.severity === 'error'));
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const first = 'revisionId' in entry.board ? await otherSide(trx, entry.board.revisionId, entry.files.side, board) : null;
		const id = first?.revisionId ?? (await newRevision(trx, entry.board as { name: string }, actor, at));
		const side = await trx
			.insertInto('boardSide')
			.values({
				boardRevisionId: id,
				side: entry.files.side,
				widthMm: board.widthMm,
				heightMm: board.heightMm,
				build: JSON.stringify(entry.build),
				apertures: JSON.stringify(board.apertures),
				parts: JSON.stringify(board.reconciliation.parts),
				findings: JSON.stringify(board.reconciliation.findings),
				issues: JSON.stringify(board.issues),
				bom: JSON.stringify(board.bom.items),
				// Both sides stand on one panel.
				panel: JSON.stringify(first?.panel ?? board.panel ?? defaultPanel(board)),
				panelSetBy: first?.panelSetBy ?? null
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		const { paste, positions, bom, outline, netlist, layers } = entry.files;
		const named = Object.entries({ paste, positions, bom, outline, netlist }).flatMap(([kind, file]) =>
			file ? [{ kind: kind as 'paste', file }] : []
		);
		for (const { kind, file } of [...named, ...layers.map((layer) => ({ kind: 'layer' as const, file: layer }))])
			await trx
				.insertInto('boardFile')
				.values({
					boardSideId: side.id,
					kind,
					name: file.name,
					sha256: createHash('sha256').update(file.bytes).digest('hex'),
					content: Buffer.from(file.bytes)
				})
				.execute();
		const { name, revision } = await trx
			.selectFrom('boardRevision')
			.select(['name', 'revision'])
			.where('id', '=', id)
			.executeTakeFirstOrThrow();
		await rememberReading(trx, id, board.howRead, at);
		await logAction(trx, actor, 'board.create', `${name} revision ${revision}, ${entry.files.side}`);
		await announce(trx, 'boards');
		return { id, sideId: side.id };
	});
}

async function newRevision(
	trx: Trx,
	board: { name: string; customer?: string; revision?: string },
	actor: Actor,
	at: Date
): Promise<number> {
	const { id } = await trx
		.insertInto('boardRevision')
		.values({ name: board.name, customer: board.customer!, revision: board.revision!, createdBy: actor.id, createdAt: at })
		.returning('id')
		.executeTakeFirstOrThrow();
	return id;
}

const SAME_SIZE_MM = 0.1;

/** The side that a revision has already; the new one must be the other side of the same board. */
async function otherSide(trx: Trx, revisionId: number, side: Side, size: { widthMm: number; heightMm: number }) {
	const sides = await trx
		.selectFrom('boardSide')
		.select(['side', 'widthMm', 'heightMm', 'panel', 'panelSetBy'])
		.where('boardRevisionId', '=', revisionId)
		.execute();
	const first = sides[0];
	if (!first) return refuse('revision', revisionId, 'There is no such board revision.');
	if (sides.some((known) => known.side === side)) return refuse('side', side, `This revision has its ${side} side already.`);
	if (Math.abs(first.widthMm - size.widthMm) > SAME_SIZE_MM || Math.abs(first.heightMm - size.heightMm) > SAME_SIZE_MM)
		return refuse(
			'width and height',
			`${size.widthMm.toFixed(2)} x ${size.heightMm.toFixed(2)} mm`,
			`The ${first.side} side is ${first.widthMm.toFixed(2)} x ${first.heightMm.toFixed(2)} mm: these are not two sides of one board.`
		);
	return { revisionId, panel: first.panel, panelSetBy: first.panelSetBy };
}

/** Sets the panel of a board, both sides of it. After the first run it stands: results belong to its circuits. */
export async function setPanel(actor: Actor, sideId: number, layout: PanelLayout, startedFrom: number): Promise<{ actionId: number }> {
	const side = await db
		.selectFrom('boardSide')
		.innerJoin('boardRevision', 'boardRevision.id', 'boardSide.boardRevisionId')
		.select([
			'boardSide.widthMm',
			'boardSide.heightMm',
			'boardSide.boardRevisionId',
			'boardSide.panel',
			'boardSide.panelSetBy',
			'boardRevision.name'
		])
		.where('boardSide.id', '=', sideId)
		.executeTakeFirst();
	if (!side) return refuse('side', sideId, 'There is no such board side.');
	panelGeometry(side, layout);
	await refuseBuilt(side.boardRevisionId, side.name);
	return db.transaction().execute(async (trx) => {
		const { panelRevision } = await trx
			.selectFrom('boardRevision')
			.select('panelRevision')
			.where('id', '=', side.boardRevisionId)
			.forUpdate()
			.executeTakeFirstOrThrow();
		refuseStale(startedFrom, { revision: panelRevision, by: null }, `The panel of ${side.name}`);
		await trx
			.updateTable('boardRevision')
			.set({ panelRevision: panelRevision + 1 })
			.where('id', '=', side.boardRevisionId)
			.execute();
		await trx
			.updateTable('boardSide')
			.set({ panel: JSON.stringify(layout), panelSetBy: actor.id })
			.where('boardRevisionId', '=', side.boardRevisionId)
			.execute();
		const words = layout.free ? `${layout.free.circuits.length} circuits as drawn` : `${layout.rows} x ${layout.columns}`;
		const actionId = await logAction(trx, actor, 'panel.set', `${side.name}: ${words}`, {
			kind: 'panel',
			revisionId: side.boardRevisionId,
			panel: side.panel,
			panelSetBy: side.panelSetBy
		});
		await announce(trx, 'boards');
		return { actionId };
	});
}

/** After the first run a panel stands. */
export async function refuseBuilt(revisionId: number, name: string): Promise<void> {
	const run = await db
		.selectFrom('run')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.select('run.id')
		.where('boardSide.boardRevisionId', '=', revisionId)
		.executeTakeFirst();
	if (run) refuse('panel', name, 'This panel has been built: its layout stands. Make a new board revision.');
}
