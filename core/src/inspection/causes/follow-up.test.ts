import { describe, expect, test } from 'vitest';
import {
	causeStatistic,
	followUp,
	panelsNeeded,
	reopens,
	SIGNATURE_THRESHOLDS,
	splitAtAct,
	type CauseCode,
	type SignatureRun
} from './index.ts';
import { writtenRun, type Shape } from './written-run.test-kit.ts';

const run = (shape: Shape = {}) => writtenRun({ rows: 2, panels: 16, ...shape });
const strokes = (front: number, rear: number, more: Shape = {}) =>
	run({ volume: (_, __, ___, panel) => (panel.stroke === 'F' ? front : rear), ...more });
const signature = (code: CauseCode, threshold: number) => ({ code, where: {}, threshold, size: 0 });
const pair = signature('STROKE_PAIR', SIGNATURE_THRESHOLDS.strokeLp);

describe('whether an action helped', () => {
	const bad = strokes(1.05, 0.95);

	test('better: below the threshold, and by more than chance', () => {
		const answer = followUp(bad, strokes(1.004, 0.996), pair);
		expect(answer).toMatchObject({ answer: 'better', stillNeeded: 0 });
		expect(answer.before.value).toBeCloseTo(100 * Math.log(1.05 / 0.95), 0);
		expect(Math.abs(answer.after!.value)).toBeLessThan(3);
		expect(answer.after!.panels).toBe(16);
		expect(answer.statement).toMatch(/^Better: \d+\.\d before, [\d.]+ over the 16 panels since\.$/);
	});

	test('the other way round is no better', () => {
		expect(followUp(bad, strokes(0.95, 1.05), pair)).toMatchObject({ answer: 'noBetter', stillNeeded: 0 });
		expect(followUp(bad, bad, pair).statement).toMatch(/^No better: /);
	});

	test('inside the threshold by no more than chance is no better', () => {
		// Ten points of noise a panel: 4.5 before and 3 after cannot be told apart.
		const noisy = (size: number, seed: number) =>
			strokes(1 + size / 200, 1 - size / 200, {
				volume: (m, _, __, panel) => (panel.stroke === 'F' ? 1 + size / 200 : 1 - size / 200) + 0.04 * Math.sin(seed + 7 * m * m)
			});
		const answer = followUp(noisy(4.5, 1), noisy(3, 2), pair);
		expect(Math.abs(answer.after!.value)).toBeLessThan(5);
		expect(answer.answer).toBe('noBetter');
	});

	test('too early: as many panels as the cause needs, and panels that vary it', () => {
		expect(followUp(bad, null, pair)).toMatchObject({
			answer: 'tooEarly',
			stillNeeded: 8,
			after: null,
			statement: 'Too early: 8 more panels are needed.'
		});
		expect(followUp(bad, strokes(1, 1, { panels: 7 }), pair)).toMatchObject({ answer: 'tooEarly', stillNeeded: 1 });
		expect(followUp(bad, strokes(1, 1, { panels: 8 }), pair).answer).not.toBe('tooEarly');
		const oneStroke = followUp(bad, run({ oneStroke: true }), pair);
		expect(oneStroke).toMatchObject({ answer: 'tooEarly', stillNeeded: 4 });
		expect(oneStroke.after!.value).toBeNaN();
		expect(oneStroke.statement).toContain('do not vary it yet');
	});

	test('a level is inside its limit or it is not', () => {
		const low = signature('LEVEL_LOW', SIGNATURE_THRESHOLDS.levelLow);
		const before = run({ volume: () => 0.78 });
		expect(followUp(before, run(), low)).toMatchObject({
			answer: 'better',
			statement: 'Better: 0.78 before, inside its limit over the 16 panels since.'
		});
		expect(followUp(before, run({ volume: () => 0.8 }), low)).toMatchObject({
			answer: 'noBetter',
			statement: 'No better: 0.78 before, 0.80 over the 16 panels since.'
		});
	});

	test('a cause without a statistic of its own is what the finder says of the panels, few as they are', () => {
		const off = { ...run({ panels: 3 }) };
		const wrong: SignatureRun = { ...off, volumePct: off.volumePct.map((v) => 1.2 * v) as Float32Array };
		expect(causeStatistic(wrong, 'MEASUREMENT', {}).value).toBeCloseTo(Math.log(1.2), 5);
		expect(causeStatistic(off, 'MEASUREMENT', {})).toEqual({ value: 0, error: 0, panels: 3 });
		// Bridges: the error of the size, from its 95 % interval.
		const bridged = causeStatistic(run({ bridges: () => 1 }), 'BRIDGE_PRESSURE', {});
		expect(bridged.value).toBe(1);
		expect(bridged.error).toBeCloseTo(Math.sqrt(16) / 16, 2);
		expect(causeStatistic(run({ panels: 2, bridges: (m) => m * 2 }), 'BRIDGE_PRESSURE', {}).value).toBe(1);
		expect(() => causeStatistic(run({ panels: 0 }), 'MEASUREMENT', {})).toThrow('run.panels');
	});

	test('by place: the pads that it was found at, against the others', () => {
		const pads = [10, 11, 12, 13];
		const high = (by: number) => run({ noise: 0.001, height: (p) => (pads.includes(p) ? by : 1) });
		expect(causeStatistic(high(1.2), 'SUPPORT_LOCAL', { pads }).value).toBeCloseTo(100 * Math.log(1.2), 0);
		expect(Math.abs(causeStatistic(high(1), 'SUPPORT_LOCAL', { pads }).value)).toBeLessThan(0.5);
		const nick = (by: number) => run({ noise: 0.001, volume: (_, p, __, panel) => (pads.includes(p) && panel.stroke === 'R' ? by : 1) });
		expect(causeStatistic(nick(0.8), 'BLADE_NICK', { pads }).value).toBeCloseTo(100 * Math.log(1 / 0.8), 0);
		expect(causeStatistic(nick(1), 'BLADE_NICK', { pads }).value).toBeCloseTo(0, 0);
		expect(causeStatistic(run({ oneStroke: true }), 'BLADE_NICK', { pads }).value).toBeNaN();
		const blocked = (by: number) => run({ noise: 0.001, volume: (_, p) => (p === 11 ? by : 1) });
		expect(causeStatistic(blocked(0.5), 'APERTURE_BLOCKED', { pads: [11] }).value).toBeCloseTo(100 * Math.log(0.5), 0);
		expect(causeStatistic(blocked(1), 'APERTURE_BLOCKED', { pads: [11] }).value).toBeCloseTo(0, 0);
		// One pad has no spread of its own: 3 lp stand for it.
		expect(causeStatistic(blocked(1), 'APERTURE_BLOCKED', { pads: [11] }).error).toBe(3);
		const tilted = run({ noise: 0.001, rows: 4, volume: (_, __, pad) => 1 + 0.1 * (pad.xMm / 111 - 0.5) });
		expect(causeStatistic(tilted, 'TILT_ACROSS', {}).value).toBeCloseTo(10, 0);
		expect(causeStatistic(tilted, 'TILT_ALONG', {}).value).toBeCloseTo(0, 0);
	});

	test('a cause is back within 50 panels of its action, by its own name', () => {
		expect(reopens('STROKE_PAIR', 50, [{ code: 'STROKE_PAIR' }])).toBe(true);
		expect(reopens('STROKE_PAIR', 51, [{ code: 'STROKE_PAIR' }])).toBe(false);
		expect(reopens('STROKE_PAIR', 10, [{ code: 'CLOG_WIPE' }])).toBe(false);
		expect(panelsNeeded('CLOG_WIPE')).toBe(12);
	});
});

test('an act stands among prints by when they were printed: what lay printed and not yet inspected is before it, what was in the printer is neither', () => {
	const printed = [100, 200, 300, 400];
	expect(splitAtAct(printed, 99)).toEqual({ before: 0, from: 1 });
	expect(splitAtAct(printed, 199)).toEqual({ before: 1, from: 2 });
	expect(splitAtAct(printed, 200)).toEqual({ before: 2, from: 3 });
	expect(splitAtAct(printed, 400)).toEqual({ before: 4, from: 4 });
	expect(splitAtAct([], 400)).toEqual({ before: 0, from: 0 });
});
