import { sql } from 'kysely';
import { panelGeometry } from '@keen-relay/core/artwork';
import { judgeDeposit, judgePanelPaste } from '@keen-relay/core/inspection';
import type { PadClass } from '@keen-relay/core/parts';
import { localParts } from '@keen-relay/core/schedule';
import { plantInfo } from '../line/plant.ts';
import type { Trx } from '../db/index.ts';
import type { MessageOf } from './messages.ts';

/** A panel that the line has opened. */
export interface KnownPanel {
	id: number;
	runId: number;
	boardSideId: number;
}

/** Pads of a block: one row of the readings table. */
export const BLOCK_PADS = 64;
/** Failing pads that a summary names; all of them are in the readings. */
const WORST_KEPT = 60;

interface SidePads {
	circuits: number;
	classes: PadClass[];
	widthsMm: number[];
}

/** A side's pads never change once it was run, nor does its panel: they are read once. */
const sides = new Map<number, SidePads>();

async function padsOf(trx: Trx, sideId: number): Promise<SidePads> {
	const known = sides.get(sideId);
	if (known) return known;
	const side = await trx
		.selectFrom('boardSide')
		.select(['widthMm', 'heightMm', 'panel', 'apertures'])
		.where('id', '=', sideId)
		.executeTakeFirstOrThrow();
	const pads = {
		circuits: panelGeometry(side, side.panel).origins.length,
		classes: side.apertures.map((a) => a.padClass),
		widthsMm: side.apertures.map((a) => a.widthMm)
	};
	sides.set(sideId, pads);
	return pads;
}

/** Stores the pad readings of a panel in blocks, its summary and the day's sums by class, in the caller's transaction.
 * @returns why not, or null
 */
export async function recordPaste(trx: Trx, m: MessageOf<'paste_inspection'>, panel: KnownPanel): Promise<string | null> {
	const pads = await padsOf(trx, panel.boardSideId);
	const perCircuit = pads.classes.length;
	const expected = perCircuit * pads.circuits;
	for (const name of ['volumePct', 'heightUm', 'areaPct', 'offsetXUm', 'offsetYUm'] as const)
		if (m[name].length !== expected) return `${name} has ${m[name].length} values, the panel has ${expected} pads`;
	const measuredAt = new Date(m.at);
	const foil = await trx
		.selectFrom('run')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.select('stencil.foilUm')
		.where('run.id', '=', panel.runId)
		.executeTakeFirstOrThrow();
	const key = { panelId: panel.id, printAttempt: m.printAttempt, inspectionAttempt: m.inspectionAttempt };
	const summary = summarise(m, pads, foil.foilUm);
	const entered = await trx
		.insertInto('pasteSummary')
		.values({
			...key,
			measuredAt,
			result: summary.result,
			pads: expected,
			fails: summary.fails,
			warnings: summary.warnings,
			meanVolumePct: summary.meanVolumePct,
			classMeans: JSON.stringify(Object.fromEntries(summary.classes.map((c) => [c.padClass, c.sum / c.pads]))),
			worst: JSON.stringify(summary.worst)
		})
		.onConflict((conflict) => conflict.doNothing())
		.returning('panelId')
		.executeTakeFirst();
	if (!entered) return `panel ${m.panel} has inspection ${m.inspectionAttempt} of print ${m.printAttempt} already`;
	await ensureMonth(trx, measuredAt);
	const blocks = Array.from({ length: Math.ceil(expected / BLOCK_PADS) }, (_, block) => {
		const cut = (values: readonly number[], scale: number) =>
			values.slice(block * BLOCK_PADS, (block + 1) * BLOCK_PADS).map((v) => Math.round(v * scale));
		return {
			boardSideId: panel.boardSideId,
			block,
			measuredAt,
			...key,
			volume: cut(m.volumePct, 10),
			height: cut(m.heightUm, 10),
			area: cut(m.areaPct, 10),
			offsetX: cut(m.offsetXUm, 1),
			offsetY: cut(m.offsetYUm, 1)
		};
	});
	await trx.insertInto('pasteReading').values(blocks).execute();
	const { timeZone } = await plantInfo();
	const day = localParts(measuredAt.getTime(), timeZone).date;
	for (const c of summary.classes)
		await trx
			.insertInto('pasteClassDay')
			.values({
				boardSideId: panel.boardSideId,
				day,
				padClass: c.padClass,
				pads: c.pads,
				fails: c.fails,
				sumPct: c.sum,
				sumSquaresPct: c.sumSquares
			})
			.onConflict((conflict) =>
				conflict.columns(['boardSideId', 'day', 'padClass']).doUpdateSet((eb) => ({
					pads: eb('pasteClassDay.pads', '+', eb.ref('excluded.pads')),
					fails: eb('pasteClassDay.fails', '+', eb.ref('excluded.fails')),
					sumPct: eb('pasteClassDay.sumPct', '+', eb.ref('excluded.sumPct')),
					sumSquaresPct: eb('pasteClassDay.sumSquaresPct', '+', eb.ref('excluded.sumSquaresPct'))
				}))
			)
			.execute();
	return null;
}

function summarise(m: MessageOf<'paste_inspection'>, pads: SidePads, foilUm: number) {
	const perCircuit = pads.classes.length;
	const byClass = new Map<PadClass, { padClass: PadClass; pads: number; fails: number; sum: number; sumSquares: number }>();
	const worst: { pad: number; code: string; volumePct: number }[] = [];
	let fails = 0;
	let warnings = 0;
	let total = 0;
	m.volumePct.forEach((volumePct, pad) => {
		const padClass = pads.classes[pad % perCircuit]!;
		const { codes, warn } = judgeDeposit(padClass, pads.widthsMm[pad % perCircuit]!, {
			volumePct,
			heightPct: (m.heightUm[pad]! / foilUm) * 100,
			areaPct: m.areaPct[pad]!,
			offsetXUm: m.offsetXUm[pad]!,
			offsetYUm: m.offsetYUm[pad]!
		});
		const c = byClass.get(padClass) ?? { padClass, pads: 0, fails: 0, sum: 0, sumSquares: 0 };
		byClass.set(padClass, c);
		c.pads++;
		c.sum += volumePct;
		c.sumSquares += volumePct * volumePct;
		total += volumePct;
		if (codes[0]) {
			fails++;
			c.fails++;
			if (worst.length < WORST_KEPT) worst.push({ pad, code: codes[0], volumePct });
		} else if (warn) warnings++;
	});
	return {
		fails,
		warnings,
		worst,
		meanVolumePct: total / m.volumePct.length,
		classes: [...byClass.values()],
		result: judgePanelPaste(m.volumePct.length, fails, warnings)
	};
}

/** Makes the partition of a month when the first reading falls into it. */
async function ensureMonth(trx: Trx, at: Date): Promise<void> {
	const from = new Date(Date.UTC(at.getUTCFullYear(), at.getUTCMonth(), 1));
	const to = new Date(Date.UTC(at.getUTCFullYear(), at.getUTCMonth() + 1, 1));
	const name = `paste_reading_${from.toISOString().slice(0, 7).replace('-', '_')}`;
	const known = await sql<{ exists: boolean }>`select to_regclass(${name}) is not null as exists`.execute(trx);
	if (known.rows[0]?.exists) return;
	await sql`create table if not exists ${sql.table(name)} partition of paste_reading
		for values from (${sql.lit(from.toISOString())}) to (${sql.lit(to.toISOString())})`.execute(trx);
}
