import { noData, type Reason, type Verdict } from '../judgement/index.ts';
import type { AfterPause } from './abandon.ts';
import type { PullPlan } from './pull-plan.ts';

export interface PasteStation {
	nowMs: number;
	/** Paste that the run asks for; null without a run. */
	wanted: string | null;
	/** Paste on the stencil, g; null where no jar is known. */
	beadG: number | null;
	lots: string[];
	/** When the oldest gram is past its life. */
	oldestEndsMs: number | null;
	olderShare: number;
	lifeH: number;
	afterPause: AfterPause | null;
	gapMin: number | null;
	/** Panels printed and not yet in the oven, by their clock. */
	reflow: { act: string[]; stopped: string[] };
	/** Jars that must be thrown away now, and in quarantine. */
	discard: string[];
	quarantined: string[];
	room: { temperatureC: number; rhPct: number | null; inside: boolean } | null;
	roomLimits: string;
	/** Grams that the run still needs beyond what is ready. */
	shortG: number;
	/** Jars that have to leave the fridge for it. */
	takeOut: readonly { id: string; late: boolean }[];
}

const COMMON = 'common practice; the paste’s data sheet outranks it';

/** Findings about the paste of a line, each a verdict with what to do; the first one carries the evidence of all. None of them where all is well.
 * What an engineer has to decide is marked as a review, with the jar that it begins with.
 */
export function pasteFindings(p: PasteStation): (Verdict & { review: boolean; jar: string | null })[] {
	const because: Reason[] = [];
	const found: (Verdict & { review: boolean; jar: string | null })[] = [];
	const say = (level: Verdict['level'], statement: string, ...doNext: string[]) => {
		found.push({ level, statement, because: [], doNext, review: false, jar: null });
	};
	const review = (jar: string | null, level: Verdict['level'], statement: string, ...doNext: string[]) => {
		found.push({ level, statement, because: [], doNext, review: true, jar });
	};
	if (p.reflow.stopped.length)
		review(
			null,
			'stopped',
			`${p.reflow.stopped.length === 1 ? `${p.reflow.stopped[0]} was` : `${p.reflow.stopped.length} panels were`} printed too long ago.`,
			'An engineer decides on those panels; they are not simply reflowed'
		);
	if (p.beadG === null) say('noData', 'No jar is known on this stencil.', 'Scan the jar that lies on it');
	else if (p.oldestEndsMs !== null) {
		const left = (p.oldestEndsMs - p.nowMs) / 3_600_000;
		because.push({
			quantity: 'Life on the stencil, oldest gram',
			value: left,
			unit: 'h left',
			limit: `${p.lifeH} h`,
			source: COMMON,
			formula: `stirred tank: ${(100 * p.olderShare).toFixed(0)} % of the bead is older`
		});
		if (left <= 0) say('act', 'The paste on the stencil is past its life.', 'Take the bead off and discard it', 'Start with a fresh jar');
		else if (left < 0.5) say('watch', `The paste on the stencil lasts ${Math.round(left * 60)} min more.`, 'Have a fresh jar ready');
		if (p.lots.length > 1) say('watch', `Two lots lie on the stencil: ${p.lots.join(', ')}.`, 'Do not mix lots: start a new bead');
	}
	if (p.afterPause && p.afterPause.step !== 'none') {
		say('act', `The printer has stood for ${Math.round(p.gapMin ?? 0)} min.`, ...p.afterPause.doFirst);
		because.push({
			quantity: 'Since the last print',
			value: p.gapMin,
			unit: 'min',
			limit: 'knead from 20, freshen from 60, remove from 240',
			source: 'common practice'
		});
	}
	if (p.reflow.act.length)
		say(
			'act',
			p.reflow.act.length === 1
				? `${p.reflow.act[0]} waits too long for the oven.`
				: `${p.reflow.act.length} panels wait too long for the oven.`,
			`Bring ${p.reflow.act[0]} to the oven first`
		);
	if (p.discard.length)
		say(
			'act',
			`${p.discard.join(', ')} ${p.discard.length === 1 ? 'is' : 'are'} past ${p.discard.length === 1 ? 'its' : 'their'} life.`,
			`Discard ${p.discard.join(', ')}`
		);
	if (p.shortG > 0) {
		const ids = p.takeOut.map((t) => t.id).join(', ');
		const when = p.takeOut.some((t) => t.late) ? 'now' : 'in time';
		say(
			'watch',
			`${Math.max(1, Math.round(p.shortG))} g are missing for this run.`,
			ids ? `Take ${ids} out of the fridge ${when}` : 'Order paste: no jar in the fridge serves it'
		);
	}
	if (p.quarantined.length)
		review(p.quarantined[0]!, 'watch', `${p.quarantined.join(', ')} in quarantine.`, 'Have an engineer review them');
	if (p.room === null) say('watch', 'No reading of room temperature and humidity.', 'Look at the sensor');
	else {
		because.push({
			quantity: 'Room',
			value: `${p.room.temperatureC.toFixed(1)} °C${p.room.rhPct === null ? '' : `, ${p.room.rhPct.toFixed(0)} % RH`}`,
			unit: '',
			limit: p.roomLimits,
			source: COMMON
		});
		if (!p.room.inside)
			say(
				'watch',
				`The room is at ${p.room.temperatureC.toFixed(1)} °C${p.room.rhPct === null ? '' : ` and ${p.room.rhPct.toFixed(0)} %`}, outside ${p.roomLimits}.`,
				'Check the air at the printer'
			);
	}
	const order = { stopped: 0, act: 1, noData: 2, watch: 3, good: 4 };
	found.sort((a, b) => order[a.level] - order[b.level]);
	if (found.length === 0) say('good', 'The paste is right for this run and within its clocks.');
	found[0]!.because = because;
	return found;
}

/** How the paste of a line stands: the worst first, with what to do about all of it. */
export function judgePaste(p: PasteStation): Verdict {
	if (p.wanted === null) return noData('No run on this line.', p.discard.length ? [`Discard ${p.discard.join(', ')}`] : []);
	const found = pasteFindings(p);
	const { level, statement, because } = found[0]!;
	return { level, statement, because, doNext: [...new Set(found.flatMap((f) => f.doNext))] };
}

/** Paste that lies on a stencil while no run is on; null where none does.
 * @param endsMs when its oldest gram is past its life
 */
export function judgeLeftBead(grams: number, jars: readonly string[], endsMs: number | null, nowMs: number): Verdict | null {
	if (jars.length === 0) return null;
	const over = endsMs !== null && endsMs <= nowMs;
	return {
		level: over ? 'act' : 'watch',
		statement: over
			? `Paste of ${jars.join(', ')} lies on the stencil, past its life, and no run is on.`
			: `${grams.toFixed(0)} g of ${jars.join(', ')} lie on the stencil, and no run is on.`,
		because: [],
		doNext: [over ? 'Take the bead off and discard it' : 'Take the bead off, or set up the next job with it']
	};
}

/** Before a jar has to leave the fridge somebody is told, ms. */
const SOON_MS = 30 * 60_000;

/** The verdict on a plan of the fridge: what is missing, then what has to come out next.
 * @param jobs how many lie ahead
 * @param cold whether a jar is still in the fridge, or sealed and never was
 * @param sayTime an instant in the plant's words
 */
export function judgePullPlan(
	plan: PullPlan,
	jobs: number,
	cold: (jar: string) => boolean,
	nowMs: number,
	sayTime: (ms: number) => string
): Verdict {
	if (jobs === 0) return noData('No job lies ahead of this line.', ['Enter a job, or start a run']);
	const toTake = plan.opens.filter((o) => o.sealed && cold(o.jar));
	const short = plan.shortG > 0.5;
	const without = [...new Set(plan.short.map((s) => s.job.split(', part')[0]))].join(', ');
	return {
		level: short ? 'act' : toTake.some((o) => o.takeOutByMs - nowMs < SOON_MS) ? 'watch' : 'good',
		statement: short
			? `${plan.shortG.toFixed(0)} g are missing: no jar is warm in time for ${without}.`
			: toTake[0]
				? `${toTake[0].jar} leaves the fridge by ${sayTime(toTake[0].takeOutByMs)}.`
				: 'What is out of the fridge already serves the jobs ahead.',
		because: [
			{
				quantity: 'Thrown away at the end of its open life',
				value: plan.discardedG,
				unit: 'g',
				limit: 'as little as can be, every job served in time',
				source: 'seeded search; the bench compares it with the exact optimum'
			},
			{ quantity: 'Missing', value: plan.shortG, unit: 'g', limit: '0 g', source: 'grams of the jobs against the jars in time' }
		],
		doNext: [
			...toTake.slice(0, 2).map((o) => `Take ${o.jar} out by ${sayTime(o.takeOutByMs)}`),
			...(short ? ['Order paste, or print that job later'] : [])
		]
	};
}
