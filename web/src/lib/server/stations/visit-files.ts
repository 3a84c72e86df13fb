import { createHash } from 'node:crypto';
import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import { refuse } from '../answer.ts';
import { bounded } from '../heavy/pool.ts';
import { db } from '../db/index.ts';
import { logAction, type Actor } from '../plant/log.ts';
import { plantInfo } from '../plant/settings.ts';
import { moduleOf } from './index.ts';
import type { MessageKind } from './message-parts.ts';

/** What comes through the gate of every machine's messages. */
type BringIn = (messages: string) => Promise<{ accepted: number; duplicates: number; quarantined: { line: number; reason: string }[] }>;

/** A file that is the same has the same identity: read in again, it counts once. */
function identityOf(stationId: number, text: string): string {
	const hash = createHash('sha256').update(`${stationId}\0`).update(text).digest('hex');
	return `${hash.slice(0, 8)}-${hash.slice(8, 12)}-5${hash.slice(13, 16)}-a${hash.slice(17, 20)}-${hash.slice(20, 32)}`;
}

/** Reads results of an inspection or a test from a file, as good as a machine's own messages: the good rows are taken, each of the others is named.
 * @param bringIn the gate that every machine's messages go through
 */
export async function readVisitFile(actor: Actor, stationId: number, given: z.infer<typeof bodies.visitFile>, bringIn: BringIn) {
	const station =
		(await db
			.selectFrom('station')
			.innerJoin('line', 'line.id', 'station.lineId')
			.select(['station.name', 'station.role', 'station.lineId', 'line.name as line'])
			.where('station.id', '=', stationId)
			.where('station.outOfUseAt', 'is', null)
			.executeTakeFirst()) ?? refuse('station', stationId, 'There is no such station in use.');
	const messages: readonly MessageKind[] = moduleOf(station.role).messages;
	const said = messages.find((message) => 'calls' in message.schema.shape);
	if (!said) return refuse('station', station.name, 'This station reports no results of circuits.');
	const { timeZone } = await plantInfo();
	const mapping = given.mapping && { ...given.mapping, source: `${station.line}/${station.name}`, type: said.type, timeZone };
	const { look, read } = await bounded('file', 'visitTable', given.text, mapping as never);
	if (!read) return { look, found: null, taken: null };
	const found = {
		circuits: read.visits.length,
		failed: read.visits.filter((visit) => visit.result === 'fail').length,
		calls: read.visits.reduce((sum, visit) => sum + visit.calls.length, 0),
		refused: read.refused.slice(0, 200),
		refusedInAll: read.refused.length
	};
	if (given.check) return { look, found, taken: null };
	if (read.visits.length === 0)
		refuse(
			'file',
			given.name,
			read.refused[0] ? `Nothing to take: line ${read.refused[0].line}, ${read.refused[0].reason}.` : 'No row below the titles.'
		);
	const bootId = identityOf(stationId, given.text);
	const receipt = await bringIn(read.visits.map((visit, number) => JSON.stringify({ ...visit, bootId, number })).join('\n'));
	const aside = receipt.quarantined.map(({ line, reason }) => {
		const visit = read.visits[line - 1]!;
		return `panel ${visit.panel}, circuit ${visit.circuit + 1}: ${reason}`;
	});
	await db
		.transaction()
		.execute((trx) =>
			logAction(
				trx,
				actor,
				'message.type',
				`${station.line}/${station.name}: ${given.name}, ${receipt.accepted} circuits taken, ${receipt.duplicates} known already, ${aside.length} kept aside`,
				null,
				station.lineId
			)
		);
	return {
		look,
		found,
		taken: { accepted: receipt.accepted, duplicates: receipt.duplicates, aside: aside.slice(0, 200), asideInAll: aside.length }
	};
}
