import { describe, expect, test } from 'vitest';
import { causeStatistic, CAUSES, explainResiduals, findSignatures, followUp, reopens } from '@keen-relay/core/inspection';
import { PRINT_FAULTS } from './print-physics.ts';
import { CAUSE_OF_FAULT, LOCAL_FAULTS } from './fault-causes.ts';
import { study, studyRun } from './signature-study.ts';

// The full study, 400 seeds a cause, stands in the bench; here 60, as the sample that must hold on every change.
const SEEDS = 60;

describe('signatures on simulated runs of 36 panels and 300 pads', () => {
	test('clean runs with stroke difference, sawtooth, heavy tails and wander raise nothing', () => {
		expect(study('none', 0, SEEDS).named).toEqual({});
	});

	test.each(PRINT_FAULTS.filter((f) => !LOCAL_FAULTS.includes(f)))('%s at 1.5 times its threshold is found in 95 of 100', (fault) => {
		const row = study(fault, 1.5, SEEDS);
		expect(row.found / row.runs, JSON.stringify(row.named)).toBeGreaterThanOrEqual(0.95);
		expect(row.others / row.runs, JSON.stringify(row.named)).toBeLessThanOrEqual(0.05);
	});

	test.each(LOCAL_FAULTS)('%s at full strength is found in 90 of 100', (fault) => {
		const row = study(fault, 1, SEEDS);
		expect(row.found / row.runs, JSON.stringify(row.named)).toBeGreaterThanOrEqual(0.9);
	});
});

describe('what a finding says', () => {
	const faulty = (fault: (typeof PRINT_FAULTS)[number], strength = 1.6, seed = 4) =>
		findSignatures(studyRun(seed, 36, 300, [{ kind: fault, strength }]));

	test('size with its interval, evidence, what to do, and the test that tells it from its look-alike', () => {
		const [s] = faulty('clogWipe').signatures;
		expect(s!.code).toBe('CLOG_WIPE');
		expect(s!.size).toBeLessThan(-6);
		expect(s!.low).toBeLessThan(s!.size);
		expect(s!.high).toBeGreaterThan(s!.size);
		expect(s!.evidence).toContain('Small openings lose');
		expect(CAUSES.CLOG_WIPE.test).toContain('Wipe now');
		expect(s!.confidence).toBeGreaterThan(0.9);
	});

	test('several faults at once are each named', () => {
		const run = studyRun(12, 36, 300, [
			{ kind: 'strokePair', strength: 1.8 },
			{ kind: 'alignShift', strength: 1.8 },
			{ kind: 'apertureBlocked', strength: 1.4 }
		]);
		const codes = findSignatures(run).signatures.map((s) => s.code);
		expect(codes).toEqual(expect.arrayContaining(['STROKE_PAIR', 'ALIGN_SHIFT', 'APERTURE_BLOCKED']));
	});

	test('too few panels is said, never called all right', () => {
		const report = findSignatures(studyRun(3, 8, 300, [{ kind: 'strokePair', strength: 3 }]));
		expect(report.signatures).toEqual([]);
		expect(report.notJudged[0]!.why).toContain('8 panels and 300 pads');
	});

	test('a wipe every second print makes stroke and wipe phase one and the same: ambiguous, with the separating test', () => {
		const run = studyRun(5, 36, 300, [{ kind: 'strokePair', strength: 2 }]);
		const panels = run.panels.map((p, i) => ({ ...p, stroke: i % 2 ? 'R' : 'F', printsSinceWipe: i % 2 }));
		const report = findSignatures({ ...run, panels });
		expect(report.signatures.map((s) => s.code)).toContain('AMBIGUOUS');
		expect(report.signatures.find((s) => s.code === 'AMBIGUOUS')!.candidates).toEqual(['STROKE_PAIR', 'CLOG_WIPE']);
		expect(report.notJudged.some((n) => n.test.includes('Wipe every 3 prints'))).toBe(true);
	});

	test('printing in one direction: stroke statistics are not testable, not zero', () => {
		const run = studyRun(5, 36, 300, []);
		const report = findSignatures({ ...run, panels: run.panels.map((p) => ({ ...p, stroke: 'F' })) });
		expect(report.notJudged.some((n) => n.codes.includes('STROKE_PAIR'))).toBe(true);
	});

	test('missing readings are left out, not read as zero', () => {
		const run = studyRun(9, 36, 300, []);
		for (let i = 0; i < run.volumePct.length; i += 7) {
			run.volumePct[i] = NaN;
			run.heightUm[i] = NaN;
			run.offsetXUm[i] = NaN;
		}
		expect(findSignatures(run).signatures).toEqual([]);
	});

	test('a golden baseline keeps what is usual for a stencil from raising an alarm', () => {
		const run = studyRun(6, 36, 300, [{ kind: 'levelLow', strength: 1.6 }]);
		expect(findSignatures(run).signatures[0]!.code).toBe('LEVEL_LOW');
		const golden = run.pads.map((_, p) => {
			const own = run.panels.map((_, m) => run.volumePct[m * 300 + p]!).sort((a, b) => a - b);
			return own[18]! / 100;
		});
		expect(findSignatures(run, undefined, undefined, golden).signatures.map((s) => s.code)).not.toContain('LEVEL_LOW');
	});

	test('the residuals are explained by the pattern that was put in', () => {
		const { steps, unexplained } = explainResiduals(studyRun(8, 36, 300, [{ kind: 'tiltAcross', strength: 2 }]));
		expect(steps[0]!.pattern).toBe('across the blade');
		expect(steps[0]!.share).toBeGreaterThan(0.2);
		expect(unexplained).toBeLessThan(0.8);
		expect(explainResiduals(studyRun(8, 36, 300, [])).unexplained).toBeGreaterThan(0.85);
	});
});

describe('after the action', () => {
	test.each(['strokePair', 'clogWipe', 'alignShift', 'tiltAlong', 'supportLocal', 'bladeNick', 'apertureBlocked', 'gapHigh'] as const)(
		'%s: better once it is gone, no better while it stays, too early before',
		(fault) => {
			const before = studyRun(21, 36, 300, [{ kind: fault, strength: 1.7 }]);
			const signature = findSignatures(before).signatures.find((s) => s.code === CAUSE_OF_FAULT[fault])!;
			expect(signature).toBeDefined();
			expect(followUp(before, studyRun(21, 24, 300, []), signature).answer).toBe('better');
			expect(followUp(before, studyRun(21, 24, 300, [{ kind: fault, strength: 1.7 }]), signature).answer).toBe('noBetter');
			expect(followUp(before, studyRun(21, 2, 300, []), signature)).toMatchObject({ answer: 'tooEarly' });
			expect(followUp(before, null, signature).stillNeeded).toBeGreaterThan(0);
		}
	);

	test('it re-opens when it comes back within 50 panels', () => {
		expect(reopens('STROKE_PAIR', 40, [{ code: 'STROKE_PAIR' }])).toBe(true);
		expect(reopens('STROKE_PAIR', 60, [{ code: 'STROKE_PAIR' }])).toBe(false);
		expect(reopens('STROKE_PAIR', 40, [{ code: 'CLOG_WIPE' }])).toBe(false);
	});

	test('no panels is an error, not a zero', () => {
		expect(() => causeStatistic(studyRun(1, 0, 40, []), 'CLOG_WIPE', {})).toThrow('run.panels');
	});
});
