import { sql } from 'kysely';
import { insertRows } from '../../db/insert-rows.ts';
import type { Said } from '../message-parts.ts';
import { Claims, type BatchFacts, type BatchPass, type BatchRun, type BatchStation, type Taker } from '../module.ts';
import type { pasteLoaded, printed, PrintMessage } from './messages.ts';

/** Prints, and jars that the printer says it was given. */
export function printTaker({ trx }: BatchFacts): Taker<PrintMessage> {
	const claims = new Claims('print');
	const jars = new Set<string>();
	const prints: { pass: BatchPass; m: Said<typeof printed> }[] = [];
	const loads: { station: BatchStation; run: BatchRun; m: Said<typeof pasteLoaded> }[] = [];
	return {
		async read(messages, passIds) {
			const named = messages.flatMap((m) => (m.type === 'paste_loaded' ? [m.jar] : []));
			if (named.length) for (const { id } of await trx.selectFrom('pasteJar').select('id').where('id', 'in', named).execute()) jars.add(id);
			if (passIds.length) {
				const taken = await sql<{ key: string }>`select 'print ' || pass_id || ' ' || print_attempt as key from print
					where pass_id = any(${passIds})`.execute(trx);
				claims.know(taken.rows.map((row) => row.key));
			}
		},
		take(m, { station, pass, run }) {
			if (m.type === 'print') {
				if (!claims.claim(pass!, String(m.printAttempt))) return `panel ${m.panel} has print ${m.printAttempt} already`;
				prints.push({ pass: pass!, m });
				return null;
			}
			// Recorded as it happened, whatever the rules say of it.
			if (!jars.has(m.jar)) return `unknown jar "${m.jar}"`;
			loads.push({ station, run: run!, m });
			return null;
		},
		async write() {
			await insertRows(trx, 'print', prints, ({ pass, m }) => ({
				passId: pass.id!,
				printAttempt: m.printAttempt,
				printedAt: new Date(m.at),
				stroke: m.stroke,
				printsSinceWipe: m.printsSinceWipe,
				printsSinceTopup: m.printsSinceTopup ?? null,
				minutesSincePrevious: m.minutesSincePrevious ?? null,
				alignment: m.stencilMarks && m.boardMarks ? JSON.stringify({ stencilMarks: m.stencilMarks, boardMarks: m.boardMarks }) : null,
				cycleS: m.cycleS
			}));
			for (const runId of new Set(prints.map(({ pass }) => pass.run.id))) {
				const made = prints.filter(({ pass }) => pass.run.id === runId).length;
				await trx
					.updateTable('run')
					.set((eb) => ({ prints: eb('prints', '+', made) }))
					.where('id', '=', runId)
					.execute();
			}
			await insertRows(trx, 'pasteJarEvent', loads, ({ station, run, m }) => ({
				jarId: m.jar,
				kind: 'load_stencil',
				at: new Date(m.at),
				enteredAt: new Date(m.at),
				source: m.source,
				grams: m.grams,
				lineId: station.lineId,
				runId: m.runId,
				stencilToolId: run.stencilToolId
			}));
		}
	};
}
