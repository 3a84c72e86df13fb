import { panelGeometry } from '@keen-relay/core/artwork';
import { panelSizes, type SidePads } from '@keen-relay/core/inspection';
import { sql } from 'kysely';
import { pinsOfPart } from '@keen-relay/core/parts';
import { confirmedPatterns } from './packages.ts';
import { db, type Db, type Trx } from '../db/index.ts';

/** Disagreements between the files that keep a run from starting: errors that nobody has accepted. */
export const errorsOfSide = sql<number>`(select count(*)::int from jsonb_array_elements(board_side.findings) with ordinality as f(finding, n)
	where f.finding ->> 'severity' = 'error' and coalesce((select a.state from finding_answer a
		where a.board_side_id = board_side.id and a.finding = f.n - 1 order by a.id desc limit 1), 'open') <> 'accepted')`;

/** Every board side with what the lists show; no geometry. */
export function boardList() {
	return db
		.selectFrom('boardSide')
		.innerJoin('boardRevision', 'boardRevision.id', 'boardSide.boardRevisionId')
		.innerJoin('user', 'user.id', 'boardRevision.createdBy')
		.select([
			'boardSide.id as sideId',
			'boardSide.side',
			'boardSide.widthMm',
			'boardSide.heightMm',
			'boardSide.panel',
			'boardRevision.id',
			'boardRevision.name',
			'boardRevision.customer',
			'boardRevision.revision',
			'boardRevision.createdAt',
			'user.name as createdBy',
			'boardSide.openings',
			'boardSide.fittedParts as parts',
			errorsOfSide.as('errors')
		])
		.orderBy('boardRevision.createdAt', 'desc')
		.orderBy('boardSide.id', 'desc')
		.execute();
}

/** Every board side by name, the newest first. */
export function sideNames() {
	return db
		.selectFrom('boardSide')
		.innerJoin('boardRevision', 'boardRevision.id', 'boardSide.boardRevisionId')
		.select(['boardSide.id as sideId', 'boardSide.side', 'boardRevision.name', 'boardRevision.revision'])
		.orderBy('boardRevision.createdAt', 'desc')
		.orderBy('boardSide.id', 'desc')
		.execute();
}

/** What was read from a side's files; only its panel changes after that. Pins that neither attributes nor a netlist gave come from confirmed land patterns. */
async function readSide(sideId: number) {
	const [side, patterns] = await Promise.all([
		db
			.selectFrom('boardSide')
			.select(['build', 'apertures', 'parts', 'findings', 'issues', 'bom'])
			.where('id', '=', sideId)
			.executeTakeFirstOrThrow(),
		confirmedPatterns()
	]);
	for (const part of side.parts) {
		const pattern = patterns.get(part.packageName);
		if (!pattern || part.apertures.some((i) => side.apertures[i]!.pin !== null)) continue;
		pinsOfPart(part, side.apertures, pattern)?.forEach((pin, k) => (side.apertures[part.apertures[k]!]!.pin = pin));
	}
	return side;
}

/** The latest that was entered of any package: what is at hand was read by it. */
async function factsRevision(): Promise<number> {
	const { id } = await db
		.selectFrom('packageFact')
		.select(({ fn }) => fn.max('id').as('id'))
		.executeTakeFirstOrThrow();
	return id ?? 0;
}

/** Sides that were asked for lately: hundreds of kilobytes each, and every page of a line asks for its own. */
const lately = new Map<number, Awaited<ReturnType<typeof readSide>>>();
let latelyBy = 0;
const KEPT = 24;

/** One side whole; undefined where there is none. Its files' contents are shared between those who ask: they read only. */
export async function boardSide(sideId: number) {
	const side = await db
		.selectFrom('boardSide')
		.innerJoin('boardRevision', 'boardRevision.id', 'boardSide.boardRevisionId')
		.select(['boardSide.id', 'boardSide.boardRevisionId', 'boardSide.side', 'boardSide.widthMm', 'boardSide.heightMm'])
		.select(['boardSide.panel', 'boardSide.panelSetBy'])
		.select([
			'boardRevision.name',
			'boardRevision.customer',
			'boardRevision.revision',
			'boardRevision.createdAt',
			'boardRevision.panelRevision'
		])
		.where('boardSide.id', '=', sideId)
		.executeTakeFirst();
	if (!side) return undefined;
	const facts = await factsRevision();
	if (facts !== latelyBy) lately.clear();
	latelyBy = facts;
	const contents = lately.get(sideId) ?? (await readSide(sideId));
	lately.delete(sideId);
	lately.set(sideId, contents);
	for (const oldest of lately.keys()) {
		if (lately.size <= KEPT) break;
		lately.delete(oldest);
	}
	return { ...side, ...contents };
}

/** What is released for a side, on a line where it belongs to one. */
export async function released(sideId: number, lineId: number) {
	const [stencil, program, recipe] = await Promise.all([
		db.selectFrom('stencil').selectAll().where('boardSideId', '=', sideId).where('status', '=', 'released').executeTakeFirst(),
		db
			.selectFrom('placementProgram')
			.selectAll()
			.where('boardSideId', '=', sideId)
			.where('lineId', '=', lineId)
			.where('status', '=', 'released')
			.executeTakeFirst(),
		db
			.selectFrom('ovenRecipe')
			.innerJoin('paste', 'paste.id', 'ovenRecipe.pasteId')
			.selectAll('ovenRecipe')
			.select(['paste.name as pasteName', 'paste.window'])
			.where('boardSideId', '=', sideId)
			.where('lineId', '=', lineId)
			.where('status', '=', 'released')
			.executeTakeFirst()
	]);
	return { stencil: stencil ?? null, program: program ?? null, recipe: recipe ?? null };
}

/** Files that a side was read from. */
export function filesOf(sideId: number) {
	return db
		.selectFrom('boardFile')
		.select(({ fn }) => ['id', 'kind', 'name', 'sha256', fn<number>('octet_length', ['content']).as('bytes')])
		.where('boardSideId', '=', sideId)
		.orderBy('id')
		.execute();
}

/** What the pads of a side are judged by. A side's pads never change once it was run, nor does its panel. */
export async function boardPads(trx: Db | Trx, sideId: number): Promise<SidePads> {
	const side = await trx
		.selectFrom('boardSide')
		.select(['widthMm', 'heightMm', 'panel', 'apertures', 'side'])
		.where('id', '=', sideId)
		.executeTakeFirstOrThrow();
	const geometry = panelGeometry(side, side.panel, side.side);
	return {
		circuits: geometry.origins.length,
		classes: side.apertures.map((a) => a.padClass),
		sizes: panelSizes(side.apertures, geometry),
		refDes: side.apertures.map((a) => a.refDes)
	};
}
