import type { z } from 'zod';
import { differencesOf, type Difference } from '@keen-relay/core/boards';
import type { bodies } from '$lib/api/bodies.ts';
import { refuse } from '../answer.ts';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { otherRevisions } from '../queries/board-revisions.ts';
import { boardSide } from '../queries/sides.ts';

/** The differences between a side's files, with what was said of each. */
export async function differencesNow(sideId: number): Promise<Difference[]> {
	const side = await boardSide(sideId);
	if (!side) return refuse('side', sideId, `There is no board side ${sideId}.`);
	const [answers, revisions] = await Promise.all([
		db
			.selectFrom('findingAnswer')
			.innerJoin('user', 'user.id', 'findingAnswer.personId')
			.distinctOn('findingAnswer.finding')
			.select(['findingAnswer.finding', 'findingAnswer.state', 'findingAnswer.reason', 'user.name as by'])
			.where('findingAnswer.boardSideId', '=', sideId)
			.orderBy('findingAnswer.finding')
			.orderBy('findingAnswer.id', 'desc')
			.execute(),
		otherRevisions(side.boardRevisionId)
	]);
	const newest = revisions.find((r) => !r.older);
	const same =
		newest &&
		(await db
			.selectFrom('boardSide')
			.select('findings')
			.where('boardRevisionId', '=', newest.id)
			.where('side', '=', side.side)
			.executeTakeFirst());
	return differencesOf(side.findings, answers, same ? { revision: newest.revision, findings: same.findings } : null);
}

/** Somebody says of a difference what it is: accepted as it stands, sent back to the customer, or open again. */
export async function answerDifference(
	actor: Actor,
	sideId: number,
	finding: number,
	{ state, reason }: z.infer<typeof bodies.differenceAnswer>
): Promise<{ actionId: number }> {
	const side = await boardSide(sideId);
	const of = side?.findings[finding];
	if (!side || !of) return refuse('finding', finding, 'There is no such difference between the files of this side.');
	return db.transaction().execute(async (trx) => {
		const at = new Date(await plantNow());
		await trx.insertInto('findingAnswer').values({ boardSideId: sideId, finding, state, reason, personId: actor.id, at }).execute();
		const words = { accepted: 'accepted', sentBack: 'sent back', open: 'open again' }[state];
		const actionId = await logAction(
			trx,
			actor,
			'board.settle',
			`${side.name} ${side.revision}, ${side.side}: ${of.message} ${words}: ${reason}`
		);
		await announce(trx, 'boards');
		return { actionId };
	});
}
