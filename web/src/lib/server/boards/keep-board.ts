import { createHash } from 'node:crypto';
import { defaultPanel, panelGeometry, type PanelLayout } from '@keen-relay/core/artwork';
import type { BoardBuild } from '@keen-relay/core/reflow';
import { bareBoardHeat } from '@keen-relay/core/reflow';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../line/clock.ts';
import { logAction } from '../people/log.ts';
import { Refusal, refuse } from '../answer.ts';
import { readBoardFiles, type BoardFiles } from './read-files.ts';

export interface BoardEntry {
	name: string;
	customer: string;
	revision: string;
	build: BoardBuild;
	files: BoardFiles;
}

/** Keeps a board revision: the files as they came, what was read from them, and the issues that stand. Refuses a paste layer with errors. */
export async function keepBoard(personId: string, entry: BoardEntry): Promise<{ id: number; sideId: number }> {
	const board = await readBoardFiles(entry.files);
	bareBoardHeat(entry.build);
	if (board.refused) throw new Refusal(board.issues.filter((issue) => issue.severity === 'error'));
	const at = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const { id } = await trx
			.insertInto('boardRevision')
			.values({ name: entry.name, customer: entry.customer, revision: entry.revision, createdBy: personId, createdAt: at })
			.returning('id')
			.executeTakeFirstOrThrow();
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
				panel: JSON.stringify(defaultPanel(board)),
				panelSetBy: null
			})
			.returning('id')
			.executeTakeFirstOrThrow();
		const { paste, positions, bom, outline } = entry.files;
		for (const [kind, file] of Object.entries({ paste, positions, bom, outline }))
			if (file)
				await trx
					.insertInto('boardFile')
					.values({
						boardSideId: side.id,
						kind: kind as 'paste',
						name: file.name,
						sha256: createHash('sha256').update(file.bytes).digest('hex'),
						content: Buffer.from(file.bytes)
					})
					.execute();
		await logAction(trx, personId, 'board.create', `${entry.name} revision ${entry.revision}`);
		await announce(trx, 'boards');
		return { id, sideId: side.id };
	});
}

/** Sets the panel of a side. After the first run it stands: results belong to its circuits. */
export async function setPanel(personId: string, sideId: number, layout: PanelLayout): Promise<void> {
	const side = await db
		.selectFrom('boardSide')
		.innerJoin('boardRevision', 'boardRevision.id', 'boardSide.boardRevisionId')
		.select(['boardSide.widthMm', 'boardSide.heightMm', 'boardRevision.name'])
		.where('boardSide.id', '=', sideId)
		.executeTakeFirst();
	if (!side) return refuse('side', sideId, 'There is no such board side.');
	panelGeometry(side, layout);
	const run = await db.selectFrom('run').select('id').where('boardSideId', '=', sideId).executeTakeFirst();
	if (run) return refuse('panel', side.name, 'This panel has been built: its layout stands. Make a new board revision.');
	await db.transaction().execute(async (trx) => {
		await trx
			.updateTable('boardSide')
			.set({ panel: JSON.stringify(layout), panelSetBy: personId })
			.where('id', '=', sideId)
			.execute();
		await logAction(trx, personId, 'panel.set', `${side.name}: ${layout.rows} x ${layout.columns}`);
		await announce(trx, 'boards');
	});
}
