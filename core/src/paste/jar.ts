import { InputError } from '../judgement/index.ts';
import { instantOf, isDate, nextDay } from '../units/index.ts';
import { warmUpGateH } from './air.ts';
import { PASTE_RULES, type PasteRules } from './rules.ts';

export const JAR_EVENTS = [
	'store_cold',
	'take_out',
	'return_cold',
	'mix',
	'open',
	'load_stencil',
	'scrape_off',
	'discard',
	'empty',
	'excursion',
	'review_ok',
	'mis_scan'
] as const;
export type JarEventKind = (typeof JAR_EVENTS)[number];

/** Something that happened to a jar, as it was reported. Nothing is overwritten: a mis-scan is an event that names the one it takes back. */
export interface JarEvent {
	id: number;
	kind: JarEventKind;
	/** When it happened; entries may be late, ms. */
	atMs: number;
	/** Whether it was stirred at opening. */
	stirred?: boolean;
	/** By machine or by hand, for mixing. */
	by?: 'hand' | 'mixer';
	/** Put on or scraped off, g. */
	grams?: number;
	/** The stencil it went on or came off. */
	stencil?: string;
	/** Air that it stood in when it left the fridge, °C. */
	airC?: number;
	/** The event that a mis-scan takes back. */
	of?: number;
}

export interface JarFacts {
	id: string;
	lot: string;
	/** Part number of the paste. */
	paste: string;
	receivedMs: number;
	/** Last instant before it is past its date. */
	expiryMs: number;
	grams: number;
	/** What a jar of scraped-off paste brings along. */
	inherits?: { openedMs: number | null; stencilH: number; sealedOutH: number; coldReturns: number };
}

export const JAR_STATES = [
	'received',
	'cold',
	'warming',
	'ready',
	'mixed',
	'open',
	'on_stencil',
	'quarantined',
	'discarded',
	'empty'
] as const;
export type JarState = (typeof JAR_STATES)[number];
export type JarClock = 'shelf_life' | 'warm_up' | 'sealed_out' | 'open_life' | 'stencil_life';

export interface JarStatus {
	state: JarState;
	/** The clock that ends first. */
	governing: JarClock | null;
	/** Until the governing clock ends, h; negative once it has; null when quarantined or gone. */
	remainingH: number | null;
	/** Instant at which the governing clock ends. */
	untilMs: number | null;
	/** Every clock that runs, with the instant at which it ends. */
	clocks: { clock: JarClock; endsMs: number }[];
	/** May be stirred or opened from here on; null outside warming and ready, or where this air never warms it. */
	readyMs: number | null;
	discardNow: boolean;
	/** Why it is in quarantine. */
	quarantine: string[];
	/** All that went against the rules, with when. */
	violations: { code: string; atMs: number }[];
	next: { action: string; atMs: number | null } | null;
	/** Rest in the jar, g: what went on a stencil is not in it. */
	gramsLeft: number;
	openedMs: number | null;
	stencil: string | null;
	stencilH: number;
	coldReturns: number;
	takenOutMs: number | null;
	airC: number;
}

const H = 3_600_000;

/** The last instant of a printed date: a day ends at midnight in the plant's zone, a month with its last day.
 * @param printed "2026-05-31" or "2026-05"
 * @throws {InputError} `unknown`
 */
export function expiryEnd(printed: string, timeZone: string): number {
	const day = /^\d{4}-\d\d-\d\d$/.test(printed);
	const month = /^(\d{4})-(\d\d)$/.exec(printed);
	if (!day && !month) throw new InputError('unknown', 'expiry', 'a date such as 2026-05-31 or a month such as 2026-05', printed);
	if (day && !isDate(printed)) throw new InputError('unknown', 'expiry', 'a day that exists', printed);
	const first = day ? nextDay(printed, 1) : nextMonth(Number(month![1]), Number(month![2]));
	return instantOf(first, '00:00', timeZone);
}

function nextMonth(year: number, month: number): string {
	if (month < 1 || month > 12) throw new InputError('unknown', 'expiry', 'a month from 01 to 12', month);
	return month === 12 ? `${year + 1}-01-01` : `${year}-${String(month + 1).padStart(2, '0')}-01`;
}

/** Refuses a jar that cannot be.
 * @throws {InputError} naming the jar, the field and the value
 */
export function checkJar(jar: JarFacts): void {
	if (!(jar.grams > 0)) throw new InputError('out-of-range', `${jar.id}.grams`, 'more than 0 g', jar.grams);
	if (!(jar.expiryMs > jar.receivedMs))
		throw new InputError('mismatch', `${jar.id}.expiry`, 'a date after it was received', new Date(jar.expiryMs).toISOString());
}

/** State of a jar at an instant: its events folded in the order in which they happened, entries of one instant in the order of entry.
 * A fact is recorded whether it was allowed or not; what breaks a rule puts the jar in quarantine with its name.
 * @param events in any order; those after `nowMs` do not count
 * @throws {InputError} where an event lies more than two minutes ahead of now or has negative grams
 * @see the clocks are common practice; the paste's own rules come in as `rules`
 */
export function jarStatus(jar: JarFacts, events: readonly JarEvent[], nowMs: number, rules: PasteRules = PASTE_RULES): JarStatus {
	return statusOf(foldJar(jar, events, nowMs, rules), jar, nowMs, rules);
}

/** What the events of a jar made of it: what the clocks alone bring about after `ms` comes on top of it. */
export interface JarFold {
	readonly state: Readonly<Fold>;
	/** Of its last event; of its arrival where there is none, ms. */
	readonly ms: number;
}

/** Folds the events of a jar up to an instant; `jarStatus` says how. It may be kept until the jar has another event. */
export function foldJar(jar: JarFacts, events: readonly JarEvent[], nowMs: number, rules: PasteRules = PASTE_RULES): JarFold {
	const takenBack = new Set(events.filter((e) => e.kind === 'mis_scan' && e.atMs <= nowMs).map((e) => e.of));
	const ordered = events.filter((e) => e.kind !== 'mis_scan' && !takenBack.has(e.id)).sort((a, b) => a.atMs - b.atMs || a.id - b.id);
	const s = fresh(jar);
	for (const event of ordered) {
		if (event.atMs > nowMs + 120_000)
			throw new InputError('out-of-range', `${jar.id}.atMs`, 'an event that has happened', new Date(event.atMs).toISOString());
		if (event.grams !== undefined && !(event.grams >= 0))
			throw new InputError('out-of-range', `${jar.id}.grams`, '0 g or more', event.grams);
		if (event.atMs > nowMs) break;
		pass(s, event.atMs, jar, rules);
		apply(s, event, jar, rules);
	}
	const lastMs = events.reduce((last, e) => (e.atMs <= nowMs ? Math.max(last, e.atMs) : last), jar.receivedMs);
	return { state: s, ms: lastMs };
}

/** State of a jar some time after its last event. @param nowMs not before the fold's own instant */
export function statusOf({ state }: JarFold, jar: JarFacts, nowMs: number, rules: PasteRules = PASTE_RULES): JarStatus {
	const s: Fold = { ...state, violations: [...state.violations], quarantine: [...state.quarantine], broke: [...state.broke] };
	pass(s, nowMs, jar, rules);
	return report(s, nowMs, jar, rules);
}

interface Fold {
	state: JarState;
	before: JarState;
	takenOutMs: number | null;
	airC: number;
	/** Sealed and out of the fridge, finished excursions, ms. */
	sealedOutMs: number;
	coldReturns: number;
	openedMs: number | null;
	/** On a stencil, finished stays, ms. */
	stencilMs: number;
	onStencilMs: number | null;
	/** Cold while opened, finished stays, ms; counts only where the rules pause open life. */
	openColdMs: number;
	/** Opened and in the fridge since, ms. */
	openColdSinceMs: number | null;
	stencil: string | null;
	mixed: boolean;
	/** Clocks of a sealed jar that ran out already: each is named once, and a review settles it. */
	broke: string[];
	gramsLeft: number;
	violations: { code: string; atMs: number }[];
	quarantine: string[];
}

function fresh(jar: JarFacts): Fold {
	const i = jar.inherits;
	return {
		state: i?.openedMs ? 'open' : 'received',
		before: 'received',
		takenOutMs: null,
		airC: 23,
		sealedOutMs: (i?.sealedOutH ?? 0) * H,
		coldReturns: i?.coldReturns ?? 0,
		openedMs: i?.openedMs ?? null,
		stencilMs: (i?.stencilH ?? 0) * H,
		onStencilMs: null,
		openColdMs: 0,
		openColdSinceMs: null,
		stencil: null,
		mixed: false,
		broke: [],
		gramsLeft: jar.grams,
		violations: [],
		quarantine: []
	};
}

const sealed = (state: JarState) => state === 'received' || state === 'cold' || state === 'warming' || state === 'ready';
const gone = (state: JarState) => state === 'discarded' || state === 'empty';

/** When one that stands warming is warm enough; null where it does not stand so, or this air never warms it. */
function readyAt(s: Fold, rules: PasteRules): number | null {
	if (s.state !== 'warming' && s.state !== 'ready') return null;
	const gateH = warmUpGateH(rules.coldLowC, s.airC, rules.warmToC, rules.warmUpH);
	return gateH === null ? null : s.takenOutMs! + gateH * H;
}

/** When one that stands out of the fridge and was never opened has stood there for long enough. */
function sealedEnds(s: Fold, rules: PasteRules): number | null {
	const standing = s.state === 'warming' || s.state === 'ready' || s.state === 'mixed';
	return standing && s.openedMs === null ? s.takenOutMs! + rules.sealedOutH * H - s.sealedOutMs : null;
}

/** What the clocks alone bring about until an instant: warm enough, or held by the clock that ran out first. */
function pass(s: Fold, ms: number, jar: JarFacts, rules: PasteRules): void {
	const ready = readyAt(s, rules);
	const ends: [string, number | null][] = [
		['unopened_warm_exceeded', sealedEnds(s, rules)],
		['expired', sealed(s.state) ? jar.expiryMs : null]
	];
	if (ready !== null && ms >= ready) s.state = 'ready';
	const over = ends
		.flatMap(([code, endsMs]) => (endsMs !== null && ms > endsMs && !s.broke.includes(code) ? [{ code, endsMs }] : []))
		.sort((a, b) => a.endsMs - b.endsMs)[0];
	if (!over) return;
	s.broke.push(over.code);
	hold(s, over.code, over.endsMs);
}

function hold(s: Fold, code: string, atMs: number): void {
	s.violations.push({ code, atMs });
	s.quarantine.push(code);
	s.before = s.state;
	s.state = 'quarantined';
}

const LEGAL: Record<Exclude<JarEventKind, 'mis_scan'>, readonly JarState[]> = {
	store_cold: ['received'],
	take_out: ['cold'],
	return_cold: ['warming', 'ready'],
	mix: ['warming', 'ready', 'mixed', 'open'],
	open: ['warming', 'ready', 'mixed'],
	load_stencil: ['open', 'on_stencil'],
	scrape_off: ['on_stencil'],
	discard: ['received', 'cold', 'warming', 'ready', 'mixed', 'open', 'on_stencil', 'quarantined'],
	empty: ['open', 'on_stencil', 'quarantined'],
	excursion: ['cold'],
	review_ok: ['quarantined']
};

function apply(s: Fold, e: JarEvent, jar: JarFacts, rules: PasteRules): void {
	const kind = e.kind as Exclude<JarEventKind, 'mis_scan'>;
	const legal = LEGAL[kind].includes(s.state) || (rules.openMayReturn && kind === 'return_cold' && s.state === 'open');
	if (!legal) {
		s.violations.push({ code: `illegal:${kind}_when_${s.state}`, atMs: e.atMs });
		return;
	}
	switch (kind) {
		case 'store_cold':
			s.state = 'cold';
			return;
		case 'take_out':
			if (s.openColdSinceMs !== null) s.openColdMs += e.atMs - s.openColdSinceMs;
			s.openColdSinceMs = null;
			s.state = 'warming';
			s.takenOutMs = e.atMs;
			s.airC = e.airC ?? s.airC;
			return;
		case 'return_cold':
			s.coldReturns++;
			if (s.openedMs === null) s.sealedOutMs += e.atMs - s.takenOutMs!;
			else s.openColdSinceMs = e.atMs;
			s.takenOutMs = null;
			s.state = 'cold';
			if (s.coldReturns > rules.coldReturns) hold(s, 'too_many_cold_returns', e.atMs);
			return;
		case 'mix':
			if (s.state === 'warming') return hold(s, 'mix_before_warm', e.atMs);
			if (e.atMs > jar.expiryMs) return hold(s, 'expired_at_mix', e.atMs);
			s.mixed = true;
			if (s.state === 'ready') s.state = 'mixed';
			return;
		case 'open':
			s.openedMs ??= e.atMs;
			if (s.state === 'warming') return hold(s, 'open_before_warm', e.atMs);
			if (e.atMs > jar.expiryMs) return hold(s, 'expired_at_open', e.atMs);
			if (!s.mixed && !e.stirred && rules.stir !== 'none') s.violations.push({ code: 'opened_unstirred', atMs: e.atMs });
			s.state = 'open';
			return;
		case 'load_stencil':
			s.onStencilMs ??= e.atMs;
			s.stencil = e.stencil ?? s.stencil;
			s.gramsLeft = Math.max(0, s.gramsLeft - (e.grams ?? 0));
			s.state = 'on_stencil';
			if (e.atMs > jar.expiryMs) hold(s, 'expired_at_load', e.atMs);
			else if (e.atMs > openEnds(s, rules, e.atMs)!) hold(s, 'open_life_exceeded_at_load', e.atMs);
			return;
		case 'scrape_off':
			s.stencilMs += e.atMs - s.onStencilMs!;
			s.onStencilMs = null;
			s.stencil = null;
			s.state = 'open';
			return;
		case 'excursion':
			return hold(s, 'fridge_excursion', e.atMs);
		case 'review_ok':
			s.state = s.before;
			s.quarantine = [];
			return;
		case 'discard':
			s.state = 'discarded';
			return;
		case 'empty':
			s.state = 'empty';
	}
}

function openEnds(s: Fold, rules: PasteRules, nowMs: number): number | null {
	if (s.openedMs === null) return null;
	const coldMs = s.openColdMs + (s.openColdSinceMs === null ? 0 : nowMs - s.openColdSinceMs);
	return s.openedMs + rules.openLifeH * H + (rules.openLifePausesCold ? coldMs : 0);
}

/** Every clock that runs, the one that ends first in front; none for a jar that is gone. */
function clocksOf(s: Fold, nowMs: number, stencilMs: number, jar: JarFacts, rules: PasteRules): JarStatus['clocks'] {
	if (gone(s.state)) return [];
	// Off the stencil its clock stands still; a jar that used it up may not go on again.
	const wasOn = s.onStencilMs !== null || s.stencilMs > 0;
	const ends: [JarClock, number | null][] = [
		['shelf_life', jar.expiryMs],
		['sealed_out', sealedEnds(s, rules)],
		['open_life', openEnds(s, rules, nowMs)],
		['stencil_life', wasOn ? nowMs + rules.stencilLifeH * H - stencilMs : null]
	];
	return ends.flatMap(([clock, endsMs]) => (endsMs === null ? [] : [{ clock, endsMs }])).sort((a, b) => a.endsMs - b.endsMs);
}

function report(s: Fold, nowMs: number, jar: JarFacts, rules: PasteRules): JarStatus {
	const stencilMs = s.stencilMs + (s.onStencilMs === null ? 0 : nowMs - s.onStencilMs);
	const ready = readyAt(s, rules);
	const clocks = clocksOf(s, nowMs, stencilMs, jar, rules);
	const first = clocks[0] ?? null;
	const held = s.state === 'quarantined';
	const over = clocks.find((c) => (c.clock === 'open_life' || c.clock === 'stencil_life') && c.endsMs <= nowMs);
	return {
		state: s.state,
		governing: first?.clock ?? null,
		remainingH: held || !first ? null : (first.endsMs - nowMs) / H,
		untilMs: held || !first ? null : first.endsMs,
		clocks,
		readyMs: ready,
		discardNow: !held && over !== undefined,
		quarantine: [...s.quarantine],
		violations: s.violations,
		next: nextAction(s, first, ready, over !== undefined),
		gramsLeft: gone(s.state) ? 0 : s.gramsLeft,
		openedMs: s.openedMs,
		stencil: s.stencil,
		stencilH: stencilMs / H,
		coldReturns: s.coldReturns,
		takenOutMs: s.takenOutMs,
		airC: s.airC
	};
}

function nextAction(s: Fold, first: JarStatus['clocks'][number] | null, ready: number | null, over: boolean): JarStatus['next'] {
	if (gone(s.state)) return null;
	if (s.state === 'quarantined') return { action: 'An engineer reviews it: keep or discard', atMs: null };
	if (over) return { action: s.state === 'on_stencil' ? 'Take it off the stencil and discard it' : 'Discard it', atMs: first!.endsMs };
	if (s.state === 'received') return { action: 'Put it in the fridge', atMs: null };
	if (s.state === 'cold') return { action: 'Take it out before its date', atMs: first!.endsMs };
	if (s.state === 'warming')
		return ready === null ? { action: 'Let it stand in a warmer room', atMs: null } : { action: 'May be stirred and opened', atMs: ready };
	if (s.state === 'ready') return { action: 'Stir and open it, or put it back', atMs: first!.endsMs };
	if (s.state === 'mixed') return { action: 'Open it', atMs: first!.endsMs };
	if (s.state === 'open') return { action: 'Use it up or discard it', atMs: first!.endsMs };
	return { action: 'Take the bead off the stencil', atMs: first!.endsMs };
}

/** A state of a jar with the instant at which it began. */
export interface JarSpan {
	state: JarState;
	fromMs: number;
}

/** The states that a jar went through, each with when it began; for a picture of its life. */
export function jarHistory(jar: JarFacts, events: readonly JarEvent[], nowMs: number, rules: PasteRules = PASTE_RULES): JarSpan[] {
	const times = [...new Set([jar.receivedMs, ...events.map((e) => e.atMs)])].filter((ms) => ms <= nowMs).sort((a, b) => a - b);
	let spans: JarSpan[] = [];
	times.forEach((ms, i) => {
		const known = events.filter((e) => e.atMs <= ms);
		const fold = foldJar(jar, known, ms, rules);
		spans = historyOn([...spans, { state: statusOf(fold, jar, ms, rules).state, fromMs: ms }], fold, jar, times[i + 1] ?? nowMs, rules);
	});
	return spans;
}

/** A history up to a fold, continued by what the clocks alone bring about until an instant: warm enough, or held.
 * @param spans up to the last event of the fold
 */
export function historyOn(
	spans: readonly JarSpan[],
	fold: JarFold,
	jar: JarFacts,
	nowMs: number,
	rules: PasteRules = PASTE_RULES
): JarSpan[] {
	const { readyMs, clocks } = statusOf(fold, jar, fold.ms, rules);
	const ends = clocks.map((c) => c.endsMs + 1);
	const times = [...ends, ...(readyMs === null ? [] : [readyMs]), nowMs].filter((ms) => ms > fold.ms && ms <= nowMs).sort((a, b) => a - b);
	const all = [...spans, ...times.map((fromMs) => ({ state: statusOf(fold, jar, fromMs, rules).state, fromMs }))];
	return all.filter(({ state }, i) => state !== all[i - 1]?.state);
}
