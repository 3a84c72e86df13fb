import type { JarFacts, JarStatus } from './jar.ts';
import { PASTE_RULES, type PasteRules } from './rules.ts';
import { stateWords } from './request.ts';

const H = 3_600_000;

export interface PickedJar {
	jar: JarFacts;
	status: JarStatus;
}

export interface PastePick {
	take: { id: string; grams: number; deadlineMs: number }[];
	shortG: number;
	/** Sealed cold jars that have to leave the fridge for the shortfall, earliest date first. */
	takeOut: { id: string; grams: number; byMs: number; late: boolean }[];
	excluded: { id: string; why: string }[];
}

/** Which jars serve the next job: first expired, first out.
 * Eligible: the right paste, open, mixed or ready, with as many hours left as the job needs. Earliest effective deadline first, then
 * open before sealed, then the one received earlier, then by id.
 * @param needG paste that the job needs, g; @param jobH how long it prints; @param startMs when it starts
 * @see common practice
 */
export function pickPaste(
	jars: readonly PickedJar[],
	paste: string,
	needG: number,
	jobH: number,
	startMs: number,
	nowMs: number,
	rules: PasteRules = PASTE_RULES
): PastePick {
	const excluded: PastePick['excluded'] = [];
	const eligible: (PickedJar & { deadlineMs: number; opened: boolean })[] = [];
	const cold: PickedJar[] = [];
	for (const { jar, status } of jars) {
		if (status.state === 'discarded' || status.state === 'empty') continue;
		if (jar.paste !== paste) {
			excluded.push({ id: jar.id, why: `is ${jar.paste}` });
			continue;
		}
		const ready = status.state === 'open' || status.state === 'mixed' || status.state === 'ready';
		const readyByStart = status.state === 'warming' && status.readyMs !== null && status.readyMs <= startMs;
		if (status.state === 'cold') cold.push({ jar, status });
		if (!ready && !readyByStart) {
			excluded.push({ id: jar.id, why: status.state === 'warming' ? 'not warm by then' : `is ${stateWords(status.state)}` });
			continue;
		}
		// A sealed jar's open life begins when this job opens it.
		const deadlineMs = Math.min(status.untilMs ?? Infinity, status.openedMs === null ? startMs + rules.openLifeH * H : Infinity);
		if (deadlineMs < startMs + jobH * H) {
			excluded.push({
				id: jar.id,
				why: `lasts ${Math.max(0, (deadlineMs - startMs) / H).toFixed(1)} h of the ${jobH.toFixed(1)} h needed`
			});
			continue;
		}
		eligible.push({ jar, status, deadlineMs: status.untilMs ?? Infinity, opened: status.openedMs !== null });
	}
	eligible.sort(
		(a, b) =>
			a.deadlineMs - b.deadlineMs ||
			Number(b.opened) - Number(a.opened) ||
			a.jar.receivedMs - b.jar.receivedMs ||
			(a.jar.id < b.jar.id ? -1 : 1)
	);
	const take: PastePick['take'] = [];
	let left = needG;
	for (const e of eligible) {
		if (left <= 0) break;
		const grams = Math.min(left, e.status.gramsLeft);
		if (grams <= 0) continue;
		take.push({ id: e.jar.id, grams, deadlineMs: e.deadlineMs });
		left -= grams;
	}
	const shortG = Math.max(0, left);
	const takeOut: PastePick['takeOut'] = [];
	const byMs = startMs - rules.warmUpH * H - rules.stirMin * 60_000;
	cold.sort((a, b) => a.jar.expiryMs - b.jar.expiryMs || a.jar.receivedMs - b.jar.receivedMs || (a.jar.id < b.jar.id ? -1 : 1));
	for (const { jar, status } of cold) {
		if (left <= 0) break;
		if (jar.expiryMs < startMs + jobH * H) continue;
		takeOut.push({ id: jar.id, grams: Math.min(left, status.gramsLeft), byMs, late: byMs < nowMs });
		left -= status.gramsLeft;
	}
	return { take, shortG, takeOut, excluded };
}

export interface RunPick extends PastePick {
	needG: number;
	jobH: number;
	/** What lies on the stencil and is left in its jars, and how much of the need it serves. */
	own: { ids: string[]; servesG: number };
	/** When another jar has to follow; null where none has to. */
	followMs: number | null;
}

/** Jars for a run that is on: what lies on its stencil and is left in those jars serves until it is used up or past its life; others follow.
 * @param run panels still to print and how fast; grams on the stencil; ids of the jars that they came from
 */
export function pickForRun(
	jars: readonly PickedJar[],
	run: { paste: string; panelsToGo: number; panelsPerH: number; gPerPanel: number; beadG: number; own: ReadonlySet<string> },
	nowMs: number,
	rules: PasteRules = PASTE_RULES
): RunPick {
	const needG = run.panelsToGo * run.gPerPanel;
	const jobH = run.panelsToGo / run.panelsPerH;
	const own = jars.filter(
		({ jar, status }) => run.own.has(jar.id) && jar.paste === run.paste && (status.state === 'on_stencil' || status.state === 'open')
	);
	const ownG = own.length ? own.reduce((sum, { status }) => sum + status.gramsLeft, run.beadG) : 0;
	const lifeH = Math.max(0, Math.min(...own.map(({ status }) => ((status.untilMs ?? Infinity) - nowMs) / H)));
	const servedH = own.length ? Math.min(jobH, lifeH, ownG / run.gPerPanel / run.panelsPerH) : 0;
	const servesG = servedH * run.panelsPerH * run.gPerPanel;
	const followMs = nowMs + servedH * H;
	const stays = jobH - servedH < 1e-9;
	// A fresh bead lasts no longer than its life: a longer run takes the jar after the next later.
	const followH = Math.min(jobH - servedH, rules.stencilLifeH);
	const others = jars.filter((picked) => !own.includes(picked));
	const rest = stays
		? { take: [], shortG: 0, takeOut: [], excluded: [] }
		: pickPaste(others, run.paste, needG - servesG, followH, followMs, nowMs, rules);
	return { ...rest, needG, jobH, own: { ids: own.map(({ jar }) => jar.id), servesG }, followMs: stays ? null : followMs };
}
