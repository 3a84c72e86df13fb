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
