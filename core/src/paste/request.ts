import type { JarEventKind, JarFacts, JarStatus } from './jar.ts';
import { safeOpeningC, jarC } from './air.ts';
import { PASTE_RULES, type PasteRules } from './rules.ts';
import { below } from '../numerics/index.ts';

const H = 3_600_000;

export interface Refusal {
	code: string;
	/** Why not. */
	why: string;
	/** What would make it right. */
	fix: string;
	/** When it would be right by itself; null where waiting does not help. */
	atMs: number | null;
}

export interface Asked {
	kind: JarEventKind;
	/** Paste that the job asks for, and its flux; null where no job is meant. */
	wanted?: { paste: string; lot?: string | null } | null;
	/** What lies on the stencil already: lots are never mixed. */
	bead?: { paste: string; lots: string[] } | null;
	/** Measured in the jar, °C; the model's value where nobody measured. */
	pasteC?: number | null;
	air?: { airC: number; rhPct: number } | null;
	by?: 'hand' | 'mixer';
}

const hours = (h: number) => {
	const minutes = Math.round(Math.abs(h) * 60);
	return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
};
const NAMES: Partial<Record<JarEventKind, string>> = {
	store_cold: 'be put in the fridge',
	take_out: 'leave the fridge',
	return_cold: 'go back to the fridge',
	mix: 'be stirred',
	open: 'be opened',
	load_stencil: 'go on the stencil',
	scrape_off: 'come off the stencil'
};

/** Whether a jar may do what somebody asks, before it is done. Every reason that speaks against it, each with what would make it right.
 * @returns an empty list where it may
 */
export function refuses(jar: JarFacts, s: JarStatus, asked: Asked, nowMs: number, rules: PasteRules = PASTE_RULES): Refusal[] {
	const out: Refusal[] = [];
	const no = (code: string, why: string, fix: string, atMs: number | null = null) => out.push({ code, why, fix, atMs });
	const { kind } = asked;
	if (s.state === 'discarded' || s.state === 'empty') {
		no(`is_${s.state}`, `${jar.id} is ${s.state}.`, 'Take another jar');
		return out;
	}
	if (kind === 'discard' || kind === 'empty' || kind === 'mis_scan') return out;
	if (kind === 'review_ok') {
		if (s.state !== 'quarantined') no('not_held', `${jar.id} is not in quarantine: it is ${stateWords(s.state)}.`, 'Nothing to review');
		return out;
	}
	if (s.state === 'quarantined') {
		no(
			'quarantined',
			`${jar.id} is in quarantine: ${s.quarantine.map(violationWords).join('; ')}.`,
			'An engineer reviews it, or it is discarded'
		);
		return out;
	}
	if (kind === 'take_out' && s.state !== 'cold')
		no('not_cold', `${jar.id} is not in the fridge: it is ${stateWords(s.state)}.`, 'Scan what you mean to do with it');
	if (kind === 'store_cold' && s.state !== 'received')
		no('not_received', `${jar.id} is ${stateWords(s.state)}.`, 'Scan what you mean to do with it');
	if (kind === 'return_cold') returns(jar, s, rules, no);
	if (kind === 'mix' || kind === 'open') warmth(jar, s, asked, nowMs, rules, no);
	if ((kind === 'mix' || kind === 'open' || kind === 'load_stencil') && nowMs > jar.expiryMs)
		no('expired', `${jar.id} is past its use-by date.`, 'Discard it and take another jar');
	if (kind === 'load_stencil') loading(jar, s, asked, nowMs, no);
	if (kind === 'scrape_off' && s.state !== 'on_stencil')
		no('not_on_stencil', `${jar.id} is not on a stencil: it is ${stateWords(s.state)}.`, 'Scan the jar that is');
	return out;
}

type No = (code: string, why: string, fix: string, atMs?: number | null) => void;

function returns(jar: JarFacts, s: JarStatus, rules: PasteRules, no: No): void {
	const opened = s.openedMs !== null;
	if (opened && !rules.openMayReturn)
		return no(
			'opened',
			`${jar.id} has been opened: an opened jar does not go back to the fridge here.`,
			'Use it within its open life, or discard it'
		);
	if (s.state !== 'warming' && s.state !== 'ready' && !(opened && s.state === 'open'))
		return no('not_out', `${jar.id} cannot go back: it is ${stateWords(s.state)}.`, 'Scan what you mean to do with it');
	if (s.coldReturns >= rules.coldReturns)
		no(
			'too_many_cold_returns',
			`${jar.id} went back to the fridge ${s.coldReturns} of ${rules.coldReturns} times already: it was warmed too often.`,
			'Use it now, or discard it'
		);
}

function warmth(jar: JarFacts, s: JarStatus, asked: Asked, nowMs: number, rules: PasteRules, no: No): void {
	const doing = NAMES[asked.kind]!;
	if (s.state === 'received' || s.state === 'cold')
		return no(
			'too_cold',
			`${jar.id} may not ${doing}: it has not left the fridge.`,
			`Take it out; ${rules.warmUpH} h later it may`,
			nowMs + rules.warmUpH * H
		);
	if (asked.kind === 'open' && (s.state === 'open' || s.state === 'on_stencil'))
		return no('already_open', `${jar.id} is open already.`, 'Put it on the stencil');
	if (s.openedMs !== null) return;
	if (s.readyMs === null && s.state === 'warming')
		return no(
			'never_warm',
			`${jar.id} never reaches ${rules.warmToC} °C in air of ${s.airC} °C.`,
			'Let it stand in a warmer room; never force it'
		);
	if (s.readyMs !== null && nowMs < s.readyMs) {
		const out = (nowMs - s.takenOutMs!) / H;
		const gate = (s.readyMs - s.takenOutMs!) / H;
		return no(
			'too_cold',
			`${jar.id} ${asked.kind === 'open' ? 'opens' : 'may be stirred'} in ${hours(gate - out)}: warm-up ${hours(out)} of ${hours(gate)}.`,
			'Wait; never force it. A mixer does not replace the wait',
			s.readyMs
		);
	}
	const pasteC = asked.pasteC ?? (s.takenOutMs === null ? null : jarC(rules.coldLowC, s.airC, (nowMs - s.takenOutMs) / H));
	if (pasteC !== null && below(pasteC, rules.warmToC))
		no('too_cold', `${jar.id} is ${pasteC.toFixed(1)} °C, it needs ${rules.warmToC} °C.`, 'Wait until it is warm through; measure again');
	if (asked.kind === 'open' && asked.air && pasteC !== null) {
		const least = safeOpeningC(asked.air.airC, asked.air.rhPct);
		if (pasteC < least)
			no(
				'dew',
				`${jar.id} is ${pasteC.toFixed(1)} °C: at ${asked.air.airC} °C and ${asked.air.rhPct} % RH water settles below ${least.toFixed(1)} °C.`,
				'Let it warm further, or open it in drier air'
			);
	}
}

function loading(jar: JarFacts, s: JarStatus, asked: Asked, nowMs: number, no: No): void {
	if (s.state !== 'open' && s.state !== 'on_stencil')
		no(
			'not_open',
			`${jar.id} is ${stateWords(s.state)}.`,
			s.state === 'ready' || s.state === 'mixed' ? 'Open it first' : 'Take an open jar',
			s.readyMs
		);
	for (const { clock, endsMs } of s.clocks) {
		if (endsMs > nowMs) continue;
		if (clock === 'open_life') no('open_life', `${jar.id} was opened too long ago: its open life ended.`, 'Discard it and open another');
		if (clock === 'stencil_life') no('stencil_life', `${jar.id} is past its life on the stencil.`, 'Discard it and open another');
	}
	if (asked.wanted && asked.wanted.paste !== jar.paste)
		no('wrong_paste', `${jar.id} is ${jar.paste}; this job is printed with ${asked.wanted.paste}.`, `Take a jar of ${asked.wanted.paste}`);
	if (asked.bead?.paste && asked.bead.paste !== jar.paste)
		no(
			'mixes_paste',
			`${asked.bead.paste} lies on the stencil; ${jar.id} is ${jar.paste}.`,
			'Take the bead off and clean the stencil first'
		);
	else if (asked.bead && asked.bead.lots.length > 0 && !asked.bead.lots.includes(jar.lot))
		no(
			'mixes_lots',
			`Lot ${asked.bead.lots.join(', ')} lies on the stencil; ${jar.id} is of lot ${jar.lot}.`,
			'Top up from the same lot, or start a new bead'
		);
}

/** What a person calls a step of a jar's life. */
const MOVES: Partial<Record<JarEventKind, string>> = {
	store_cold: 'Into the fridge',
	take_out: 'Out of the fridge',
	return_cold: 'Back to the fridge',
	mix: 'Stirred',
	open: 'Open it',
	load_stencil: 'On the stencil',
	scrape_off: 'Off the stencil',
	empty: 'Empty',
	discard: 'Discard'
};
const FROM: Record<JarStatus['state'], JarEventKind[]> = {
	received: ['store_cold', 'discard'],
	cold: ['take_out', 'discard'],
	warming: ['open', 'return_cold', 'discard'],
	ready: ['mix', 'open', 'return_cold', 'discard'],
	mixed: ['open', 'discard'],
	open: ['load_stencil', 'empty', 'discard'],
	on_stencil: ['load_stencil', 'scrape_off', 'empty', 'discard'],
	quarantined: ['discard'],
	empty: [],
	discarded: []
};

export interface JarMove {
	kind: JarEventKind;
	name: string;
	/** The first reason that speaks against it now; null where it may be done. */
	no: Refusal | null;
}

/** What the state of a jar makes sensible to do with it, the usual first; what the rules forbid stays, with its reason. */
export function jarMoves(
	jar: JarFacts,
	s: JarStatus,
	asked: Omit<Asked, 'kind'>,
	nowMs: number,
	rules: PasteRules = PASTE_RULES
): JarMove[] {
	return FROM[s.state]
		.filter((kind) => kind !== 'mix' || rules.stir !== 'none')
		.map((kind) => ({
			kind,
			name: kind === 'mix' && rules.stir === 'mixer' ? 'Mixed' : MOVES[kind]!,
			no: refuses(jar, s, { ...asked, kind }, nowMs, rules)[0] ?? null
		}));
}

export function stateWords(state: JarStatus['state']): string {
	return state === 'on_stencil' ? 'on a stencil' : state === 'cold' ? 'in the fridge' : state === 'quarantined' ? 'in quarantine' : state;
}

const VIOLATIONS: Record<string, string> = {
	mix_before_warm: 'stirred before it was warm',
	open_before_warm: 'opened before it was warm',
	expired: 'past its use-by date',
	expired_at_mix: 'past its use-by date when it was stirred',
	expired_at_open: 'past its use-by date when it was opened',
	expired_at_load: 'past its use-by date when it went on the stencil',
	too_many_cold_returns: 'warmed and cooled too often',
	unopened_warm_exceeded: 'sealed but out of the fridge too long',
	open_life_exceeded_at_load: 'past its open life when it went on the stencil',
	opened_unstirred: 'opened without stirring',
	fridge_excursion: 'the fridge left its limits'
};

/** A violation's code as a person reads it. */
export function violationWords(code: string): string {
	const illegal = /^illegal:(\w+)_when_(\w+)$/.exec(code);
	return illegal
		? `"${illegal[1]!.replace('_', ' ')}" reported while ${stateWords(illegal[2] as JarStatus['state'])}`
		: (VIOLATIONS[code] ?? code);
}
