import { DEPOSIT_LIMITS, fromSummary, judgeReadings, wrongLength } from '@keen-relay/core/inspection';
import { sql } from 'kysely';
import { Claims, type BatchFacts, type BatchPass, type Taker } from '../module.ts';
import { holdRejects } from './holds.ts';
import { currentLimits, type CurrentLimits } from './limits.ts';
import type { PasteCheckMessage } from './messages.ts';
import { writePaste, type PasteInspection } from './paste-rows.ts';
import { watchRun } from './signatures.ts';

/** Inspections of paste: judged by the limits that hold when they come, and kept with that revision. */
export function pasteCheckTaker({ trx, copy, pads }: BatchFacts): Taker<PasteCheckMessage> {
	const claims = new Claims('paste');
	let limits: CurrentLimits = { revision: null, limits: DEPOSIT_LIMITS };
	const pastes: (PasteInspection & { pass: BatchPass })[] = [];
	return {
		async read(messages, passIds) {
			if (messages.some((m) => m.type === 'paste_inspection')) limits = await currentLimits(trx);
			if (passIds.length === 0) return;
			const taken = await sql<{ key: string }>`select 'paste ' || pass_id || ' ' || print_attempt || ' ' || inspection_attempt as key
				from paste_summary where pass_id = any(${passIds})`.execute(trx);
			claims.know(taken.rows.map((row) => row.key));
		},
		take(m, { pass }) {
			const side = pads(pass!.run.boardSideId);
			const raw = m.type === 'paste_inspection' ? m : null;
			const wrong = raw && wrongLength(raw, side);
			if (wrong) return wrong;
			if (!claims.claim(pass!, `${m.printAttempt} ${m.inspectionAttempt}`))
				return `panel ${m.panel} has inspection ${m.inspectionAttempt} of print ${m.printAttempt} already`;
			pastes.push({
				pass: pass!,
				printAttempt: m.printAttempt,
				inspectionAttempt: m.inspectionAttempt,
				measuredAt: new Date(m.at),
				result: m.type === 'paste_inspection' ? judgeReadings(m, side, pass!.run.foilUm, limits.limits) : fromSummary(m),
				raw
			});
			return null;
		},
		async write() {
			await writePaste(trx, copy, pastes, limits.revision);
			await holdRejects(trx, pastes);
		},
		afterwards() {
			for (const runId of new Set(pastes.filter((p) => p.raw).map((p) => p.pass.run.id))) watchRun(runId);
		}
	};
}
