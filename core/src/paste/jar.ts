import { InputError } from '../judgement/index.ts';
import { instantOf, nextDay } from '../units/index.ts';
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
	const first = day ? nextDay(printed, 1) : nextMonth(Number(month![1]), Number(month![2]));
	if (day && new Date(`${printed}T12:00:00Z`).toISOString().slice(0, 10) !== printed)
		throw new InputError('unknown', 'expiry', 'a day that exists', printed);
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
	const taken = new Set<number>();
	for (const e of events) if (e.kind === 'mis_scan' && e.of !== undefined && e.atMs <= nowMs) taken.add(e.of);
	const ordered = inOrder(
		events.some((e) => e.kind === 'mis_scan') ? events.filter((e) => e.kind !== 'mis_scan' && !taken.has(e.id)) : events
	);
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
	return { state: s, ms: events.reduce((last, e) => (e.atMs > last && e.atMs <= nowMs ? e.atMs : last), jar.receivedMs) };
}

/** State of a jar some time after its last event. @param nowMs not before the fold's own instant */
export function statusOf({ state }: JarFold, jar: JarFacts, nowMs: number, rules: PasteRules = PASTE_RULES): JarStatus {
	const s: Fold = { ...state, violations: [...state.violations], quarantine: [...state.quarantine] };
	pass(s, nowMs, jar, rules);
	return report(s, nowMs, jar, rules);
}

/** Events by when they happened, entries of one instant in the order of entry; most lists are in that order already. */
function inOrder(events: readonly JarEvent[]): readonly JarEvent[] {
	for (let i = 1; i < events.length; i++) {
		const a = events[i - 1]!;
		const b = events[i]!;
		if (a.atMs > b.atMs || (a.atMs === b.atMs && a.id > b.id)) return [...events].sort((x, y) => x.atMs - y.atMs || x.id - y.id);
	}
	return events;
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
	/** Cold while opened, ms; counts only where the rules pause open life. */
	openColdMs: number;
	stencil: string | null;
	mixed: boolean;
	/** Which sealed clock broke already: it is named once. */
	sealedBroke: boolean;
	shelfBroke: boolean;
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
		stencil: null,
		mixed: false,
		sealedBroke: false,
		shelfBroke: false,
		gramsLeft: jar.grams,
		violations: [],
		quarantine: []
	};
}

const sealed = (state: JarState) => state === 'received' || state === 'cold' || state === 'warming' || state === 'ready';
const gone = (state: JarState) => state === 'discarded' || state === 'empty';

function readyAt(s: Fold, rules: PasteRules): number | null {
	if (s.takenOutMs === null) return null;
	const gateH = warmUpGateH(rules.coldLowC, s.airC, rules.warmToC, rules.warmUpH);
	return gateH === null ? null : s.takenOutMs + gateH * H;
}

/** What the clocks alone bring about until an instant. */
function pass(s: Fold, ms: number, jar: JarFacts, rules: PasteRules): void {
	if (gone(s.state) || s.state === 'quarantined') return;
	if (s.state === 'warming') {
		const ready = readyAt(s, rules);
		if (ready !== null && ms >= ready) s.state = 'ready';
	}
	const standing = s.state === 'warming' || s.state === 'ready' || s.state === 'mixed';
	if (standing && s.takenOutMs !== null && s.openedMs === null && !s.sealedBroke) {
		const ends = s.takenOutMs + rules.sealedOutH * H - s.sealedOutMs;
		if (ms > ends) {
			s.sealedBroke = true;
			hold(s, 'unopened_warm_exceeded', ends);
		}
	}
	if (sealed(s.state) && ms > jar.expiryMs && !s.shelfBroke) {
		s.shelfBroke = true;
		hold(s, 'expired', jar.expiryMs);
	}
}

function hold(s: Fold, code: string, atMs: number): void {
	s.violations.push({ code, atMs });
	s.quarantine.push(code);
	if (s.state !== 'quarantined') s.before = s.state;
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
	const opened = s.openedMs !== null;
	const legal =
		LEGAL[kind].includes(s.state) ||
		(rules.openMayReturn && opened && ((kind === 'return_cold' && s.state === 'open') || (kind === 'take_out' && s.state === 'cold')));
	if (!legal) {
		s.violations.push({ code: `illegal:${kind}_when_${s.state}`, atMs: e.atMs });
		return;
	}
	switch (kind) {
		case 'store_cold':
			s.state = 'cold';
			return;
		case 'take_out':
			if (opened && s.takenOutMs !== null) s.openColdMs += e.atMs - s.takenOutMs;
			s.state = 'warming';
			s.takenOutMs = e.atMs;
			s.airC = e.airC ?? s.airC;
			return;
		case 'return_cold':
			s.coldReturns++;
			if (!opened) s.sealedOutMs += e.atMs - s.takenOutMs!;
			s.takenOutMs = opened ? e.atMs : null;
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
			if (s.takenOutMs !== null && !opened) s.sealedOutMs += e.atMs - s.takenOutMs;
			s.openedMs ??= e.atMs;
			if (s.state === 'warming') return hold(s, 'open_before_warm', e.atMs);
			if (e.atMs > jar.expiryMs) return hold(s, 'expired_at_open', e.atMs);
			if (!s.mixed && !e.stirred && rules.stir !== 'none') s.violations.push({ code: 'opened_unstirred', atMs: e.atMs });
			s.state = 'open';
			return;
		case 'load_stencil':
			if (s.onStencilMs === null) s.onStencilMs = e.atMs;
			s.stencil = e.stencil ?? s.stencil;
			s.gramsLeft = Math.max(0, s.gramsLeft - (e.grams ?? 0));
			s.state = 'on_stencil';
			if (e.atMs > jar.expiryMs) hold(s, 'expired_at_load', e.atMs);
			else if (e.atMs > openEnds(s, rules)!) hold(s, 'open_life_exceeded_at_load', e.atMs);
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
			s.gramsLeft = 0;
	}
}

function openEnds(s: Fold, rules: PasteRules): number | null {
	return s.openedMs === null ? null : s.openedMs + rules.openLifeH * H + (rules.openLifePausesCold ? s.openColdMs : 0);
}

function report(s: Fold, nowMs: number, jar: JarFacts, rules: PasteRules): JarStatus {
	const clocks: JarStatus['clocks'] = [];
	const ready = s.state === 'warming' || s.state === 'ready' ? readyAt(s, rules) : null;
	if (!gone(s.state)) clocks.push({ clock: 'shelf_life', endsMs: jar.expiryMs });
	if ((s.state === 'warming' || s.state === 'ready' || s.state === 'mixed') && s.takenOutMs !== null && s.openedMs === null)
		clocks.push({ clock: 'sealed_out', endsMs: s.takenOutMs + rules.sealedOutH * H - s.sealedOutMs });
	const open = openEnds(s, rules);
	if (open !== null && !gone(s.state)) clocks.push({ clock: 'open_life', endsMs: open });
	const stencilMs = s.stencilMs + (s.onStencilMs === null ? 0 : nowMs - s.onStencilMs);
	// Off the stencil its clock stands still; a jar that used it up may not go on again.
	if (s.onStencilMs !== null || (s.openedMs !== null && s.stencilMs > 0 && !gone(s.state)))
		clocks.push({ clock: 'stencil_life', endsMs: nowMs + rules.stencilLifeH * H - stencilMs });
	clocks.sort((a, b) => a.endsMs - b.endsMs);
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
		discardNow: !held && !gone(s.state) && over !== undefined,
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
	const ends = clocks.filter((c) => c.clock === 'sealed_out' || c.clock === 'shelf_life').map((c) => c.endsMs + 1);
	const times = [...ends, ...(readyMs === null ? [] : [readyMs]), nowMs].filter((ms) => ms > fold.ms && ms <= nowMs).sort((a, b) => a - b);
	const all = [...spans, ...times.map((fromMs) => ({ state: statusOf(fold, jar, fromMs, rules).state, fromMs }))];
	return all.filter(({ state }, i) => state !== all[i - 1]?.state);
}
