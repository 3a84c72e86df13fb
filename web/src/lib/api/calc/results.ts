import { chartConstants, individualsChart, judgeChart } from '@keen-relay/core/control';
import {
	countFails,
	firstPass,
	checkLimits,
	DEPOSIT_LIMITS,
	judgeDeposit,
	judgePanelPaste,
	judgeYield,
	thermalMeans,
	panelLevel,
	yieldOf
} from '@keen-relay/core/inspection';
import { combine, LEVELS } from '@keen-relay/core/judgement';
import { wilsonInterval } from '@keen-relay/core/numerics';
import { PAD_CLASSES, padClass, readPackage } from '@keen-relay/core/parts';
import {
	handOverLines,
	judgeHandOver,
	judgeRun,
	lostTime,
	lostTimeLines,
	nextUp,
	runEndMs,
	shiftAt,
	STOP_REASONS,
	type StopReason
} from '@keen-relay/core/schedule';
import { instantOf } from '@keen-relay/core/units';
import { z } from 'zod';
import { depositLimits } from '../bodies.ts';
import { calculation } from './calculation.ts';

const padClassName = z.enum(PAD_CLASSES);
const passed = z.object({ passed: z.int().nonnegative(), units: z.int().nonnegative() });
const clock = z.string().regex(/^\d\d:\d\d$/);
const shifts = z.array(z.object({ name: z.string(), from: clock, to: clock })).min(1);
const SHIFTS = [
	{ name: 'Early', from: '06:00', to: '14:00' },
	{ name: 'Late', from: '14:00', to: '22:00' },
	{ name: 'Night', from: '22:00', to: '06:00' }
];
const stop = z.object({
	station: z.string(),
	fromMs: z.number(),
	toMs: z.number().nullable(),
	machineReason: z.string().nullable().default(null),
	reason: z
		.enum(Object.keys(STOP_REASONS) as [StopReason, ...StopReason[]])
		.nullable()
		.default(null)
});
const STOPS = [
	{ station: 'Place 1', fromMs: 600_000, toMs: 1_200_000, reason: 'pick' as const },
	{ station: 'Oven', fromMs: 900_000, toMs: 1_500_000 }
];
const reason = z.object({ quantity: z.string(), value: z.number(), unit: z.string(), limit: z.string().nullable(), source: z.string() });
const verdict = z.object({ level: z.enum(LEVELS), statement: z.string(), because: z.array(reason), doNext: z.array(z.string()) });

export const results = [
	calculation({
		name: 'pad_class',
		summary: 'Class whose paste limits a deposit goes by, from its package and the opening’s width.',
		input: z.object({ packageName: z.string(), widthMm: z.number().positive() }),
		example: { packageName: 'QFN50P700X700X90-49', widthMm: 1.2 },
		run: ({ packageName, widthMm }) => ({ padClass: padClass(readPackage(packageName), widthMm) })
	}),
	calculation({
		name: 'deposit',
		summary:
			'One paste deposit judged against the limits of its class, or against the plant’s own where they are given; offsets by the pad’s size in each axis.',
		input: z.object({
			padClass: padClassName,
			widthMm: z.number().positive().meta({ description: 'size in x, mm' }),
			lengthMm: z.number().positive().optional().meta({ description: 'size in y, mm; as in x where it is left out' }),
			bridge: z.boolean().optional().meta({ description: 'paste joins it to its neighbour' }),
			limits: depositLimits
				.optional()
				.meta({ description: 'the plant’s limits of this class; the starting values where they are left out' }),
			volumePct: z.number(),
			heightPct: z.number(),
			areaPct: z.number(),
			offsetXUm: z.number(),
			offsetYUm: z.number()
		}),
		example: { padClass: 'chip', widthMm: 0.5, volumePct: 44, heightPct: 90, areaPct: 80, offsetXUm: 12, offsetYUm: -8 },
		run: ({ padClass: c, widthMm, lengthMm, bridge, limits, ...deposit }) => {
			if (limits) checkLimits({ ...DEPOSIT_LIMITS, [c]: limits });
			return judgeDeposit(c, { xMm: widthMm, yMm: lengthMm ?? widthMm }, { ...deposit, bridge: bridge ?? false }, limits);
		}
	}),
	calculation({
		name: 'panel_paste',
		summary: 'Result of a panel at paste check from its fails and warnings.',
		input: z.object({ pads: z.int().positive(), fails: z.int().nonnegative(), warnings: z.int().nonnegative() }),
		example: { pads: 1760, fails: 0, warnings: 20 },
		run: ({ pads, fails, warnings }) => ({ result: judgePanelPaste(pads, fails, warnings) })
	}),
	calculation({
		name: 'thermal_means',
		summary: 'Mean volume of each thermal pad that is printed through windows, and whether it lies within its limits.',
		input: z.object({
			padClass: z.array(padClassName).min(1),
			refDes: z.array(z.string().nullable()),
			volumePct: z.array(z.number().nonnegative()).max(1_000_000)
		}),
		example: { padClass: ['thermal', 'thermal', 'chip'], refDes: ['U1', 'U1', 'R1'], volumePct: [60, 62, 100] },
		run: ({ padClass, refDes, volumePct }) => thermalMeans(padClass, refDes, volumePct)
	}),
	calculation({
		name: 'panel_level',
		summary: 'How a panel stands from all that was seen of it.',
		input: z.object({ paste: z.enum(['pass', 'review', 'reject']).nullable(), failedVisits: z.int().nonnegative(), finished: z.boolean() }),
		example: { paste: 'pass', failedVisits: 0, finished: true },
		run: (seen) => ({ level: panelLevel(seen) })
	}),
	calculation({
		name: 'first_pass_yield',
		summary: 'Machine first-pass yield with its Wilson interval: the first attempt of each unit counts.',
		input: z.object({ visits: z.array(z.object({ unit: z.string(), startedAtMs: z.number(), passed: z.boolean() })) }),
		example: {
			visits: [
				{ unit: 'P1/0', startedAtMs: 0, passed: false },
				{ unit: 'P1/0', startedAtMs: 60000, passed: true }
			]
		},
		run: ({ visits }) => firstPass(visits.map(({ startedAtMs, ...visit }) => ({ ...visit, startedAt: startedAtMs })))
	}),
	calculation({
		name: 'judge_yield',
		summary: 'Whether a first-pass yield meets its goal; below 30 units it gives counts.',
		input: passed.extend({ step: z.string(), goal: z.number().min(0).max(1), leader: z.string().nullable().default(null) }),
		example: { step: 'Optical', passed: 178, units: 184, goal: 0.97 },
		run: ({ step, passed: p, units, goal, leader }) => judgeYield(step, yieldOf(p, units), goal, leader)
	}),
	calculation({
		name: 'fails_by_place',
		summary: 'Calls counted by place and by code, the most frequent first.',
		input: z.object({ calls: z.array(z.object({ refDes: z.string(), code: z.string() })) }),
		example: {
			calls: [
				{ refDes: 'C46', code: 'tombstone' },
				{ refDes: 'C46', code: 'tombstone' }
			]
		},
		run: ({ calls }) => countFails(calls)
	}),
	calculation({
		name: 'wilson_interval',
		summary: 'Interval of a share by Wilson, 95 % by default.',
		input: z.object({ count: z.int().nonnegative(), total: z.int().positive(), z: z.number().positive().default(1.959963984540054) }),
		example: { count: 97, total: 100 },
		run: (given) => wilsonInterval(given.count, given.total, given.z)
	}),
	calculation({
		name: 'individuals_chart',
		summary: 'Individuals chart with moving ranges: centre, limits, points beyond.',
		input: z.object({ values: z.array(z.number()).min(2), baseline: z.int().min(2).optional() }),
		example: { values: [96.1, 97.4, 95.8, 96.6, 96.9, 91.2] },
		run: ({ values, baseline }) => individualsChart(values, baseline)
	}),
	calculation({
		name: 'judge_chart',
		summary: 'What an individuals chart shows, as a verdict.',
		input: z.object({ name: z.string(), unit: z.string(), values: z.array(z.number()) }),
		example: { name: 'Mean volume', unit: '%', values: Array.from({ length: 25 }, (_, i) => 96 + (i % 5) / 5) },
		run: ({ name, unit, values }) => judgeChart(name, unit, values)
	}),
	calculation({
		name: 'chart_constants',
		summary: 'Constants of subgroup charts for n values, computed, not typed.',
		input: z.object({ n: z.int().min(2).max(25) }),
		example: { n: 5 },
		run: ({ n }) => chartConstants(n)
	}),
	calculation({
		name: 'combine_verdicts',
		summary: 'The worst of several verdicts speaks, all of them give their evidence.',
		input: z.object({ verdicts: z.array(verdict).min(1) }),
		example: {
			verdicts: [
				{ level: 'good', statement: 'A.', because: [], doNext: [] },
				{ level: 'watch', statement: 'B.', because: [], doNext: ['Look'] }
			]
		},
		run: ({ verdicts }) => combine(verdicts)
	}),
	calculation({
		name: 'shift',
		summary: 'The shift that a moment falls into, across midnight and clock changes.',
		input: z.object({ at: z.iso.datetime({ offset: true }), shifts, timeZone: z.string() }),
		example: { at: '2026-11-25T23:30:00Z', shifts: SHIFTS, timeZone: 'Europe/Dublin' },
		run: ({ at, shifts: s, timeZone }) => ({ shift: shiftAt(Date.parse(at), s, timeZone) })
	}),
	calculation({
		name: 'instant',
		summary: 'The instant of a local date and time, ms since 1970.',
		input: z.object({ date: z.iso.date(), time: clock, timeZone: z.string() }),
		example: { date: '2026-11-25', time: '13:42', timeZone: 'Europe/Dublin' },
		run: ({ date, time, timeZone }) => ({ ms: instantOf(date, time, timeZone) })
	}),
	calculation({
		name: 'next_up',
		summary: 'What is due on a running line, by the latest safe start.',
		input: z.object({
			nowMs: z.number(),
			taktS: z.number().nonnegative(),
			panelsToGo: z.int().nonnegative(),
			reels: z.array(
				z.object({
					station: z.string(),
					slot: z.int(),
					partNumber: z.string(),
					pieces: z.number().nonnegative(),
					perPanel: z.number().positive()
				})
			),
			shiftEndMs: z.number().nullable(),
			handOverSigned: z.boolean()
		}),
		example: {
			nowMs: 0,
			taktS: 60,
			panelsToGo: 50,
			reels: [{ station: 'Place 1', slot: 14, partNumber: 'R-10K', pieces: 800, perPanel: 40 }],
			shiftEndMs: 2_400_000,
			handOverSigned: false
		},
		run: ({ nowMs, ...of }) => ({ due: nextUp(nowMs, of) })
	}),
	calculation({
		name: 'run_end',
		summary: 'When the last panel of a run leaves the line, ms.',
		input: z.object({ nowMs: z.number(), panelsToFinish: z.int(), taktS: z.number().positive() }),
		example: { nowMs: 0, panelsToFinish: 354, taktS: 79.2 },
		run: ({ nowMs, panelsToFinish, taktS }) => ({ endMs: runEndMs(nowMs, panelsToFinish, taktS) })
	}),
	calculation({
		name: 'judge_run',
		summary: 'How a line’s run stands.',
		input: z.object({
			line: z.string(),
			run: z.object({ number: z.string(), finished: z.int(), panels: z.int() }).nullable(),
			stopped: z.array(z.string()).default([])
		}),
		example: { line: 'Line 1', run: { number: 'J-2446', finished: 46, panels: 400 } },
		run: ({ line, run, stopped }) => judgeRun(line, run, stopped)
	}),
	calculation({
		name: 'judge_hand_over',
		summary: 'Whether a shift was handed over: only two signatures count.',
		input: z.object({ shift: z.string(), current: z.boolean(), outgoing: z.string().nullable(), incoming: z.string().nullable() }),
		example: { shift: 'Early', current: false, outgoing: 'A. Tarn', incoming: null },
		run: ({ shift, current, outgoing, incoming }) => judgeHandOver(shift, current, outgoing, incoming)
	}),
	calculation({
		name: 'lost_time',
		summary: 'Lost time of a line between two moments: stops clipped and united, by machine and reason; and in sentences.',
		input: z.object({ stops: z.array(stop), fromMs: z.number(), untilMs: z.number() }),
		example: { stops: STOPS, fromMs: 0, untilMs: 28_800_000 },
		run: ({ stops, fromMs, untilMs }) => {
			const lost = lostTime(stops, fromMs, untilMs);
			return { ...lost, lines: lostTimeLines(lost) };
		}
	}),
	calculation({
		name: 'hand_over',
		summary: 'Sentences of a hand-over from what a shift did.',
		input: z.object({
			panelsPrinted: z.int().nonnegative(),
			panelsFinished: z.int().nonnegative(),
			yields: z.array(z.object({ step: z.string(), result: passed })),
			fails: z.array(z.object({ step: z.string(), what: z.string(), count: z.int() })),
			running: z.array(z.object({ job: z.string(), board: z.string(), done: z.int(), quantity: z.int() })),
			stands: z
				.array(z.object({ station: z.string(), level: z.enum(LEVELS), sentence: z.string(), act: z.string().nullable() }))
				.default([]),
			stops: z.array(stop),
			fromMs: z.number(),
			untilMs: z.number(),
			open: z.array(z.object({ what: z.string(), count: z.int() })),
			changes: z.array(z.object({ at: z.string(), who: z.string(), what: z.string() }))
		}),
		example: {
			panelsPrinted: 55,
			panelsFinished: 46,
			yields: [{ step: 'Optical', result: { passed: 178, units: 184 } }],
			fails: [],
			running: [],
			stops: STOPS,
			fromMs: 0,
			untilMs: 28_800_000,
			open: [],
			changes: []
		},
		run: ({ stops, fromMs, untilMs, yields, ...facts }) => ({
			blocks: handOverLines({
				...facts,
				yields: yields.map(({ step, result }) => ({ step, result: yieldOf(result.passed, result.units) })),
				lost: lostTime(stops, fromMs, untilMs)
			})
		})
	})
];
