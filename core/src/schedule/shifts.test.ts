import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { instantOf, localParts } from '../units/index.ts';
import {
	breaksOf,
	checkShifts,
	isWorked,
	lostTime,
	lostTimeLines,
	neighbourShift,
	nextUp,
	shiftAt,
	shiftOn,
	type ShiftPattern,
	type Stop,
	weekOf
} from './index.ts';

const THREE: ShiftPattern[] = [
	{ name: 'Early', from: '06:00', to: '14:00' },
	{ name: 'Late', from: '14:00', to: '22:00' },
	{ name: 'Night', from: '22:00', to: '06:00' }
];
const DAY: ShiftPattern[] = [{ name: 'Day', from: '07:30', to: '16:00' }];
const zone = fc.constantFrom('UTC', 'Europe/Berlin', 'America/New_York', 'Asia/Kolkata');
const minute = fc.integer({ min: 0, max: 366 * 24 * 60 }).map((m) => Date.parse('2026-01-01T00:00:00Z') + m * 60_000);

describe('three shifts round the clock', () => {
	test('every instant of the year lies in exactly one shift, which holds it', () => {
		fc.assert(
			fc.property(minute, zone, (ms, timeZone) => {
				const shift = shiftAt(ms, THREE, timeZone)!;
				expect(shift).not.toBeNull();
				expect(shift.startMs).toBeLessThanOrEqual(ms);
				expect(shift.endMs).toBeGreaterThan(ms);
				const holding = THREE.flatMap((p) => [shiftOn(shift.date, p, timeZone)]).filter((s) => s.startMs <= ms && ms < s.endMs);
				expect(holding.map((s) => s.name)).toContain(shift.name);
			})
		);
	});
	test('the next of the one before is the shift itself', () => {
		fc.assert(
			fc.property(minute, zone, (ms, timeZone) => {
				const shift = shiftAt(ms, THREE, timeZone)!;
				const before = neighbourShift(shift, THREE, timeZone, -1)!;
				expect(neighbourShift(before, THREE, timeZone, 1)).toEqual(shift);
				expect(before.endMs).toBe(shift.startMs);
			})
		);
	});
	test('a shift has eight hours, but seven or nine in the two nights of a clock change', () => {
		fc.assert(
			fc.property(minute, (ms) => {
				const shift = shiftAt(ms, THREE, 'Europe/Berlin')!;
				const hours = (shift.endMs - shift.startMs) / 3_600_000;
				if (shift.name === 'Night') expect([7, 8, 9]).toContain(hours);
				else expect(hours).toBe(8);
			})
		);
	});
	test('the night of the 28th belongs to the 28th until six', () => {
		const ms = instantOf('2026-11-29', '03:00', 'Europe/Berlin');
		expect(shiftAt(ms, THREE, 'Europe/Berlin')).toMatchObject({ name: 'Night', date: '2026-11-28' });
	});
});

describe('a plant that works by day', () => {
	test('at night there is no shift; beside one are those of the days around it', () => {
		const night = instantOf('2026-11-29', '03:00', 'Europe/Berlin');
		expect(shiftAt(night, DAY, 'Europe/Berlin')).toBeNull();
		const day = shiftAt(instantOf('2026-11-29', '08:00', 'Europe/Berlin'), DAY, 'Europe/Berlin')!;
		expect(neighbourShift(day, DAY, 'Europe/Berlin', 1)).toMatchObject({ name: 'Day', date: '2026-11-30' });
		expect(neighbourShift(day, DAY, 'Europe/Berlin', -1)).toMatchObject({ name: 'Day', date: '2026-11-28' });
		expect(localParts(day.endMs, 'Europe/Berlin').time).toBe('16:00');
	});
});

test.each([
	['2026-11-30', 1, '2026-11-30'],
	['2026-12-06', 1, '2026-11-30'],
	['2026-12-06', 7, '2026-12-06'],
	['2026-12-05', 7, '2026-11-29'],
	['2027-01-01', 1, '2026-12-28'],
	['2026-03-29', 1, '2026-03-23']
])('%s lies in the week that begins, on weekday %i, on %s', (date, first, begins) => {
	expect(weekOf(date, first)).toBe(begins);
});

describe('weekdays, holidays and breaks', () => {
	const WEEK: ShiftPattern[] = THREE.map((p) => ({ ...p, days: [1, 2, 3, 4, 5], notOn: ['2026-12-25'] }));
	// 2026-11-27 is a Friday.
	test('a shift begins on its weekdays only, and on no holiday', () => {
		expect(['2026-11-27', '2026-11-28', '2026-11-29', '2026-11-30'].map((date) => isWorked(date, WEEK[0]!))).toEqual([
			true,
			false,
			false,
			true
		]);
		expect(isWorked('2026-12-25', WEEK[0]!)).toBe(false);
		expect(isWorked('2026-12-24', WEEK[0]!)).toBe(true);
		expect(isWorked('2026-11-29', { ...WEEK[0]!, days: [7] })).toBe(true);
	});
	test('the night of Friday goes on into Saturday, then nobody works until Monday', () => {
		expect(shiftAt(instantOf('2026-11-28', '05:59', 'UTC'), WEEK, 'UTC')).toMatchObject({ name: 'Night', date: '2026-11-27' });
		expect(shiftAt(instantOf('2026-11-28', '06:00', 'UTC'), WEEK, 'UTC')).toBeNull();
		const friday = shiftOn('2026-11-27', WEEK[2]!, 'UTC');
		const monday = neighbourShift(friday, WEEK, 'UTC', 1)!;
		expect(monday).toMatchObject({ name: 'Early', date: '2026-11-30' });
		expect(neighbourShift(monday, WEEK, 'UTC', -1)).toEqual(friday);
	});
	test('a plant that is shut for longer than five weeks has no next shift', () => {
		const dates = (n: number) => Array.from({ length: n }, (_, i) => new Date(Date.UTC(2026, 6, 2 + i)).toISOString().slice(0, 10));
		const next = (n: number) => neighbourShift(shiftOn('2026-07-01', DAY[0]!, 'UTC'), [{ ...DAY[0]!, notOn: dates(n) }], 'UTC', 1);
		expect(next(34)).toMatchObject({ date: '2026-08-05' });
		expect(next(35)).toBeNull();
	});
	test('breaks are instants, after midnight where their shift is', () => {
		const night = {
			...THREE[2]!,
			breaks: [
				{ from: '02:00', to: '02:30' },
				{ from: '23:45', to: '00:00' }
			]
		};
		const shift = shiftOn('2026-11-27', night, 'UTC');
		expect(
			breaksOf(shift, [night], 'UTC').map(({ fromMs, toMs }) => [new Date(fromMs).toISOString(), new Date(toMs).toISOString()])
		).toEqual([
			['2026-11-27T23:45:00.000Z', '2026-11-28T00:00:00.000Z'],
			['2026-11-28T02:00:00.000Z', '2026-11-28T02:30:00.000Z']
		]);
		expect(breaksOf(shift, THREE, 'UTC')).toEqual([]);
	});
	const fields = (patterns: ShiftPattern[]) => checkShifts(patterns).map((issue) => issue.field);
	test('three shifts round the clock are in order, as is one by day', () => {
		expect([fields(THREE), fields(DAY), fields([{ name: 'All', from: '06:00', to: '06:00' }])]).toEqual([[], [], []]);
	});
	test('shifts that run at the same time are named, but not where their weekdays differ', () => {
		const [early, late] = [{ ...THREE[0]!, to: '14:01' }, THREE[1]!];
		expect(fields([early, late])).toEqual(['shifts.1.from']);
		expect(
			fields([
				{ ...early, days: [1, 2, 3, 4, 5] },
				{ ...late, days: [6] }
			])
		).toEqual([]);
		expect(fields([THREE[2]!, { name: 'Dawn', from: '05:59', to: '07:00' }])).toEqual(['shifts.1.from']);
		expect(fields([THREE[2]!, { name: 'Dawn', from: '06:00', to: '07:00' }])).toEqual([]);
		expect(fields([THREE[0]!, { ...THREE[1]!, name: 'Early' }])).toEqual(['shifts.1.name']);
	});
	test('a break lies within its shift, its edges included', () => {
		const of = (from: string, to: string) => fields([{ ...THREE[2]!, breaks: [{ from, to }] }]);
		expect([of('22:00', '22:15'), of('05:45', '06:00'), of('23:50', '00:20')]).toEqual([[], [], []]);
		expect([of('21:59', '22:15'), of('05:45', '06:01'), of('01:00', '01:00')]).toEqual(Array(3).fill(['shifts.0.breaks.0']));
	});
});

describe('lost time', () => {
	const stop = fc.record({
		station: fc.constantFrom('Print', 'Place 1', 'Oven'),
		from: fc.integer({ min: -30, max: 500 }),
		minutes: fc.integer({ min: 1, max: 60 }),
		open: fc.boolean(),
		reason: fc.constantFrom('pick', 'jam', null)
	});
	const stops = fc.array(stop, { maxLength: 25 }).map((list) =>
		list.map((s): Stop => ({
			station: s.station,
			fromMs: s.from * 60_000,
			toMs: s.open ? null : (s.from + s.minutes) * 60_000,
			machineReason: null,
			reason: s.reason as Stop['reason']
		}))
	);
	test('never more than the window, never less than the longest stop in it', () => {
		fc.assert(
			fc.property(stops, (list) => {
				const lost = lostTime(list, 0, 480 * 60_000);
				expect(lost.totalMs).toBeLessThanOrEqual(480 * 60_000);
				const inside = list.map((s) => Math.min(480 * 60_000, s.toMs ?? Infinity) - Math.max(0, s.fromMs));
				expect(lost.totalMs).toBeGreaterThanOrEqual(Math.max(0, ...inside));
			})
		);
	});
	test('minute by minute it is the minutes at which some machine stood', () => {
		fc.assert(
			fc.property(stops, (list) => {
				let minutes = 0;
				for (let m = 0; m < 480; m++) if (list.some((s) => s.fromMs <= m * 60_000 && (s.toMs ?? Infinity) > m * 60_000)) minutes++;
				expect(lostTime(list, 0, 480 * 60_000).totalMs).toBe(minutes * 60_000);
			})
		);
	});
	test('two halves of a window lose together what the whole loses', () => {
		fc.assert(
			fc.property(stops, fc.integer({ min: 10, max: 470 }), (list, at) => {
				const closed = list.filter((s) => s.toMs !== null);
				const [a, b, whole] = [
					lostTime(closed, 0, at * 60_000),
					lostTime(closed, at * 60_000, 480 * 60_000),
					lostTime(closed, 0, 480 * 60_000)
				];
				expect(a.totalMs + b.totalMs).toBe(whole.totalMs);
			})
		);
	});
	test('no stop says so in one sentence', () => expect(lostTimeLines(lostTime([], 0, 1000))).toEqual(['No machine stopped']));
});

describe('next up', () => {
	const reel = fc.record({
		station: fc.constant('Place 1'),
		slot: fc.integer({ min: 1, max: 30 }),
		partNumber: fc.constant('R-10K'),
		pieces: fc.integer({ min: 0, max: 3000 }),
		perPanel: fc.integer({ min: 1, max: 60 })
	});
	test('is in the order of the latest safe start, and every splice comes before its reel is empty', () => {
		fc.assert(
			fc.property(fc.array(reel, { maxLength: 12 }), fc.integer({ min: 1, max: 500 }), (reels, panelsToGo) => {
				const due = nextUp(0, { taktS: 60, panelsToGo, reels, shiftEndMs: 8 * 3_600_000, handOverSigned: false });
				for (let i = 1; i < due.length; i++) expect(due[i]!.atMs).toBeGreaterThanOrEqual(due[i - 1]!.atMs);
				for (const r of reels) {
					const splice = due.find((d) => d.action === `Splice slot ${r.slot}`);
					if (!splice) continue;
					expect(splice.atMs).toBeLessThan((Math.floor(r.pieces / r.perPanel) + 1) * 60_000);
				}
			})
		);
	});
	test('a hand-over that is signed is no longer due', () => {
		const line = { taktS: 60, panelsToGo: 0, reels: [], shiftEndMs: 3_600_000 };
		expect(nextUp(0, { ...line, handOverSigned: false }).map((d) => d.action)).toContain('Hand over');
		expect(nextUp(0, { ...line, handOverSigned: true })).toEqual([]);
	});
});
