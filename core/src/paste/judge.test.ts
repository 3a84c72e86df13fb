import { describe, expect, test } from 'vitest';
import { afterPause, judgePaste, judgePullPlan, judgeSensors, type PasteStation, type PullPlan } from './index.ts';

const H = 3_600_000;
const calm: PasteStation = {
	nowMs: 10 * H,
	wanted: 'P-305',
	beadG: 180,
	lots: ['L4'],
	oldestEndsMs: 14 * H,
	olderShare: 0,
	lifeH: 8,
	afterPause: null,
	gapMin: 1,
	reflow: { act: [], stopped: [] },
	discard: [],
	quarantined: [],
	room: { temperatureC: 23.5, rhPct: 48, inside: true },
	roomLimits: '22 to 26 °C, 40 to 60 %',
	shortG: 0,
	takeOut: []
};
const judge = (change: Partial<PasteStation>) => judgePaste({ ...calm, ...change });

describe('how the paste of a line stands', () => {
	test('within every clock it is good, and says why', () => {
		const { level, because } = judge({});
		expect(level).toBe('good');
		expect(because.map((r) => r.quantity)).toEqual(['Life on the stencil, oldest gram', 'Room']);
	});

	test.each<[string, Partial<PasteStation>, string, RegExp]>([
		['past its life', { oldestEndsMs: 9 * H }, 'act', /past its life/],
		['half an hour left', { oldestEndsMs: 10 * H + 20 * 60_000 }, 'watch', /20 min more/],
		['no jar was scanned', { beadG: null, oldestEndsMs: null }, 'noData', /No jar is known/],
		['two lots', { lots: ['L4', 'L5'] }, 'watch', /Two lots/],
		['the printer stood', { afterPause: afterPause(90), gapMin: 90 }, 'act', /stood for 90 min/],
		['a panel waits too long', { reflow: { act: ['P-7'], stopped: [] } }, 'act', /P-7 waits too long/],
		['a panel waited far too long', { reflow: { act: [], stopped: ['P-7'] } }, 'stopped', /P-7 was printed too long ago/],
		['a jar is past its life', { discard: ['J-1'] }, 'act', /J-1 is past its life/],
		['paste is missing', { shortG: 240 }, 'watch', /240 g are missing/],
		['a jar is held', { quarantined: ['J-2'] }, 'watch', /J-2 in quarantine/],
		['no reading of the room is never good', { room: null }, 'watch', /No reading/],
		['a warm room', { room: { temperatureC: 28, rhPct: 48, inside: false } }, 'watch', /28.0 °C/],
		['no run', { wanted: null }, 'noData', /No run/]
	])('%s', (_, change, level, words) => {
		const verdict = judge(change);
		expect(verdict.level).toBe(level);
		expect(verdict.statement).toMatch(words);
	});

	test('the worst speaks, what to do about all of it stands below, each once', () => {
		const verdict = judge({ reflow: { act: [], stopped: ['P-7'] }, oldestEndsMs: 9 * H, discard: ['J-1'], quarantined: ['J-2'] });
		expect(verdict.level).toBe('stopped');
		expect(verdict.doNext.length).toBeGreaterThan(3);
		expect(new Set(verdict.doNext).size).toBe(verdict.doNext.length);
	});
});

describe('how a plan of the fridge stands', () => {
	const opens = (jar: string, takeOutByMs: number, sealed = true): PullPlan['opens'][number] => ({
		jar,
		takeOutByMs,
		openMs: takeOutByMs + 4 * H,
		sealed,
		serves: [{ job: 'J-1', grams: 100 }],
		discardedG: 0
	});
	const plan: PullPlan = { opens: [opens('A', 9 * H, false), opens('B', 11 * H)], short: [], discardedG: 20, shortG: 0 };
	const judged = (p: PullPlan, nowMs = 9 * H, jobs = 1) =>
		judgePullPlan(
			p,
			jobs,
			(jar) => jar === 'B',
			nowMs,
			(ms) => `${ms / H} o’clock`
		);

	test('the next jar is told in good time, and half an hour before it is watched', () => {
		expect(judged(plan)).toMatchObject({
			level: 'good',
			statement: 'B leaves the fridge by 11 o’clock.',
			doNext: ['Take B out by 11 o’clock']
		});
		expect(judged(plan, 10.6 * H).level).toBe('watch');
		expect(judged({ ...plan, opens: [opens('A', 9 * H, false)] }).statement).toContain('already serves');
	});

	test('paste that is missing is said first, with the jobs that it is missing for', () => {
		const short = judged({
			...plan,
			short: [
				{ job: 'J-7, part 1', grams: 60 },
				{ job: 'J-7, part 2', grams: 20 }
			],
			shortG: 80
		});
		expect(short).toMatchObject({ level: 'act', statement: '80 g are missing: no jar is warm in time for J-7.' });
		expect(short.doNext).toContain('Order paste, or print that job later');
		expect(judged(plan, 9 * H, 0).level).toBe('noData');
	});
});

describe('the sensors of a plant', () => {
	const MIN = 60_000;
	const sensor = (more: Partial<Parameters<typeof judgeSensors>[0][number]> = {}) => ({
		name: 'Fridge 1',
		calibrated: true,
		everyMin: 5,
		latestMs: 100 * MIN,
		outside: false,
		...more
	});

	test('silent from 20 min on, or from three of its own intervals where those are longer', () => {
		const silent = (min: number, everyMin: number) => judgeSensors([sensor({ everyMin })], (100 + min) * MIN).silent.length === 1;
		expect([silent(20, 5), silent(20.01, 5)]).toEqual([false, true]);
		expect([silent(30, 10), silent(30.01, 10)]).toEqual([false, true]);
		expect(judgeSensors([sensor({ latestMs: null })], 0).silent).toEqual(['Fridge 1']);
	});

	test('what is outside comes before what is silent, that before what was never calibrated', () => {
		const now = 101 * MIN;
		const verdict = (...all: ReturnType<typeof sensor>[]) => judgeSensors(all, now).verdict;
		const [outside, quiet, unproven] = [
			sensor({ name: 'A', outside: true }),
			sensor({ name: 'B', latestMs: 0 }),
			sensor({ name: 'C', calibrated: false })
		];
		expect(verdict(unproven, quiet, outside)).toMatchObject({ level: 'act', statement: 'Outside its limits: A.' });
		expect(verdict(unproven, quiet)).toMatchObject({ level: 'watch', statement: 'No readings from B.' });
		expect(verdict(unproven)).toMatchObject({ level: 'watch', statement: 'Never calibrated: C.' });
		expect(verdict(sensor())).toMatchObject({ level: 'good', statement: '1 sensor reports, all within their limits.' });
		expect(judgeSensors([], now).verdict.level).toBe('noData');
	});

	test('a silent sensor that was outside says nothing of now', () => {
		expect(judgeSensors([sensor({ outside: true, latestMs: 0 })], 100 * MIN).verdict.statement).toBe('No readings from Fridge 1.');
	});
});
