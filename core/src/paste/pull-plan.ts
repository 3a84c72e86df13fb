import { InputError } from '../judgement/index.ts';
import { seededRandom } from '../numerics/index.ts';
import { PASTE_RULES, type PasteRules } from './rules.ts';

const H = 3_600_000;

export interface PullJob {
	id: string;
	startMs: number;
	endMs: number;
	grams: number;
}

export interface PullJar {
	id: string;
	grams: number;
	expiryMs: number;
	/** When it may be opened at the earliest; an opened jar: when it was opened. */
	readyMs: number;
	/** End of its open life; null while it is sealed. */
	openEndsMs: number | null;
}

export interface PullPlan {
	opens: {
		jar: string;
		takeOutByMs: number;
		openMs: number;
		sealed: boolean;
		serves: { job: string; grams: number }[];
		discardedG: number;
	}[];
	short: { job: string; grams: number }[];
	discardedG: number;
	shortG: number;
}

/** A long job is planned in pieces of at most this: a jar serves those that it outlasts. */
const PIECE_MS = 4 * H;

/** A job that waits for its line. */
export interface WaitingJob {
	number: string;
	panels: number;
	gPerPanel: number;
	cycleS: number;
	/** When somebody wants it to start; left out: as soon as there is room. */
	startMs?: number | null;
}

export interface AheadJob {
	number: string;
	startMs: number;
	endMs: number;
	grams: number;
	panels: number;
	/** How much later than wanted, min. */
	lateMin: number;
}

/** Jobs one after the other on one line. Those with a time start at it, or as soon after as the line is free; the others fill the room
 * before and between them in the order in which they are given, where they fit whole, and follow at the end.
 * @param changeOverMin between two of them
 */
export function jobsInARow(jobs: readonly WaitingJob[], fromMs: number, changeOverMin: number): AheadJob[] {
	const change = changeOverMin * 60_000;
	const lengthMs = (job: WaitingJob) => job.panels * job.cycleS * 1000;
	const timed = jobs.filter((j) => j.startMs != null).sort((a, b) => a.startMs! - b.startMs!);
	const free = jobs.filter((j) => j.startMs == null);
	const row: AheadJob[] = [];
	let atMs = fromMs;
	const put = (job: WaitingJob, startMs: number) => {
		const { number, panels, gPerPanel } = job;
		const lateMin = job.startMs == null ? 0 : Math.max(0, (startMs - job.startMs) / 60_000);
		row.push({ number, startMs, endMs: startMs + lengthMs(job), grams: panels * gPerPanel, panels, lateMin });
		atMs = startMs + lengthMs(job) + change;
	};
	while (timed.length || free.length) {
		const next = timed[0];
		const fits = free.findIndex((j) => !next || atMs + lengthMs(j) + change <= next.startMs!);
		if (fits >= 0) put(free.splice(fits, 1)[0]!, atMs);
		else if (next) put(timed.shift()!, Math.max(atMs, next.startMs!));
	}
	return row;
}

/** A job in equal pieces, none longer than four hours, each with its share of the paste. */
export function piecesOf(job: AheadJob): PullJob[] {
	const n = Math.max(1, Math.ceil((job.endMs - job.startMs) / PIECE_MS));
	const length = (job.endMs - job.startMs) / n;
	return Array.from({ length: n }, (_, i) => ({
		id: n > 1 ? `${job.number}, part ${i + 1}` : job.number,
		startMs: job.startMs + i * length,
		endMs: job.startMs + (i + 1) * length,
		grams: job.grams / n
	}));
}

/** A jar and the index of the job at whose start it is opened. */
interface Opening {
	jar: number;
	at: number;
}

interface Setting {
	jobs: PullJob[];
	jars: readonly PullJar[];
	lifeMs: number;
	/** Jars that are open already: they end up discarded whatever the plan. */
	given: Opening[];
	/** Last job that an opening serves, by jar and job index. */
	last: Int32Array;
}

/** Which jars to open for which jobs, so that the least paste is thrown away and every job has its grams in time.
 * An opened jar serves the jobs that end within its open life; paste divides freely; a jar that is sealed at the end is not lost.
 * Jobs are filled in time order from the jar that ends first; which jars to open is searched by seeded annealing.
 * @param seed the same seed and input give the same plan
 * @see checks/paste-pull-plan.test.ts and the bench compare with the exact integer optimum
 */
export function pullPlan(
	jobs: readonly PullJob[],
	jars: readonly PullJar[],
	rules: PasteRules = PASTE_RULES,
	seed = 1,
	tries = 5_000
): PullPlan {
	for (const j of jobs) {
		if (!(j.grams >= 0)) throw new InputError('out-of-range', `${j.id}.grams`, '0 g or more', j.grams);
		if (!(j.endMs > j.startMs)) throw new InputError('mismatch', `${j.id}.endMs`, 'after its start', j.endMs);
	}
	const setting = settingOf(jobs, jars, rules);
	const random = seededRandom(seed);
	let now = greedy(setting);
	let cost = costOf(setting, now);
	let best = now;
	let bestCost = cost;
	const start = 200;
	for (let i = 0; i < tries && jars.length && jobs.length; i++) {
		const heat = start * (1 - i / tries) ** 2 + 0.01;
		const tried = neighbour(setting, now, random);
		if (!tried) continue;
		const there = costOf(setting, tried);
		if (there <= cost || random.uniform() < Math.exp((cost - there) / heat)) [now, cost] = [tried, there];
		if (cost < bestCost - 1e-9) [best, bestCost] = [now, cost];
	}
	return planOf(setting, best, rules);
}

function settingOf(jobs: readonly PullJob[], jars: readonly PullJar[], rules: PasteRules): Setting {
	const sorted = [...jobs].sort((a, b) => a.startMs - b.startMs || a.endMs - b.endMs);
	const lifeMs = rules.openLifeH * H;
	const last = new Int32Array(jars.length * sorted.length).fill(-1);
	const given: Opening[] = [];
	jars.forEach((jar, j) => {
		for (let k = 0; k < sorted.length; k++) {
			const opened = jar.openEndsMs !== null;
			if (!opened && sorted[k]!.startMs < jar.readyMs) continue;
			const until = Math.min(jar.expiryMs, jar.openEndsMs ?? sorted[k]!.startMs + lifeMs);
			let l = k - 1;
			while (l + 1 < sorted.length && sorted[l + 1]!.endMs <= until) l++;
			last[j * sorted.length + k] = l >= k ? l : -1;
		}
		if (jar.openEndsMs !== null) given.push({ jar: j, at: 0 });
	});
	return { jobs: sorted, jars, lifeMs, given, last };
}

/** Opens a jar whenever a job runs short: the one that leaves least behind. */
function greedy(s: Setting): Opening[] {
	const opened: Opening[] = [...s.given];
	const used = new Set(s.given.map((o) => o.jar));
	for (let k = 0; k < s.jobs.length; k++)
		for (;;) {
			const missing = fill(s, opened).short[k]!;
			if (missing <= 1e-9) break;
			let pick = -1;
			s.jars.forEach((jar, j) => {
				if (used.has(j) || s.last[j * s.jobs.length + k]! < k) return;
				const better = pick < 0 || jar.expiryMs < s.jars[pick]!.expiryMs;
				if (better) pick = j;
			});
			if (pick < 0) break;
			opened.push({ jar: pick, at: k });
			used.add(pick);
		}
	return opened;
}

function fill(s: Setting, opened: readonly Opening[]): { short: Float64Array; left: Float64Array } {
	const n = s.jobs.length;
	const left = new Float64Array(opened.length);
	for (let o = 0; o < opened.length; o++) left[o] = s.jars[opened[o]!.jar]!.grams;
	const order = opened
		.map((_, o) => o)
		.sort((a, b) => s.last[opened[a]!.jar * n + opened[a]!.at]! - s.last[opened[b]!.jar * n + opened[b]!.at]!);
	const short = new Float64Array(n);
	for (let k = 0; k < n; k++) {
		let need = s.jobs[k]!.grams;
		for (const o of order) {
			if (need <= 0) break;
			const { jar, at } = opened[o]!;
			if (at > k || s.last[jar * n + at]! < k || left[o]! <= 0) continue;
			const grams = Math.min(need, left[o]!);
			left[o]! -= grams;
			need -= grams;
		}
		short[k] = Math.max(0, need);
	}
	return { short, left };
}

/** A gram that a job lacks weighs more than any that is thrown away. */
const SHORT_WEIGHT = 100;

function costOf(s: Setting, opened: readonly Opening[]): number {
	const { short, left } = fill(s, opened);
	let cost = 0;
	for (const v of short) cost += SHORT_WEIGHT * v;
	for (const v of left) cost += v;
	return cost;
}

function neighbour(s: Setting, now: readonly Opening[], random: ReturnType<typeof seededRandom>): Opening[] | null {
	const n = s.jobs.length;
	const fixed = s.given.length;
	const movable = now.length - fixed;
	const kind = random.integer(4);
	const out = [...now];
	const used = new Set(now.map((o) => o.jar));
	const spare = () => {
		const j = random.integer(s.jars.length);
		return used.has(j) ? -1 : j;
	};
	if (kind === 0 || movable === 0) {
		const jar = spare();
		const at = random.integer(n);
		if (jar < 0 || s.last[jar * n + at]! < at) return null;
		out.push({ jar, at });
		return out;
	}
	const i = fixed + random.integer(movable);
	if (kind === 1) {
		out.splice(i, 1);
		return out;
	}
	const { jar, at } = out[i]!;
	const [nextJar, nextAt] = kind === 2 ? [spare(), at] : [jar, Math.min(n - 1, Math.max(0, at + random.integer(7) - 3))];
	if (nextJar < 0 || s.last[nextJar * n + nextAt]! < nextAt) return null;
	out[i] = { jar: nextJar, at: nextAt };
	return out;
}

function planOf(s: Setting, opened: readonly Opening[], rules: PasteRules): PullPlan {
	const n = s.jobs.length;
	const { short, left } = fill(s, opened);
	const serves = opened.map(() => [] as { job: string; grams: number }[]);
	// The same filling once more, this time noting who serves whom.
	const rest = opened.map((o) => s.jars[o.jar]!.grams);
	const order = opened
		.map((_, o) => o)
		.sort((a, b) => s.last[opened[a]!.jar * n + opened[a]!.at]! - s.last[opened[b]!.jar * n + opened[b]!.at]!);
	s.jobs.forEach((job, k) => {
		let need = job.grams;
		for (const o of order) {
			const { jar, at } = opened[o]!;
			if (need <= 0 || at > k || s.last[jar * n + at]! < k || rest[o]! <= 0) continue;
			const grams = Math.min(need, rest[o]!);
			rest[o]! -= grams;
			need -= grams;
			serves[o]!.push({ job: job.id, grams });
		}
	});
	const opens = opened.map((o, i) => {
		const jar = s.jars[o.jar]!;
		const sealed = jar.openEndsMs === null;
		const openMs = sealed ? s.jobs[o.at]!.startMs : jar.readyMs;
		return {
			jar: jar.id,
			openMs,
			takeOutByMs: openMs - rules.warmUpH * H - rules.stirMin * 60_000,
			sealed,
			serves: serves[i]!,
			discardedG: left[i]!
		};
	});
	return {
		opens: opens.sort((a, b) => a.openMs - b.openMs || (a.jar < b.jar ? -1 : 1)),
		short: s.jobs.flatMap((job, k) => (short[k]! > 1e-9 ? [{ job: job.id, grams: short[k]! }] : [])),
		discardedG: left.reduce((sum, v) => sum + v, 0),
		shortG: short.reduce((sum, v) => sum + v, 0)
	};
}
