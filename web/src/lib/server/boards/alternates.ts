import { compareAlternate, readPackage, withFacts, type AlternateSide } from '@keen-relay/core/parts';
import { sql } from 'kysely';
import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import { refuse } from '../answer.ts';
import { announce, db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { alternatesNow } from '../queries/alternates.ts';
import { enteredFacts } from '../queries/packages.ts';

/** Lets a part stand for another on one customer's boards or on all, or takes that back. One with another footprint is refused; what else differs is told. */
export async function setAlternate(actor: Actor, given: z.infer<typeof bodies.alternate>): Promise<{ differs: string[] }> {
	const { partNumber, alternate, customer, approved, note } = given;
	if (customer !== null) {
		const known = await db.selectFrom('boardRevision').select('id').where('customer', '=', customer).executeTakeFirst();
		if (!known) refuse('customer', customer, `No board is of ${customer}.`);
	}
	const stands = (await alternatesNow()).some((a) => a.partNumber === partNumber && a.alternate === alternate && a.customer === customer);
	if (stands === approved)
		refuse(
			'alternate',
			alternate,
			approved ? `${alternate} may stand for ${partNumber} already.` : `${alternate} does not stand for ${partNumber}.`
		);
	const { refused, differs } = approved
		? compareAlternate(await knownOf(partNumber), await knownOf(alternate))
		: { refused: null, differs: [] };
	if (refused) return refuse('alternate', alternate, refused);
	const at = new Date(await plantNow());
	await db.transaction().execute(async (trx) => {
		await trx.insertInto('alternate').values({ partNumber, alternate, customer, approved, note, personId: actor.id, at }).execute();
		const whose = customer === null ? 'for everybody' : `for ${customer}`;
		await logAction(
			trx,
			actor,
			'alternate.approve',
			`${alternate} ${approved ? 'may' : 'may no more'} stand for ${partNumber} ${whose}: ${note}`
		);
		for (const topic of ['parts', 'line'] as const) await announce(trx, topic);
	});
	return { differs };
}

/** What boards and reels say of a part. */
async function knownOf(partNumber: string): Promise<AlternateSide> {
	const [part, reel, facts] = await Promise.all([
		sql<{ packageName: string }>`
			select part ->> 'packageName' as "packageName" from board_side, jsonb_array_elements(parts) part
			where part ->> 'partNumber' = ${partNumber} and part ->> 'packageName' <> '' order by board_side.id desc limit 1`.execute(db),
		db
			.selectFrom('reel')
			.select(['quadrant', 'moistureLevel'])
			.where('partNumber', '=', partNumber)
			.orderBy('receivedAt', 'desc')
			.executeTakeFirst(),
		enteredFacts()
	]);
	const packageName = part.rows[0]?.packageName ?? null;
	return {
		partNumber,
		packageName,
		body: packageName === null ? null : withFacts(readPackage(packageName), facts.get(packageName) ?? {}),
		quadrant: reel?.quadrant ?? null,
		moistureLevel: reel?.moistureLevel ?? null
	};
}
