import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
	beadAge,
	beadDiameterMm,
	beadG,
	beadOf,
	dewPointC,
	foldJar,
	historyOn,
	jarC,
	jarHistory,
	jarStatus,
	JAR_EVENTS,
	JAR_STATES,
	PASTE_RULES,
	pasteDensity,
	pullPlan,
	readSensorLog,
	safeOpeningC,
	statusOf,
	warmUp,
	type JarEvent,
	type JarFacts,
	type PullJar,
	type PullJob,
	type SensorReading
} from './index.ts';

const H = 3_600_000;
const jar: JarFacts = { id: 'J9', lot: 'L1', paste: 'P', receivedMs: 0, expiryMs: 2000 * H, grams: 500 };

/** Anything that people may scan, in any order, sensible or not. */
const events = fc
	.array(
		fc.record({
			kind: fc.constantFrom(...JAR_EVENTS.filter((k) => k !== 'mis_scan')),
			hours: fc.double({ min: 0, max: 90, noNaN: true }),
			grams: fc.integer({ min: 0, max: 600 })
		}),
		{
			maxLength: 14
		}
	)
	.map((list) =>
		list.map((e, i): JarEvent => ({ id: i + 1, kind: e.kind, atMs: Math.round(e.hours * H), grams: e.grams, stencil: 'S1', stirred: true }))
	);

describe('a jar, whatever is scanned', () => {
	test('its state is always one of the states, and its rest is never negative nor more than it held', () => {
		fc.assert(
			fc.property(events, (list) => {
				const s = jarStatus(jar, list, 100 * H);
				expect(JAR_STATES).toContain(s.state);
				expect(s.gramsLeft).toBeGreaterThanOrEqual(0);
				expect(s.gramsLeft).toBeLessThanOrEqual(jar.grams);
			})
		);
	});
	test('the order of entry in the list does not matter, only when things happened', () => {
		fc.assert(
			fc.property(events, (list) => {
				expect(jarStatus(jar, [...list].reverse(), 100 * H)).toEqual(jarStatus(jar, list, 100 * H));
			})
		);
	});
	test('what happens later changes nothing of what is known now', () => {
		fc.assert(
			fc.property(events, fc.double({ min: 0, max: 90, noNaN: true }), (list, hours) => {
				const nowMs = Math.round(hours * H);
				const until = list.filter((e) => e.atMs <= nowMs);
				expect(jarStatus(jar, until, nowMs)).toEqual(
					jarStatus(
						jar,
						list.filter((e) => e.atMs <= nowMs || e.atMs <= nowMs + 100_000),
						nowMs
					)
				);
			})
		);
	});
	test('a mis-scan takes its event back as if it had not been', () => {
		fc.assert(
			fc.property(events, fc.nat(), (list, pick) => {
				if (list.length === 0) return;
				const wrong = list[pick % list.length]!;
				const back: JarEvent = { id: 999, kind: 'mis_scan', atMs: 95 * H, of: wrong.id };
				const without = jarStatus(
					jar,
					list.filter((e) => e !== wrong),
					100 * H
				);
				expect(jarStatus(jar, [...list, back], 100 * H)).toEqual(without);
			})
		);
	});
	test('quarantine names why, and nothing but a person ends it', () => {
		fc.assert(
			fc.property(events, (list) => {
				const s = jarStatus(jar, list, 100 * H);
				if (s.state === 'quarantined') {
					expect(s.quarantine.length).toBeGreaterThan(0);
					expect(s.remainingH).toBeNull();
					expect(jarStatus(jar, list, 400 * H).state).toBe('quarantined');
				}
			})
		);
	});
	test('a jar that is gone stays gone', () => {
		fc.assert(
			fc.property(events, (list) => {
				const gone: JarEvent = { id: 500, kind: 'discard', atMs: 91 * H };
				const s = jarStatus(jar, [...list, gone], 92 * H);
				expect(['discarded', 'empty']).toContain(s.state);
				expect(jarStatus(jar, [...list, gone, { id: 501, kind: 'open', atMs: 93 * H }], 94 * H).state).toBe(s.state);
			})
		);
	});
	test('its history ends in the state that it has', () => {
		fc.assert(
			fc.property(events, (list) => {
				const history = jarHistory(jar, list, 100 * H);
				expect(history.at(-1)?.state ?? 'received').toBe(jarStatus(jar, list, 100 * H).state);
				for (let i = 1; i < history.length; i++) expect(history[i]!.fromMs).toBeGreaterThanOrEqual(history[i - 1]!.fromMs);
			})
		);
	});
	test('what was folded once and kept says the same at every later instant as folding anew', () => {
		fc.assert(
			fc.property(events, fc.double({ min: 0, max: 3000, noNaN: true }), (list, later) => {
				const fold = foldJar(jar, list, Infinity);
				const now = fold.ms + later * H;
				expect(statusOf(fold, jar, now)).toEqual(jarStatus(jar, list, now));
				expect(statusOf(fold, jar, now)).toEqual(jarStatus(jar, list, now));
				expect(historyOn(jarHistory(jar, list, fold.ms), fold, jar, now)).toEqual(jarHistory(jar, list, now));
			})
		);
	});
	test('a jar that only stood is drawn warming, ready, and held from the instant that its clock ran out', () => {
		const list: JarEvent[] = [
			{ id: 1, kind: 'store_cold', atMs: 0 },
			{ id: 2, kind: 'take_out', atMs: 10 * H, airC: 23 }
		];
		const { readyMs, clocks } = jarStatus(jar, list, 10 * H);
		const ends = clocks.find((c) => c.clock === 'sealed_out')!.endsMs;
		expect(jarHistory(jar, list, ends + H)).toEqual([
			{ state: 'cold', fromMs: 0 },
			{ state: 'warming', fromMs: 10 * H },
			{ state: 'ready', fromMs: readyMs },
			{ state: 'quarantined', fromMs: ends + 1 }
		]);
		expect(jarHistory(jar, list, ends).at(-1)!.state).toBe('ready');
	});
	test('the governing clock is the one that ends first', () => {
		fc.assert(
			fc.property(events, (list) => {
				const s = jarStatus(jar, list, 100 * H);
				if (s.governing === null || s.untilMs === null) return;
				const first = s.clocks
					.filter((c) => c.clock !== 'warm_up')
					.reduce(
						(a, b) => (b.endsMs < a.endsMs ? b : a),
						s.clocks.find((c) => c.clock === s.governing)!
					);
				expect(s.untilMs).toBe(first.endsMs);
			})
		);
	});
});

describe('a bead', () => {
	const work = fc.array(
		fc.record({ load: fc.boolean(), hours: fc.double({ min: 0, max: 40, noNaN: true }), grams: fc.integer({ min: 1, max: 250 }) }),
		{ maxLength: 30 }
	);
	const beadEvents = (list: { load: boolean; hours: number; grams: number }[]) =>
		list.map((e, i) =>
			e.load
				? { kind: 'load' as const, atMs: e.hours * H, jar: `J${i}`, lot: `L${i % 2}`, grams: e.grams }
				: { kind: 'print' as const, atMs: e.hours * H, grams: e.grams / 100 }
		);
	test('what was put on less what was printed is what lies there, never less than nothing', () => {
		fc.assert(
			fc.property(work, (list) => {
				const ordered = [...beadEvents(list)].sort((a, b) => a.atMs - b.atMs);
				let grams = 0;
				for (const e of ordered) grams = e.kind === 'load' ? grams + e.grams : Math.max(0, grams - e.grams);
				const found = beadAge(beadOf(ordered, 50 * H), 50 * H, 8).grams;
				expect(found).toBeCloseTo(grams, 6);
			})
		);
	});
	test('a share over age lies between none and all, and never falls while nothing is added', () => {
		fc.assert(
			fc.property(work, (list) => {
				const portions = beadOf(beadEvents(list), 40 * H);
				const share = (h: number) => beadAge(portions, h * H, 8).olderShare;
				expect(share(40)).toBeGreaterThanOrEqual(0);
				expect(share(44)).toBeLessThanOrEqual(1 + 1e-12);
				expect(share(44)).toBeGreaterThanOrEqual(share(40) - 1e-12);
			})
		);
	});
	test('diameter and mass are two ways of saying the same', () => {
		fc.assert(
			fc.property(fc.double({ min: 5, max: 30, noNaN: true }), fc.double({ min: 50, max: 500, noNaN: true }), (d, span) => {
				expect(beadDiameterMm(beadG(d, span), span)).toBeCloseTo(d, 9);
			})
		);
	});
});

describe('air and warming', () => {
	const airC = fc.double({ min: 10, max: 35, noNaN: true });
	const rh = fc.double({ min: 20, max: 95, noNaN: true });
	test('the dew point lies below the air, meets it at 100 %, and rises with the humidity', () => {
		fc.assert(
			fc.property(airC, rh, (t, h) => {
				expect(dewPointC(t, h)).toBeLessThan(t);
				expect(dewPointC(t, 100)).toBeCloseTo(t, 6);
				expect(dewPointC(t, h + 1)).toBeGreaterThan(dewPointC(t, h));
				expect(safeOpeningC(t, h)).toBeCloseTo(dewPointC(t, h) + 3, 9);
			})
		);
	});
	test('a jar warms towards the air and never beyond it', () => {
		fc.assert(
			fc.property(airC, fc.double({ min: 0, max: 24, noNaN: true }), (t, hours) => {
				const c = jarC(5, t, hours);
				expect(c).toBeGreaterThanOrEqual(5 - 1e-9);
				expect(c).toBeLessThanOrEqual(t + 1e-9);
			})
		);
	});
	test('at the end of its gate a jar is warm enough', () => {
		fc.assert(
			fc.property(fc.double({ min: 20.5, max: 30, noNaN: true }), (t) => {
				const { gateH } = warmUp(5, t, 19);
				expect(gateH).not.toBeNull();
				expect(gateH!).toBeGreaterThanOrEqual(PASTE_RULES.warmUpH);
				expect(jarC(5, t, gateH!)).toBeGreaterThanOrEqual(19 - 1e-6);
			})
		);
	});
	test('more metal is denser and more of it by volume', () => {
		fc.assert(
			fc.property(fc.double({ min: 0.8, max: 0.93, noNaN: true }), (w) => {
				const [a, b] = [pasteDensity(w), pasteDensity(w + 0.01)];
				expect(b.pasteGPerCm3).toBeGreaterThan(a.pasteGPerCm3);
				expect(b.metalShare).toBeGreaterThan(a.metalShare);
			})
		);
	});
});

describe('the fridge plan on cases that can be looked at whole', () => {
	/** Every way of opening each jar at one of the jobs or not at all. */
	function best(jobs: readonly PullJob[], jars: readonly PullJar[]): number {
		const lifeMs = PASTE_RULES.openLifeH * H;
		let least = Infinity;
		const choose = (j: number, opened: { grams: number; from: number; until: number }[]) => {
			if (j === jars.length) {
				const left = opened.map((o) => o.grams);
				let short = 0;
				for (const job of jobs) {
					let need = job.grams;
					const order = opened.map((_, i) => i).sort((a, b) => opened[a]!.until - opened[b]!.until);
					for (const i of order) {
						if (opened[i]!.from > job.startMs || opened[i]!.until < job.endMs) continue;
						const grams = Math.min(need, left[i]!);
						left[i]! -= grams;
						need -= grams;
					}
					short += need;
				}
				least = Math.min(least, 100 * short + left.reduce((s, v) => s + v, 0));
				return;
			}
			choose(j + 1, opened);
			for (const job of jobs)
				if (job.startMs >= jars[j]!.readyMs)
					choose(j + 1, [
						...opened,
						{ grams: jars[j]!.grams, from: job.startMs, until: Math.min(jars[j]!.expiryMs, job.startMs + lifeMs) }
					]);
		};
		choose(0, []);
		return least;
	}
	test('never worse than the best of all plans', () => {
		const jobs = fc.array(
			fc.record({
				start: fc.integer({ min: 0, max: 60 }),
				hours: fc.integer({ min: 1, max: 6 }),
				grams: fc.integer({ min: 20, max: 400 })
			}),
			{ minLength: 1, maxLength: 4 }
		);
		const jars = fc.array(fc.record({ grams: fc.integer({ min: 100, max: 500 }), ready: fc.integer({ min: 0, max: 20 }) }), {
			minLength: 1,
			maxLength: 3
		});
		fc.assert(
			fc.property(jobs, jars, (js, ks) => {
				const list: PullJob[] = js
					.map((j, i) => ({ id: `j${i}`, startMs: j.start * H, endMs: (j.start + j.hours) * H, grams: j.grams }))
					.sort((a, b) => a.startMs - b.startMs || a.endMs - b.endMs);
				const cold: PullJar[] = ks.map((k, i) => ({
					id: `k${i}`,
					grams: k.grams,
					expiryMs: 500 * H,
					readyMs: k.ready * H,
					openEndsMs: null
				}));
				const plan = pullPlan(list, cold);
				expect(100 * plan.shortG + plan.discardedG).toBeLessThanOrEqual(best(list, cold) + 1e-6);
				// Nothing is served twice or from nothing.
				for (const o of plan.opens) {
					const served = o.serves.reduce((s, v) => s + v.grams, 0);
					expect(served + o.discardedG).toBeCloseTo(cold.find((k) => k.id === o.jar)!.grams, 6);
				}
			}),
			{ numRuns: 25, seed: 8 }
		);
	});
});

describe('a sensor log', () => {
	const LIMITS = { lowC: 2, highC: 10, graceMin: 30, neverBelowZero: true };
	const log = fc
		.array(fc.double({ min: -3, max: 20, noNaN: true }), { minLength: 2, maxLength: 60 })
		.map((temperatures) => temperatures.map((temperatureC, i): SensorReading => ({ atMs: i * 10 * 60_000, temperatureC })));
	test('every warm excursion is longer than its grace and holds the warmest reading of its time', () => {
		fc.assert(
			fc.property(log, (readings) => {
				for (const e of readSensorLog(readings, LIMITS).excursions.filter((x) => x.kind === 'high')) {
					expect(e.toMs - e.fromMs).toBeGreaterThan(30 * 60_000);
					const inside = readings.filter((r) => r.atMs >= e.fromMs && r.atMs < e.toMs);
					expect(e.worst).toBe(Math.max(...inside.map((r) => r.temperatureC), ...(e.open ? [readings.at(-1)!.temperatureC] : [])));
				}
			})
		);
	});
	test('a log that stays inside has none; one below zero has one however short', () => {
		fc.assert(
			fc.property(log, (readings) => {
				const mild = readings.map((r) => ({ ...r, temperatureC: 5 }));
				expect(readSensorLog(mild, LIMITS)).toEqual({ excursions: [], gaps: [] });
				const frost = mild.map((r, i) => (i === 1 ? { ...r, temperatureC: -0.5 } : r));
				expect(readSensorLog(frost, LIMITS).excursions.map((e) => e.kind)).toContain('freezing');
			})
		);
	});
});
