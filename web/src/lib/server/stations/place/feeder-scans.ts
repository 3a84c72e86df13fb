import { dockFeeder, scanStep, spliceReel, tieReel, type FeederSetUp, type ScanContext, type ScanReply } from '@keen-relay/core/feeders';
import { codesIn } from '@keen-relay/core/trace';
import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import type { Found } from '$lib/model/types.ts';
import { machineData } from '$lib/stations/index.ts';
import { refuse } from '../../answer.ts';
import { announce, db, type Trx } from '../../db/index.ts';
import { sameCode } from '../../db/same-code.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';
import { currentRun } from '../../queries/runs.ts';
import { alternatesFor } from '../../queries/alternates.ts';
import { orientations } from '../../queries/orientations.ts';
import { stationsOf } from '../../queries/stations.ts';
import { reelsNow } from '../../queries/reels.ts';
import { feedFrom, needsOf, runHours, scanned } from '../../queries/slots.ts';

export type ScanAnswer = Found & { codes: string[] };

const SAID = { href: null, badge: null, moves: [], waits: null, codes: [] } satisfies Partial<ScanAnswer>;

/** One scan at the feeders, after those that the same person has not finished; null where the code is neither a slot, a feeder nor a reel.
 * What it finds is kept, right or wrong; only what is right changes what stands in a slot.
 */
export async function scanAtFeeders(actor: Actor, body: z.infer<typeof bodies.feederScan>): Promise<ScanAnswer | null> {
	const [nowMs, line] = await Promise.all([plantNow(), lineAt(body.lineId)]);
	return db.transaction().execute(async (trx) => {
		for (const code of codesIn(body.scan)) {
			const found = await scannedThere(trx, code, line);
			if (!found) continue;
			const context: ScanContext = { slot: body.slot, feeder: body.feeder };
			const at = found.is === 'slot' ? found : context.slot;
			const docked = at
				? ((
						await trx
							.selectFrom('feeder')
							.select('code')
							.where('stationId', '=', at.stationId)
							.where('slot', '=', at.slot)
							.executeTakeFirst()
					)?.code ?? null)
				: null;
			const step = scanStep(context, found, docked);
			if (step.do === 'none') return { ...SAID, ok: false, what: `No: ${code}`, why: step.why };
			if (step.do === 'wait') {
				const where = step.context.slot ? `slot ${step.context.slot.slot}` : step.context.feeder!;
				const wanted = step.context.slot ? wantedIn(step.context.slot, line) : null;
				return {
					...SAID,
					ok: true,
					what: step.context.feeder && step.context.slot ? `${where}: ${step.context.feeder}` : where,
					why: `${wanted ? `It wants ${wanted}. ` : ''}Scan the ${step.waits}.`,
					waits: { for: step.waits, context: step.context }
				};
			}
			const slot = 'slot' in step ? step.slot : null;
			const reelCode = 'reel' in step ? step.reel : null;
			const setUp = await setUpFor(trx, slot, line, step.feeder, reelCode, nowMs);
			const reply = check(step, setUp);
			await trx
				.insertInto('feederScan')
				.values({
					at: new Date(nowMs),
					personId: actor.id,
					stationId: slot?.stationId ?? null,
					runId: line.run?.id ?? null,
					slot: slot?.slot ?? null,
					feeder: step.feeder,
					reel: reelCode ?? setUp.feeders.find((f) => f.id === step.feeder)?.reel ?? null,
					did: step.do,
					ok: reply.ok,
					codes: reply.codes,
					words: reply.words
				})
				.execute();
			const second = reply.ok && (await checkedBySecond(trx, step, setUp, actor, nowMs));
			if (reply.ok && !second) await takeIn(trx, step, setUp, line.run, actor, nowMs);
			await logAction(
				trx,
				actor,
				'feeder.load',
				`${slot ? `slot ${slot.slot}: ` : ''}${step.feeder}${reelCode ? `, ${reelCode}` : ''}: ${reply.ok ? step.do : `refused, ${reply.codes[0]}`}`,
				null,
				body.lineId
			);
			for (const topic of ['parts', 'line'] as const) await announce(trx, topic);
			const place = slot ? `Slot ${slot.slot}` : step.feeder;
			return {
				...SAID,
				ok: reply.ok,
				what: reply.ok ? `${place}: right${second ? ', seen by two' : ''}` : `No: ${place}`,
				why: reply.words,
				codes: reply.codes
			};
		}
		return null;
	});
}

type Slot = NonNullable<ScanContext['slot']>;
type Whole = Exclude<ReturnType<typeof scanStep>, { do: 'wait' | 'none' }>;

type SetUp = Awaited<ReturnType<typeof setUpFor>>;

/** What a whole sequence of scans is answered with. */
function check(step: Whole, setUp: FeederSetUp): ScanReply {
	if (step.do === 'tie') return tieReel(setUp, step.feeder, step.reel);
	if (step.do === 'dock') return dockFeeder(setUp, step.slot.slot, step.feeder);
	if (step.do === 'splice') return spliceReel(setUp, step.slot.slot, step.feeder, step.reel);
	const tied = tieReel(setUp, step.feeder, step.reel);
	if (!tied.ok) return tied;
	const feeders = setUp.feeders.map((f) => (f.id === step.feeder ? { ...f, reel: step.reel } : f));
	return dockFeeder({ ...setUp, feeders }, step.slot.slot, step.feeder);
}

/** A line with its placers and what it is set up for, read before anything is locked. */
async function lineAt(lineId: number) {
	const [stations, run, line] = await Promise.all([
		stationsOf(lineId),
		currentRun(lineId),
		db.selectFrom('line').select('name').where('id', '=', lineId).executeTakeFirst()
	]);
	if (!line) return refuse('lineId', lineId, 'There is no such line.');
	return { name: line.name, placers: stations.filter((s) => s.role === 'place'), run: run ?? null };
}
type LineAt = Awaited<ReturnType<typeof lineAt>>;

/** What a code is at the feeders of a line: a slot as its label says ("Line 1/Place 1/24"), a feeder, a reel. */
async function scannedThere(trx: Trx, code: string, at: LineAt): Promise<Parameters<typeof scanStep>[1] | null> {
	const [, line, machine, number] = /^(?:([^/]+)\/)?([^/]+)\/(\d{1,4})$/.exec(code) ?? [];
	if (machine) {
		const station = at.placers.find((s) => s.name.toLowerCase() === machine.toLowerCase());
		if (!station || (line && line.toLowerCase() !== at.name.toLowerCase())) return null;
		return { is: 'slot', stationId: station.id, slot: Number(number) };
	}
	const feeder = await trx.selectFrom('feeder').select(['code', 'reel']).where(sameCode('code', code)).executeTakeFirst();
	if (feeder) return { is: 'feeder', code: feeder.code, tied: feeder.reel !== null };
	const reel = await trx.selectFrom('reel').select('code').where(sameCode('code', code)).executeTakeFirst();
	return reel ? { is: 'reel', code: reel.code } : null;
}

const placerAt = (slot: Slot, { placers }: LineAt) =>
	placers.find((s) => s.id === slot.stationId) ?? refuse('slot', slot.slot, 'This placer is not on the line.');

function wantedIn(slot: Slot, line: LineAt): string | null {
	const station = placerAt(slot, line);
	return line.run ? (needsOf(line.run.plan, station.name, new Map()).find((n) => n.slot === slot.slot)?.part ?? null) : null;
}

/** What one scan is checked against: the needs of the run that the line is set up for, the feeder and the reels that it is about. */
async function setUpFor(trx: Trx, slot: Slot | null, line: LineAt, feeder: string, reel: string | null, nowMs: number) {
	const station = slot ? placerAt(slot, line) : null;
	const { run } = line;
	const feeders = await trx
		.selectFrom('feeder')
		.selectAll()
		.where(({ eb, or }) => or([eb('code', '=', feeder), ...(reel === null ? [] : [eb('reel', '=', reel)])]))
		.forUpdate()
		.execute();
	const own = feeders.find((f) => f.code === feeder) ?? refuse('feeder', feeder, `No feeder is called ${feeder}. Scan it again.`);
	const codes = [reel, own.reel].filter((code) => code !== null);
	const reels = codes.length ? await reelsNow(nowMs, codes, trx) : [];
	return {
		slots: station ? machineData(station, 'place')!.placer.slots : 400,
		needs: run && station ? needsOf(run.plan, station.name, await alternatesFor(run.customer, trx), await orientations(trx)) : [],
		feeders: feeders.map(({ code, tapeMm, pitchMm, reel: tied, outOfService }) => ({
			id: code,
			tapeMm,
			pitchMm,
			reel: tied,
			outOfService
		})),
		reels: reels.map((r) => scanned(r, own.tapeMm)),
		runH: run ? runHours(run) : 0,
		known: reels
	};
}

/** The same slot and feeder scanned once more by somebody else: seen by two. Whoever scans it again alone changes nothing.
 * @returns whether it stood there already and a second person has looked now
 */
async function checkedBySecond(trx: Trx, step: Whole, setUp: SetUp, actor: Actor, nowMs: number): Promise<boolean> {
	if (step.do !== 'dock') return false;
	const done = await trx
		.updateTable('feeder')
		.set({ checkedBy: actor.id, checkedAt: new Date(nowMs) })
		.where('code', '=', step.feeder)
		.where('stationId', '=', step.slot.stationId)
		.where('slot', '=', step.slot.slot)
		.where('reel', '=', setUp.feeders.find((f) => f.id === step.feeder)!.reel)
		.where('dockedBy', '!=', actor.id)
		.where('checkedBy', 'is', null)
		.returning('code')
		.executeTakeFirst();
	return done !== undefined;
}

/** What was right becomes what is: the reel in the feeder, the feeder in the slot, and the reel that feeds the run from here on. */
async function takeIn(trx: Trx, step: Whole, setUp: SetUp, run: LineAt['run'], actor: Actor, nowMs: number): Promise<void> {
	const reel = 'reel' in step ? step.reel : setUp.feeders.find((f) => f.id === step.feeder)!.reel!;
	const now = new Date(nowMs);
	if (step.do === 'tie') {
		// Another reel in it: what it stood for in a slot is over.
		await trx
			.updateTable('feeder')
			.set({ reel, stationId: null, slot: null, dockedAt: null, dockedBy: null, checkedBy: null, checkedAt: null })
			.where('code', '=', step.feeder)
			.execute();
		return;
	}
	const { stationId, slot } = step.slot;
	await trx
		.updateTable('feeder')
		.set({ stationId: null, slot: null, dockedAt: null })
		.where('stationId', '=', stationId)
		.where('slot', '=', slot)
		.where('code', '!=', step.feeder)
		.execute();
	// What two people have seen stays seen while only its reel is spliced, and while the same is scanned again.
	const stays = await trx
		.selectFrom('feeder')
		.select('code')
		.where('code', '=', step.feeder)
		.where('stationId', '=', stationId)
		.where('slot', '=', slot)
		.$if(step.do !== 'splice', (q) => q.where('reel', '=', reel))
		.executeTakeFirst();
	await trx
		.updateTable('feeder')
		.set({ reel, stationId, slot, dockedAt: now, ...(stays ? {} : { dockedBy: actor.id, checkedBy: null, checkedAt: null }) })
		.where('code', '=', step.feeder)
		.execute();
	const of = setUp.known.find((r) => r.code === reel)!;
	if (run)
		await feedFrom(
			trx,
			run.id,
			[{ stationId, slot, reel, partNumber: of.partNumber, makerLot: of.makerLot, pieces: of.pieces, spliced: step.do === 'splice' }],
			nowMs
		);
}

/** A feeder is taken out of its slot: whatever goes in next has to be scanned. */
export async function takeFeederOut(actor: Actor, { stationId, slot }: z.infer<typeof bodies.feederOut>): Promise<{ feeder: string }> {
	return db.transaction().execute(async (trx) => {
		const out = await trx
			.updateTable('feeder')
			.set({ stationId: null, slot: null, dockedAt: null })
			.where('stationId', '=', stationId)
			.where('slot', '=', slot)
			.returning('code')
			.executeTakeFirst();
		if (!out) return refuse('slot', slot, `No feeder was scanned into slot ${slot}.`);
		await logAction(trx, actor, 'feeder.load', `slot ${slot}: ${out.code} taken out`);
		for (const topic of ['parts', 'line'] as const) await announce(trx, topic);
		return { feeder: out.code };
	});
}
