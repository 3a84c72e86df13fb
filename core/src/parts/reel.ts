import { InputError, type Level } from '../judgement/index.ts';
import { floorLife, type FloorLife, type MoistureLevel, type MoistureStay } from './moisture.ts';

/** What parts come in. */
export const REEL_KINDS = ['reel', 'stick', 'tray', 'cut'] as const;
export type ReelKind = (typeof REEL_KINDS)[number];

/** What can become of a reel: its pieces counted, some split off, used up; blocked and free again; its bag opened, a dry cabinet, a bag closed anew, a bake; moved. */
export const REEL_EVENTS = ['count', 'split', 'gone', 'block', 'unblock', 'open', 'cabinet', 'air', 'bag', 'bake', 'move'] as const;
export type ReelEventKind = (typeof REEL_EVENTS)[number];

export interface ReelEvent {
	kind: ReelEventKind;
	atMs: number;
	/** Counted, or split off. */
	pieces: number | null;
	/** Of the dry cabinet it goes into; of the humidity card in the bag that is opened. */
	rhPct: number | null;
	/** Why it is blocked. */
	note: string;
	place: string;
}

export interface ReelFacts {
	receivedMs: number;
	pieces: number;
	place: string;
	/** null: it need not be kept dry. */
	moistureLevel: MoistureLevel | null;
	/** Hours on the label of a level 6 part; null elsewhere. */
	labelH: number | null;
}

/** Where its moisture clock stands. */
export type DryState = 'bag' | 'air' | 'cabinet';

export interface ReelStatus {
	/** As it was counted last, less what was split off since; what feeders took since then is not in it. */
	pieces: number;
	/** When that was counted. */
	countedMs: number;
	/** Why it may not be used; null: it may. */
	blocked: string | null;
	place: string;
	/** Used up, or scrapped. */
	gone: boolean;
	/** null: it need not be kept dry. */
	dry: DryState | null;
	life: FloorLife | null;
	/** When its floor life ends if it stays where it is; null: never, or the clock stands. */
	endsMs: number | null;
}

const HOUR_MS = 3_600_000;

/** What a reel is now, from its label and everything that happened to it since. Parts that take up water come in a sealed bag: their clock begins when it is opened.
 * @param events in any order
 * @throws {InputError} `out-of-range` for a moisture clock that cannot be
 */
export function reelStatus(facts: ReelFacts, events: readonly ReelEvent[], nowMs: number): ReelStatus {
	const inOrder = events.filter((e) => e.atMs <= nowMs).toSorted((a, b) => a.atMs - b.atMs);
	const now = { pieces: facts.pieces, countedMs: facts.receivedMs, blocked: null as string | null, place: facts.place, gone: false };
	for (const { kind, atMs, pieces, note, place } of inOrder) {
		if (kind === 'count') [now.pieces, now.countedMs] = [pieces ?? now.pieces, atMs];
		else if (kind === 'split') now.pieces = Math.max(0, now.pieces - (pieces ?? 0));
		else if (kind === 'gone') [now.gone, now.pieces] = [true, 0];
		else if (kind === 'block') now.blocked = note || 'no reason was given';
		else if (kind === 'unblock') now.blocked = null;
		if (place) now.place = place;
	}
	const { moistureLevel, labelH } = facts;
	if (moistureLevel === null || moistureLevel === '1') return { ...now, dry: null, life: null, endsMs: null };
	const { stays, dry } = staysOf(facts.receivedMs, inOrder, nowMs);
	const life = floorLife(moistureLevel, stays, labelH);
	return { ...now, dry, life, endsMs: dry === 'air' && life.leftH !== null ? nowMs + life.leftH * HOUR_MS : null };
}

/** Where it lay and for how long. A bag is as dry as the card in it says when it is opened; while it is closed it counts as good. */
function staysOf(fromMs: number, events: readonly ReelEvent[], nowMs: number): { stays: MoistureStay[]; dry: DryState } {
	const stays: MoistureStay[] = [];
	let dry: DryState = 'bag';
	let since = fromMs;
	let cabinetPct = 0;
	const end = (atMs: number, cardPct: number | null) => {
		const hours = (atMs - since) / HOUR_MS;
		if (dry === 'bag') stays.push({ where: 'bag', hours, cardPct });
		else if (dry === 'cabinet') stays.push({ where: 'cabinet', hours, rhPct: cabinetPct });
		else stays.push({ where: 'air', hours });
		since = atMs;
	};
	for (const { kind, atMs, rhPct } of events) {
		if (kind === 'open') {
			end(atMs, rhPct);
			dry = 'air';
		} else if (kind === 'cabinet') {
			// Nobody read what the cabinet shows: it counts as air.
			end(atMs, null);
			[dry, cabinetPct] = ['cabinet', rhPct ?? 100];
		} else if (kind === 'air') {
			end(atMs, null);
			dry = 'air';
		} else if (kind === 'bag') {
			end(atMs, null);
			dry = 'bag';
		} else if (kind === 'bake') {
			end(atMs, null);
			stays.push({ where: 'bake', hours: 0 });
			dry = 'air';
		}
	}
	end(nowMs, 0);
	return { stays, dry };
}

/** Floor life left with which somebody has to act: a bake takes longer, h [ours]. */
export const DRY_SOON_H = 4;

export interface StandOfReel {
	level: Level;
	/** "free to use". */
	words: string;
}

/** Whether a reel may be used, in a word.
 * @param pieces that it holds, less what feeders took since it was counted
 * @param inFeeder it is tied to one
 */
export function standOfReel(
	{ gone, blocked, life }: Pick<ReelStatus, 'gone' | 'blocked' | 'life'>,
	pieces: number,
	inFeeder: boolean
): StandOfReel {
	if (gone) return { level: 'noData', words: 'used up' };
	if (blocked !== null) return { level: 'stopped', words: `blocked: ${blocked}` };
	if (life?.expired) return { level: 'stopped', words: 'too long in the air: bake it' };
	if (pieces === 0) return { level: 'watch', words: 'empty' };
	return { level: 'good', words: inFeeder ? 'in use' : 'free to use' };
}

export const DRY_WORDS: Record<DryState, string> = { bag: 'in its bag', air: 'in the air', cabinet: 'in a dry cabinet' };

/** How the moisture clock of a reel stands; null for parts that need not be kept dry. */
export function standOfDryness({ dry, life }: Pick<ReelStatus, 'dry' | 'life'>): StandOfReel | null {
	if (dry === null || life === null) return null;
	if (life.expired) return { level: 'stopped', words: 'too long in the air: bake it' };
	if (life.leftH === null) return { level: 'good', words: `${DRY_WORDS[dry]}, without end` };
	return { level: dry === 'air' && life.leftH < DRY_SOON_H ? 'act' : 'good', words: DRY_WORDS[dry] };
}

/** A new reel against its label and its order: what has to be asked before it goes on the shelf.
 * @throws {InputError} `out-of-range` with the field that cannot be
 */
export function checkReel(reel: {
	pieces: number;
	tapeMm: number | null;
	pitchMm: number | null;
	kind: ReelKind;
	moistureLevel: MoistureLevel | null;
	labelH: number | null;
}): void {
	if (!(Number.isInteger(reel.pieces) && reel.pieces > 0))
		throw new InputError('out-of-range', 'pieces', 'a whole number above 0', reel.pieces);
	if (reel.kind === 'reel' || reel.kind === 'cut') {
		if (reel.tapeMm === null || !TAPE_WIDTHS_MM.includes(reel.tapeMm))
			throw new InputError('out-of-range', 'tapeMm', `one of ${TAPE_WIDTHS_MM.join(', ')} mm`, reel.tapeMm);
		if (reel.pitchMm === null || !isPitch(reel.pitchMm))
			throw new InputError('out-of-range', 'pitchMm', '1, 2 or a multiple of 4 mm', reel.pitchMm);
	}
	if (reel.moistureLevel === '6' && !(reel.labelH !== null && reel.labelH > 0))
		throw new InputError('out-of-range', 'labelH', 'the hours on the label of a level 6 part, above 0', reel.labelH);
}

/** Widths of carrier tape, mm.
 * @see EIA-481 (values from memory)
 */
export const TAPE_WIDTHS_MM: readonly number[] = [4, 8, 12, 16, 24, 32, 44, 56, 72, 88, 104];

const isPitch = (mm: number) => mm === 1 || mm === 2 || (mm > 0 && mm % 4 === 0);
