import { checkReel } from '@keen-relay/core/parts';
import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import { refuse } from '../../answer.ts';
import { announce, db, type Trx } from '../../db/index.ts';
import { sameCode } from '../../db/same-code.ts';
import { plantNow } from '../../plant/clock.ts';
import { noteWearEvent } from './wear-events.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { reelsNow, type ReelNow } from '../../queries/reels.ts';

/** Receives what a label says: one reel, stick or tray. */
export async function receiveReel(actor: Actor, reel: z.infer<typeof bodies.reel>): Promise<{ code: string }> {
	checkReel(reel);
	const now = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		await freeCode(trx, reel.code);
		await trx
			.insertInto('reel')
			.values({ ...reel, splitFrom: null, receivedAt: now, enteredAt: now, enteredBy: actor.id })
			.execute();
		await logAction(trx, actor, 'reel.receive', `${reel.code}, ${reel.partNumber}, lot ${reel.makerLot}`);
		await announce(trx, 'parts');
		return { code: reel.code };
	});
}

async function freeCode(trx: Trx, code: string): Promise<void> {
	const taken = await trx.selectFrom('reel').select('code').where(sameCode('code', code)).executeTakeFirst();
	if (taken) refuse('code', code, `${taken.code} was received already.`);
}

/** Something happened to a reel: it was counted, blocked, opened, put into a dry cabinet, baked, moved, used up. */
export async function reportReel(actor: Actor, code: string, report: z.infer<typeof bodies.reelEvent>): Promise<{ code: string }> {
	const nowMs = await plantNow();
	const atMs = report.at ? Date.parse(report.at) : nowMs;
	if (atMs > nowMs + 120_000) refuse('at', report.at, `${code}: this has not happened yet.`);
	return db.transaction().execute(async (trx) => {
		const reel = await lockReel(trx, code, nowMs);
		const { kind } = report;
		if (reel.status.gone) refuse('reel', code, `${reel.code} is used up.`);
		if (kind === 'count' && report.pieces === null) refuse('pieces', '', 'Say how many pieces were counted.');
		if (kind === 'block' && !report.note) refuse('note', '', 'Say why it is blocked.');
		if (kind === 'move' && !report.place) refuse('place', '', 'Say where it is put.');
		const { dry } = reel.status;
		if (['open', 'cabinet', 'air', 'bag', 'bake'].includes(kind) && dry === null)
			refuse('kind', kind, `${reel.code} need not be kept dry: its label names no moisture level.`);
		if (kind === 'open' && dry !== 'bag') refuse('kind', kind, `${reel.code} is open already.`);
		if (kind === 'open' && report.rhPct === null) refuse('rhPct', '', 'Read the humidity card in the bag: what does it say, % RH?');
		if (kind === 'cabinet' && report.rhPct === null) refuse('rhPct', '', 'Read the cabinet: what does it say, % RH?');
		await trx
			.insertInto('reelEvent')
			.values({ ...report, reel: reel.code, at: new Date(atMs), enteredAt: new Date(nowMs), personId: actor.id })
			.execute();
		await logAction(
			trx,
			actor,
			kind === 'block' || kind === 'unblock' ? 'reel.block' : 'reel.report',
			`${reel.code}: ${kind}${report.pieces === null ? '' : ` ${report.pieces}`}${report.note ? `, ${report.note}` : ''}`
		);
		await announce(trx, 'parts');
		return { code: reel.code };
	});
}

/** Takes pieces off a reel as one of its own: same part, lot and moisture clock. */
export async function splitReel(actor: Actor, code: string, part: z.infer<typeof bodies.reelSplit>): Promise<{ code: string }> {
	const nowMs = await plantNow();
	return db.transaction().execute(async (trx) => {
		const reel = await lockReel(trx, code, nowMs);
		await freeCode(trx, part.code);
		if (part.pieces > reel.pieces) refuse('pieces', part.pieces, `${reel.code} has ${reel.pieces} pieces left.`);
		const row = await trx.selectFrom('reel').selectAll().where('code', '=', reel.code).executeTakeFirstOrThrow();
		const now = new Date(nowMs);
		await trx
			.insertInto('reel')
			.values({ ...row, ...part, splitFrom: reel.code, receivedAt: now, enteredAt: now, enteredBy: actor.id })
			.execute();
		// What is left is counted anew: what panels had taken so far is in it.
		const event = { reel: reel.code, at: now, enteredAt: now, personId: actor.id };
		await trx
			.insertInto('reelEvent')
			.values({ ...event, kind: 'count', pieces: reel.pieces - part.pieces, note: `${part.pieces} split off as ${part.code}` })
			.execute();
		await logAction(trx, actor, 'reel.report', `${reel.code}: ${part.pieces} split off as ${part.code}`);
		await announce(trx, 'parts');
		return { code: part.code };
	});
}

/** Two at once: the second sees what the first did. */
async function lockReel(trx: Trx, code: string, nowMs: number): Promise<ReelNow> {
	await trx.selectFrom('reel').select('code').where(sameCode('code', code)).forUpdate().execute();
	const [reel] = await reelsNow(nowMs, [code], trx);
	return reel ?? refuse('reel', code, `There is no reel ${code}.`);
}

/** A feeder as a thing of its own. */
export async function keepFeeder(actor: Actor, feeder: z.infer<typeof bodies.feeder>): Promise<{ code: string }> {
	const now = new Date(await plantNow());
	return db.transaction().execute(async (trx) => {
		const taken = await trx.selectFrom('feeder').select('code').where(sameCode('code', feeder.code)).executeTakeFirst();
		if (taken) refuse('code', feeder.code, `There is a feeder ${taken.code} already.`);
		await trx
			.insertInto('feeder')
			.values({ ...feeder, enteredAt: now, enteredBy: actor.id })
			.execute();
		await logAction(trx, actor, 'feeder.keep', feeder.code);
		await announce(trx, 'parts');
		return { code: feeder.code };
	});
}

/** Takes a feeder out of service, with why, or back into it. */
export async function changeFeeder(
	actor: Actor,
	code: string,
	{ outOfService }: z.infer<typeof bodies.feederChange>
): Promise<{ code: string }> {
	return db.transaction().execute(async (trx) => {
		const done = await trx.updateTable('feeder').set({ outOfService }).where(sameCode('code', code)).returning('code').executeTakeFirst();
		if (!done) return refuse('feeder', code, `There is no feeder ${code}.`);
		await noteWearEvent(trx, actor, { feeder: done.code }, outOfService === null ? 'in' : 'out', outOfService ?? '');
		await logAction(
			trx,
			actor,
			'feeder.keep',
			`${done.code}: ${outOfService === null ? 'in service again' : `out of service, ${outOfService}`}`
		);
		await announce(trx, 'parts');
		return done;
	});
}
