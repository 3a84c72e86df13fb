import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { jarStatus, jobsInARow, PASTE_RULES, pickForRun, piecesOf, type JarEvent, type JarFacts } from './index.ts';

// Promises of the pick for a run and of the jobs ahead, whatever the jars and jobs are.

const H = 3_600_000;
const NOW = Date.parse('2026-05-11T10:00:00Z');

/** A jar by how far it came: in the fridge, warming since, open since, or open and loaded since. */
const jar = fc.record({
	grams: fc.integer({ min: 20, max: 600 }),
	expiresInH: fc.integer({ min: 1, max: 900 }),
	way: fc.constantFrom('cold', 'warming', 'open', 'loaded'),
	sinceH: fc.double({ min: 0.1, max: 30, noNaN: true }),
	loadedG: fc.integer({ min: 10, max: 200 })
});
type Drawn = typeof jar extends fc.Arbitrary<infer T> ? T : never;

function picked({ grams, expiresInH, way, sinceH, loadedG }: Drawn, i: number) {
	const facts: JarFacts = { id: `J${i}`, lot: 'L', paste: 'P', receivedMs: NOW - 400 * H, expiryMs: NOW + expiresInH * H, grams };
	let ids = 0;
	const event = (kind: JarEvent['kind'], agoH: number, more: Partial<JarEvent> = {}): JarEvent => ({
		id: ++ids,
		kind,
		atMs: NOW - agoH * H,
		...more
	});
	const events = [event('store_cold', 300)];
	if (way === 'warming') events.push(event('take_out', sinceH));
	if (way === 'open' || way === 'loaded') events.push(event('take_out', sinceH + 5), event('open', sinceH, { stirred: true }));
	if (way === 'loaded') events.push(event('load_stencil', sinceH / 2, { grams: Math.min(loadedG, grams) }));
	return { jar: facts, status: jarStatus(facts, events, NOW) };
}

const run = fc.record({
	panelsToGo: fc.integer({ min: 1, max: 900 }),
	panelsPerH: fc.double({ min: 5, max: 200, noNaN: true }),
	gPerPanel: fc.double({ min: 0.05, max: 1.5, noNaN: true }),
	beadG: fc.double({ min: 0, max: 250, noNaN: true })
});

describe('jars for a run, whatever they are', () => {
	const forAll = (
		check: (pick: ReturnType<typeof pickForRun>, jars: ReturnType<typeof picked>[], r: Parameters<typeof pickForRun>[1]) => void
	) =>
		fc.assert(
			fc.property(fc.array(jar, { maxLength: 8 }), run, (list, r) => {
				const jars = list.map(picked);
				const own = new Set(jars.filter((j) => j.status.state === 'on_stencil').map((j) => j.jar.id));
				const of = { ...r, paste: 'P', own };
				check(pickForRun(jars, of, NOW), jars, of);
			}),
			{ numRuns: 150, seed: 21 }
		);

	test('what lies on the stencil, what is taken and what is short add up to the need', () => {
		forAll((pick) => {
			const taken = pick.take.reduce((sum, t) => sum + t.grams, 0);
			expect(pick.own.servesG + taken + pick.shortG).toBeCloseTo(pick.needG, 6);
			for (const part of [pick.own.servesG, pick.shortG, ...pick.take.map((t) => t.grams)]) expect(part).toBeGreaterThanOrEqual(0);
		});
	});
	test('no jar gives more than it holds, none is named twice, and none of the stencil’s own is named again', () => {
		forAll((pick, jars) => {
			const left = new Map(jars.map((j) => [j.jar.id, j.status.gramsLeft]));
			const ids = pick.take.map((t) => t.id);
			expect(new Set(ids).size).toBe(ids.length);
			for (const t of pick.take) expect(t.grams).toBeLessThanOrEqual(left.get(t.id)! + 1e-9);
			for (const id of pick.own.ids) expect(ids).not.toContain(id);
		});
	});
	test('nothing serves past its life: the change comes no later than the first end of a jar on the stencil', () => {
		forAll((pick, jars, r) => {
			const ends = jars.filter((j) => pick.own.ids.includes(j.jar.id)).map((j) => j.status.untilMs ?? Infinity);
			const doneMs = NOW + (r.panelsToGo / r.panelsPerH) * H;
			if (pick.followMs === null) expect(doneMs).toBeLessThanOrEqual(Math.min(...ends) + 1);
			else {
				expect(pick.followMs).toBeLessThanOrEqual(Math.max(NOW, Math.min(...ends)) + 1);
				expect(pick.followMs).toBeLessThanOrEqual(doneMs + 1);
			}
		});
	});
	test('a jar is asked out of the fridge only for a shortage, early enough to warm, and only one that lasts', () => {
		forAll((pick, jars) => {
			if (pick.shortG === 0) expect(pick.takeOut).toEqual([]);
			for (const t of pick.takeOut) {
				expect(t.byMs).toBeCloseTo(pick.followMs! - PASTE_RULES.warmUpH * H - PASTE_RULES.stirMin * 60_000, 3);
				expect(t.late).toBe(t.byMs < NOW);
				const of = jars.find((j) => j.jar.id === t.id)!;
				expect(of.status.state).toBe('cold');
				expect(of.jar.expiryMs).toBeGreaterThan(pick.followMs!);
			}
		});
	});
	test('more on the stencil never asks for more from elsewhere', () => {
		fc.assert(
			fc.property(fc.array(jar, { minLength: 1, maxLength: 6 }), run, (list, r) => {
				const jars = list.map(picked);
				const own = new Set(jars.filter((j) => j.status.state === 'on_stencil').map((j) => j.jar.id));
				const served = (beadG: number) => pickForRun(jars, { ...r, paste: 'P', own, beadG }, NOW).own.servesG;
				expect(served(r.beadG + 50)).toBeGreaterThanOrEqual(served(r.beadG) - 1e-9);
			}),
			{ numRuns: 80, seed: 22 }
		);
	});
});

describe('jobs ahead, whatever they are', () => {
	const jobFields = {
		number: fc.string({ minLength: 1, maxLength: 6 }),
		panels: fc.integer({ min: 1, max: 3000 }),
		gPerPanel: fc.double({ min: 0.01, max: 2, noNaN: true }),
		cycleS: fc.double({ min: 10, max: 300, noNaN: true })
	};
	const job = fc.record(jobFields);

	test('they follow each other with the change-over between, each as long as its panels take', () => {
		fc.assert(
			fc.property(fc.array(job, { minLength: 1, maxLength: 12 }), fc.integer({ min: 0, max: 120 }), (jobs, changeOverMin) => {
				const row = jobsInARow(jobs, NOW, changeOverMin);
				expect(row[0]!.startMs).toBe(NOW);
				row.forEach((r, i) => {
					expect(r.endMs - r.startMs).toBeCloseTo(jobs[i]!.panels * jobs[i]!.cycleS * 1000, 3);
					if (i) expect(r.startMs - row[i - 1]!.endMs).toBeCloseTo(changeOverMin * 60_000, 3);
				});
			}),
			{ numRuns: 80, seed: 23 }
		);
	});

	test('with times: none before its own, none on top of another, none lost, and one with a time is late only behind others', () => {
		const timed = fc.record({ ...jobFields, startMs: fc.option(fc.integer({ min: NOW - H, max: NOW + 100 * H })) });
		fc.assert(
			fc.property(fc.array(timed, { minLength: 1, maxLength: 12 }), fc.integer({ min: 0, max: 120 }), (given, changeOverMin) => {
				const jobs = given.map((j, i) => ({ ...j, number: `J${i}` }));
				const row = jobsInARow(jobs, NOW, changeOverMin);
				expect(row.map((r) => r.number).sort()).toEqual(jobs.map((j) => j.number).sort());
				row.forEach((r, i) => {
					const wanted = jobs.find((j) => j.number === r.number)!.startMs;
					if (wanted !== null) expect(r.startMs).toBeGreaterThanOrEqual(wanted);
					expect(r.lateMin).toBeCloseTo(wanted === null ? 0 : (r.startMs - wanted) / 60_000, 6);
					const freeMs = i ? row[i - 1]!.endMs + changeOverMin * 60_000 : NOW;
					expect(r.startMs).toBeGreaterThanOrEqual(freeMs - 1e-3);
					if (r.lateMin > 0) expect(r.startMs).toBeCloseTo(freeMs, 3);
				});
			}),
			{ numRuns: 100, seed: 25 }
		);
	});

	test('a job without a time fills the room before one that has one, if it fits whole', () => {
		const of = (number: string, hours: number, startMs: number | null = null) => ({
			number,
			panels: hours * 60,
			gPerPanel: 1,
			cycleS: 60,
			startMs
		});
		const row = jobsInARow([of('long', 6), of('short', 2), of('fixed', 1, NOW + 4 * H)], NOW, 30);
		expect(row.map((r) => [r.number, (r.startMs - NOW) / H])).toEqual([
			['short', 0],
			['fixed', 4],
			['long', 5.5]
		]);
	});

	test('pieces tile their job, none is longer than four hours, and no gram is lost', () => {
		fc.assert(
			fc.property(job, (one) => {
				const [ahead] = jobsInARow([one], NOW, 30);
				const pieces = piecesOf(ahead!);
				expect(pieces.reduce((sum, p) => sum + p.grams, 0)).toBeCloseTo(ahead!.grams, 6);
				expect(pieces[0]!.startMs).toBe(ahead!.startMs);
				expect(pieces.at(-1)!.endMs).toBeCloseTo(ahead!.endMs, 3);
				pieces.forEach((p, i) => {
					expect(p.endMs - p.startMs).toBeLessThanOrEqual(4 * H + 1);
					if (i) expect(p.startMs).toBeCloseTo(pieces[i - 1]!.endMs, 3);
				});
				expect(new Set(pieces.map((p) => p.id)).size).toBe(pieces.length);
			}),
			{ numRuns: 120, seed: 24 }
		);
	});
});
