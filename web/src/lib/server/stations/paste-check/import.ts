import { randomUUID } from 'node:crypto';
import { MISSING_PCT, type PasteMapping, panelPads } from '@keen-relay/core/inspection';
import type { Issue } from '@keen-relay/core/judgement';
import { quoteValue } from '@keen-relay/core/judgement';
import { openingNames } from '@keen-relay/core/boards';
import { Refusal, refuse } from '../../answer.ts';
import { bounded } from '../../heavy/pool.ts';
import { runsForJudging } from '../../queries/runs.ts';
import { boardSide } from '../../queries/sides.ts';
import { db } from '../../db/index.ts';
import { plantNow } from '../../plant/clock.ts';
import { logAction, type Actor } from '../../plant/log.ts';

export interface PasteImport {
	unit: string;
	runId: number;
	text: string;
	mapping: Record<string, string>;
	heightUnit: 'um' | 'mm' | null;
	/** The decimal sign that a person chose, where the file can be read both ways. */
	decimal: '.' | ',' | null;
	/** Foil that the unit's 100 % count with, µm; null: the foil as it was measured. */
	nominalFoilUm: number | null;
	check: boolean;
}

/** Reads paste inspection results from a table, with the columns as this unit has them, and brings them in through the same gate as a machine's messages.
 * @param bringIn the gate that every machine's messages go through
 * Pads are named by their number on the panel (from 1), or as the pages name them. With `check` nothing is kept.
 */
export async function importPasteResults(
	actor: Actor,
	given: PasteImport,
	bringIn: (messages: string) => Promise<{ accepted: number; quarantined: { line: number; reason: string }[] }>
) {
	const run = await runsForJudging(db)
		.innerJoin('line', 'line.id', 'run.lineId')
		.select('line.name as line')
		.where('run.id', '=', given.runId)
		.executeTakeFirst();
	if (!run) return refuse('run', given.runId, 'There is no such run.');
	const side = (await boardSide(run.boardSideId))!;
	const station = await db
		.selectFrom('station')
		.select('name')
		.where('lineId', '=', run.lineId)
		.where('role', '=', 'pasteCheck')
		.where('outOfUseAt', 'is', null)
		.executeTakeFirst();
	if (!station) return refuse('line', run.line, 'This line has no paste check.');
	const known = await db.selectFrom('inspectionMapping').select('mapping').where('unit', '=', given.unit).executeTakeFirst();
	const mapping = { ...known?.mapping, ...given.mapping } as PasteMapping;
	const table = await bounded('file', 'pasteTable', given.text, mapping, run.foilUm, given.decimal);
	const factors = {
		heightUm: given.heightUnit === 'mm' ? 1000 : 1,
		volumePct: (given.nominalFoilUm ?? run.foilUm) / run.foilUm,
		areaPct: 1,
		offsetXUm: 1,
		offsetYUm: 1
	};
	if (table.asks && (table.asks.code !== 'height_unit' || given.heightUnit === null))
		return {
			kept: false as const,
			asks: table.asks,
			issues: table.issues,
			titles: table.titles,
			panels: 0,
			rows: table.pad.length,
			mapping
		};
	const pads = panelPads(side, run.foilUm);
	const names = openingNames(side.apertures);
	const indexOf = new Map<string, number>();
	pads.forEach((pad, i) => {
		indexOf.set(String(i + 1), i);
		indexOf.set(pad.name.toLowerCase(), i);
		// As this plant writes its tables.
		indexOf.set(pad.name.toLowerCase().replaceAll(',', ''), i);
		if (i < names.length) indexOf.set(names[i]!.toLowerCase(), i);
	});
	const issues: Issue[] = [...table.issues];
	/** Row of each pad, by panel. */
	const panels = new Map<string, Map<number, number>>();
	const say = (severity: Issue['severity'], code: string, row: number | null, value: string, message: string) => {
		if (issues.length < 200)
			issues.push({
				severity,
				code,
				field: 'pad_id',
				value: quoteValue(value),
				message,
				...(row === null ? {} : { line: table.line[row]! })
			});
	};
	table.pad.forEach((pad, row) => {
		const at = indexOf.get(pad.toLowerCase());
		const line = table.line[row]!;
		if (at === undefined)
			return say('error', 'unknown_pad', row, pad, `Line ${line}: there is no pad "${pad}" on this panel; pads are 1 to ${pads.length}.`);
		const serial = table.panel[row]!;
		const rows = panels.get(serial) ?? new Map<number, number>();
		panels.set(serial, rows);
		// The same pad by its number and by its name: the first one is kept, never their mean.
		if (rows.has(at))
			say('error', 'twice', row, pad, `Line ${line}: panel ${serial} has this pad already, on line ${table.line[rows.get(at)!]}.`);
		else rows.set(at, row);
	});
	// Where nothing was printed there is no place to measure: an offset may be blank only there.
	const { volumePct, heightUm, areaPct, offsetXUm, offsetYUm } = table.values;
	const measured = (r: number) =>
		volumePct[r]! >= 0 &&
		heightUm[r]! >= 0 &&
		areaPct[r]! >= 0 &&
		(volumePct[r]! < MISSING_PCT || !(Number.isNaN(offsetXUm[r]!) || Number.isNaN(offsetYUm[r]!)));
	const whole: [string, Map<number, number>][] = [];
	for (const [serial, rows] of panels) {
		const missing = pads.length - [...rows.values()].filter(measured).length;
		if (missing === 0) whole.push([serial, rows]);
		else
			say(
				'warning',
				'missing_pads',
				null,
				serial,
				`Panel ${serial}: ${missing} of ${pads.length} pads have no whole reading; it is left out, since a missing reading is never good.`
			);
	}
	if (whole.length === 0)
		throw new Refusal(
			issues.length ? issues : [{ severity: 'error', code: 'nothing', field: 'file', value: '', message: 'No whole panel in this file.' }]
		);
	const summary = { asks: null, issues, titles: table.titles, panels: whole.length, rows: table.pad.length, mapping };
	if (given.check) return { kept: false as const, ...summary };
	const at = new Date(await plantNow()).toISOString();
	const [bootId, fresh] = [randomUUID(), () => new Array<number>(pads.length)];
	const lines = whole.map(([serial, rows], number) => {
		const m = { volumePct: fresh(), heightUm: fresh(), areaPct: fresh(), offsetXUm: fresh(), offsetYUm: fresh() };
		const bridgedPads: number[] = [];
		for (const [pad, row] of rows) {
			for (const key of Object.keys(m) as (keyof typeof m)[]) {
				const value = table.values[key][row]!;
				m[key][pad] = Number((Number.isNaN(value) ? 0 : value * factors[key]).toFixed(2));
			}
			if (table.bridge[row]) bridgedPads.push(pad);
		}
		return JSON.stringify({
			source: `${run.line}/${station.name}`,
			bootId,
			number,
			at,
			type: 'paste_inspection',
			panel: serial,
			...m,
			...(bridgedPads.length ? { bridgedPads } : {})
		});
	});
	const receipt = await bringIn(lines.join('\n'));
	for (const { line, reason } of receipt.quarantined)
		issues.push({
			severity: 'error',
			code: 'refused',
			field: 'panel_no',
			value: whole[line - 1]?.[0] ?? '',
			message: `Panel ${whole[line - 1]?.[0] ?? ''}: ${reason}.`
		});
	await db.transaction().execute(async (trx) => {
		await trx
			.insertInto('inspectionMapping')
			.values({ unit: given.unit, mapping: JSON.stringify(mapping), setBy: actor.id, setAt: new Date(at) })
			.onConflict((c) => c.column('unit').doUpdateSet({ mapping: JSON.stringify(mapping), setBy: actor.id, setAt: new Date(at) }))
			.execute();
		await logAction(trx, actor, 'results.import', `${receipt.accepted} panels from ${given.unit}`, null, run.lineId);
	});
	return { kept: true as const, accepted: receipt.accepted, ...summary };
}
