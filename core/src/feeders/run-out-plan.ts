import { InputError, requireRange, type Verdict } from '../judgement/index.ts';
import { panelsLeft, stopClockMs } from './run-out.ts';
import { spliceRoute, type Splice } from './splice-route.ts';

/** What is known of a slot that a line takes pieces from. */
export interface FedSlot {
	machine: string;
	slot: number;
	partNumber: string;
	pieces: number;
	perPanel: number;
	/** Picks since its reel was loaded, and how many of them were lost. */
	picks: number;
	lost: number;
	/** Where somebody stands to splice it, along the line, m. */
	xM: number;
}

interface Clock {
	nowMs: number;
	taktS: number;
	panelsToGo: number;
	/** In which the line stands and nobody splices. */
	breaks: readonly { fromMs: number; toMs: number }[];
}

export interface SlotEnd extends FedSlot {
	/** Share of picks lost: what is usual, moved by what was seen. */
	lossShare: number;
	/** Panels that it still feeds, and the instant at which its machine stops inside the next one. */
	panels: number;
	endMs: number;
	/** At the most and the least that picks are lost, about 95 %. */
	earliestMs: number;
	latestMs: number;
}

/** Chips lose 0.3 to 1 % of their picks (common practice); this much is believed before a slot has shown its own, as if seen over so many picks ([ours]). */
const USUAL_LOSS = { share: 0.005, picks: 2000 } as const;
/** About 95 % of a share lies within so many of its standard errors. */
const SPREAD = 1.96;

/** Share of picks that a slot loses, and the range in which it lies: a Beta distribution begun with what is usual.
 * @throws {InputError} `out-of-range` for counts that cannot be
 * @example lossOf(0, 0).share // => 0.005
 */
export function lossOf(picks: number, lost: number): { share: number; low: number; high: number } {
	requireRange('picks', picks, 0, 1e9);
	requireRange('lost', lost, 0, picks);
	const n = USUAL_LOSS.picks + picks;
	const share = (USUAL_LOSS.share * USUAL_LOSS.picks + lost) / n;
	const spread = SPREAD * Math.sqrt((share * (1 - share)) / (n + 1));
	return { share, low: Math.max(0, share - spread), high: Math.min(0.5, share + spread) };
}

/** When each slot of a line runs out by the clock, the first one first; what outlasts the run is left out. */
export function slotEnds(slots: readonly FedSlot[], { nowMs, taktS, panelsToGo, breaks }: Clock): SlotEnd[] {
	return slots
		.flatMap((slot): SlotEnd[] => {
			const loss = lossOf(slot.picks, slot.lost);
			const panelsAt = (share: number) => panelsLeft(slot.pieces, slot.perPanel, share);
			if (panelsAt(loss.share) >= panelsToGo) return [];
			// The machine stops inside the panel that it cannot finish.
			const at = (panels: number) => stopClockMs(nowMs, panels, taktS, breaks);
			return [
				{
					...slot,
					lossShare: loss.share,
					panels: panelsAt(loss.share),
					endMs: at(panelsAt(loss.share)),
					earliestMs: at(panelsAt(loss.high)),
					latestMs: at(panelsAt(loss.low))
				}
			];
		})
		.sort((a, b) => a.endMs - b.endMs);
}

export interface RoundStop {
	machine: string;
	slot: number;
	partNumber: string;
	leaveMs: number;
	startMs: number;
	finishMs: number;
	/** Before the machine stops; negative: so late. */
	spareS: number;
}

export interface SpliceRound {
	stops: RoundStop[];
	/** How long the line stands in the best round, s; 0: it need not. */
	stopS: number;
	proven: boolean;
}

export interface RoundRules {
	/** What is looked at, h of work from now. */
	aheadH: number;
	/** A splice takes so long, s (45 to 90, common practice). */
	spliceS: number;
	/** It can be begun when the reel feeds so long at the most, s: before that its tail is too long to splice ([ours]). */
	tailS: number;
	walkMPerS: number;
}
export const ROUND_RULES: RoundRules = { aheadH: 2, spliceS: 60, tailS: 900, walkMPerS: 1 };

/** So many splices are taken into one round; the later ones wait for the next. */
const MOST_STOPS = 10;

/** The round of one technician over the slots that end next, walking included, with the shortest stop of the line. Nobody walks in a break.
 * @param fromM where the technician stands, m
 * @throws {InputError} `out-of-range` for rules that cannot be
 */
export function spliceRound(ends: readonly SlotEnd[], clock: Clock, rules: RoundRules = ROUND_RULES, fromM = 0): SpliceRound {
	const { nowMs, taktS, breaks } = clock;
	if (!(rules.aheadH > 0)) throw new InputError('out-of-range', 'aheadH', 'more than 0 h', rules.aheadH);
	// Seconds of work: the line and its people stand in the same breaks.
	const deadlineS = (end: SlotEnd) => panelsLeft(end.pieces, end.perPanel, lossOf(end.picks, end.lost).high) * taktS;
	const next = ends.filter((end) => deadlineS(end) <= rules.aheadH * 3600).slice(0, MOST_STOPS);
	const splices = next.map((end, i): Splice => ({
		name: String(i),
		xM: end.xM,
		yM: 0,
		releaseS: Math.max(0, deadlineS(end) - rules.tailS),
		deadlineS: deadlineS(end),
		serviceS: rules.spliceS
	}));
	const route = spliceRoute(splices, { xM: fromM, yM: 0 }, rules.walkMPerS);
	const at = (workS: number) => stopClockMs(nowMs, workS, 1, breaks);
	return {
		stops: route.stops.map(({ name, leaveS, startS, finishS, spareS }) => {
			const { machine, slot, partNumber } = next[Number(name)]!;
			return { machine, slot, partNumber, leaveMs: at(leaveS), startMs: at(startS), finishMs: at(finishS), spareS };
		}),
		stopS: route.stopS,
		proven: route.proven
	};
}

/** What a round comes to: a warning where the line stands even in the best one, and where. */
export function judgeRound({ stops, stopS, proven }: SpliceRound): Verdict {
	const reason = {
		quantity: 'Stop of the line in the best round',
		value: Number(stopS.toFixed(0)),
		unit: 's',
		limit: 'none',
		source: `one technician, walking included${proven ? '; every order compared' : ''}: machines in series wait for one another, so the latest splice counts`
	};
	if (stops.length === 0)
		return { level: 'good', statement: 'No reel ends in the time that is looked ahead.', because: [reason], doNext: [] };
	const worst = stops.reduce((a, b) => (b.spareS < a.spareS ? b : a));
	const at = `${worst.machine}, slot ${worst.slot}`;
	if (stopS >= LEAST_STOP_S)
		return {
			level: 'watch',
			statement: `One technician cannot splice all in time: the line will stand ${stopS.toFixed(0)} s for ${at}.`,
			because: [reason],
			doNext: [`Have a second person splice ${at}, or fetch its reel now`]
		};
	const splices = stops.length === 1 ? 'One splice' : `${stops.length} splices`;
	return { level: 'good', statement: `${splices} ahead, all in time in this order.`, because: [reason], doNext: [] };
}
/** A shorter stop is within the doubt of the forecast ([ours]). */
const LEAST_STOP_S = 5;
