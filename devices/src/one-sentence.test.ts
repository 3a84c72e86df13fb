import { describe, expect, test } from 'vitest';
import { CAUSES, findSignatures, judgeSignatures, judgeYield, YIELD_GOALS, yieldOf } from '@keen-relay/core/inspection';
import { lineStands, nextOf, stationStands, type Part } from '@keen-relay/core/line';
import { lostTime, handOverLines, notInOrder, type Due, type ShiftFacts } from '@keen-relay/core/schedule';
import { CAUSE_OF_FAULT } from './fault-causes.ts';
import { PRINT_FAULTS } from './print-physics.ts';
import { studyRun } from './signature-study.ts';

// From the readings of a line with one thing wrong to what people read of it: tile, head, next up, line, wall and hand-over say one sentence.

const NOW = Date.UTC(2026, 10, 25, 9);
const PACE = { level: 'good' as const, statement: 'One panel every 79.0 s.', because: [], doNext: [] };
const EMPTY: Omit<ShiftFacts, 'stands'> = {
	panelsPrinted: 0,
	panelsFinished: 0,
	yields: [],
	fails: [],
	running: [],
	lost: lostTime([], NOW, NOW),
	open: [],
	changes: []
};

/** What stands at the paste check, as the plant judges it: causes that are open, and how many panels pass. */
function pasteCheck(fault: (typeof PRINT_FAULTS)[number] | null, seed: number, dues: Due[] = []) {
	const report = findSignatures(studyRun(seed, 36, 300, fault ? [{ kind: fault, strength: 1.6 }] : []));
	const parts: Part[] = [
		{ verdict: judgeSignatures(report), where: '/causes', right: 'signature.act' },
		{ verdict: judgeYield('Paste check', yieldOf(36, 36), YIELD_GOALS.pasteCheck, null), where: '', right: null }
	];
	const standing = stationStands({ name: 'Paste check', stopped: false, reason: null }, parts, dues, NOW);
	const stations = [{ name: 'Paste check', ...standing }];
	return {
		report,
		standing,
		next: nextOf('Paste check', standing, dues, NOW),
		line: lineStands(stations, PACE),
		sheet: handOverLines({ ...EMPTY, stands: notInOrder(stations) }).find(({ heading }) => heading === 'Stations')!.lines
	};
}

describe('one thing wrong is said in one sentence everywhere', () => {
	test.each(PRINT_FAULTS)('%s', (fault) => {
		const { report, standing, next, line, sheet } = pasteCheck(fault, 11);
		const cause = CAUSES[CAUSE_OF_FAULT[fault]];
		expect(report.signatures.map((s) => s.code)).toContain(cause.code);
		// What is named first is what the station says, with its own act.
		const first = CAUSES[report.signatures[0]!.code];
		const { verdict, act } = standing;
		expect(verdict.level).toBe(first.code === 'MEASUREMENT' ? 'stopped' : 'act');
		expect(verdict.statement.startsWith(`${first.name}. `)).toBe(true);
		expect(act).toMatchObject({ say: first.action, where: '/causes', right: 'signature.act' });
		expect(next).toEqual([
			{ atMs: NOW, station: 'Paste check', action: act!.say, reason: verdict.statement, where: act!.where, right: act!.right }
		]);
		expect(line).toEqual({ level: verdict.level, station: 'Paste check', statement: verdict.statement });
		expect(sheet).toEqual([`Paste check: ${verdict.level === 'stopped' ? 'Stopped' : 'Act'}. ${verdict.statement} ${act!.say}.`]);
	});

	test('nothing wrong asks for nothing but what is due', () => {
		const due: Due = {
			atMs: NOW + 60_000,
			station: 'Paste check',
			action: 'Calibrate',
			reason: 'every week',
			where: '',
			right: 'unit.learn'
		};
		for (let seed = 1; seed <= 12; seed++) {
			const { standing, next, line, sheet } = pasteCheck(null, seed, [due]);
			expect(standing, `seed ${seed}`).toMatchObject({ verdict: { level: 'good' }, act: null });
			expect(next).toEqual([due]);
			expect(line).toEqual({ level: 'good', station: null, statement: PACE.statement });
			expect(sheet).toEqual(['Every station is in order']);
		}
	});

	test('what is overdue is the sentence, and stands in next up once', () => {
		const due: Due = {
			atMs: NOW - 300_000,
			station: 'Paste check',
			action: 'Calibrate',
			reason: 'every week',
			where: '/unit',
			right: 'unit.learn'
		};
		const { standing, next, sheet } = pasteCheck(null, 3, [due]);
		expect(standing.verdict).toMatchObject({ level: 'act', statement: 'Calibrate: due for 5 min, every week.' });
		expect(next).toEqual([due]);
		expect(sheet).toEqual(['Paste check: Act. Calibrate: due for 5 min, every week. Calibrate.']);
	});
});
