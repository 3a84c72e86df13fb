import { InputError, type Verdict } from '../judgement/index.ts';

/** What a scan at the feeders can be answered with, in order of precedence: the first that applies is shown large, all are logged. */
export const SCAN_CODES = [
	'UNKNOWN_SLOT',
	'UNKNOWN_FEEDER',
	'UNKNOWN_REEL',
	'FEEDER_OUT_OF_SERVICE',
	'FEEDER_NOT_TIED',
	'REEL_ON_OTHER_FEEDER',
	'REEL_BLOCKED',
	'NOT_NEEDED',
	'WRONG_SLOT',
	'ALTERNATE_NOT_APPROVED',
	'WRONG_PART',
	'FEEDER_TYPE',
	'FLOOR_LIFE_EXPIRED',
	'EMPTY_REEL',
	'ORIENTATION',
	'VALUE_CHECK',
	'FLOOR_LIFE_SHORT',
	'OK_ALTERNATE',
	'OK'
] as const;
export type ScanCode = (typeof SCAN_CODES)[number];

/** With these a feeder may run; the first says that it will not for the whole run. */
const PASSES: ReadonlySet<ScanCode> = new Set(['FLOOR_LIFE_SHORT', 'OK_ALTERNATE', 'OK']);

/** Corner of the pocket in which pin 1 lies, sprocket holes at the top.
 * @see EIA-481 (value from memory)
 */
export type Quadrant = 1 | 2 | 3 | 4;

export interface SlotNeed {
	slot: number;
	part: string;
	/** Named on the parts list; only those that were released for this customer and revision may be placed. */
	alternates: readonly { part: string; approved: boolean }[];
	tapeMm: number;
	pitchMm: number;
	/** null: the part has no side that matters. */
	quadrant: Quadrant | null;
	/** What a measured piece must have, where one is measured; in one unit. */
	value: { nominal: number; tolerancePct: number } | null;
}

export interface ScannedFeeder {
	id: string;
	tapeMm: number;
	/** As it is set. */
	pitchMm: number;
	/** The reel that it is tied to. */
	reel: string | null;
	/** Why it is not used until somebody has seen to it; null: it is. */
	outOfService: string | null;
}

export interface ScannedReel {
	id: string;
	part: string;
	tapeMm: number;
	pieces: number;
	/** Why it may not be used; null: it may. */
	blocked: string | null;
	/** Of the tape; null: its label does not say. */
	quadrant: Quadrant | null;
	/** Of a piece that was measured. */
	measured: number | null;
	/** Hours in air that are left; null: it need not be kept dry. */
	floorLifeLeftH: number | null;
}

/** What a line's feeders are checked against: needs of the program, every slot that the machine has, and the assets. */
export interface FeederSetUp {
	slots: number;
	needs: readonly SlotNeed[];
	feeders: readonly ScannedFeeder[];
	reels: readonly ScannedReel[];
	/** Until the run is over, h. */
	runH: number;
}

export interface ScanReply {
	/** The feeder may run there. */
	ok: boolean;
	/** All that apply, in order of precedence. */
	codes: ScanCode[];
	/** The first one in a sentence. */
	words: string;
}

interface Fault {
	code: ScanCode;
	words: string;
}

function reply(faults: readonly Fault[]): ScanReply {
	const ok = faults.every(({ code }) => PASSES.has(code));
	// What speaks for it counts only where nothing speaks against it.
	const sorted = faults
		.filter(({ code }) => ok || (code !== 'OK' && code !== 'OK_ALTERNATE'))
		.sort((a, b) => SCAN_CODES.indexOf(a.code) - SCAN_CODES.indexOf(b.code));
	return { ok, codes: sorted.map(({ code }) => code), words: sorted[0]!.words };
}

const only = (code: ScanCode, words: string): ScanReply => reply([{ code, words }]);

/** Checks a set-up before anything is scanned against it.
 * @throws {InputError} `out-of-range` where a figure cannot be, `unknown` where a slot is needed twice
 */
function checkSetUp({ slots, needs, reels, runH }: FeederSetUp): void {
	if (!(Number.isInteger(slots) && slots > 0)) throw new InputError('out-of-range', 'slots', 'a whole number above 0', slots);
	if (!(runH >= 0)) throw new InputError('out-of-range', 'runH', '0 h or more', runH);
	for (const { slot } of needs)
		if (!(slot >= 1 && slot <= slots)) throw new InputError('out-of-range', 'needs.slot', `1 to ${slots}`, slot);
	const twice = needs.find(({ slot }, i) => needs.findIndex((other) => other.slot === slot) !== i);
	if (twice) throw new InputError('unknown', 'needs.slot', 'each slot once', twice.slot);
	const wrong = reels.find(({ pieces }) => !(pieces >= 0));
	if (wrong) throw new InputError('out-of-range', 'reels.pieces', '0 or more', wrong.pieces);
}

/** Reel and feeder scanned together: may this reel go into this feeder? The pitch is set at the feeder, so it is checked where it docks. */
export function tieReel(setUp: FeederSetUp, feederId: string, reelId: string): ScanReply {
	checkSetUp(setUp);
	const feeder = setUp.feeders.find((f) => f.id === feederId);
	if (!feeder) return only('UNKNOWN_FEEDER', `No feeder is called ${feederId}.`);
	const reel = setUp.reels.find((r) => r.id === reelId);
	if (!reel) return only('UNKNOWN_REEL', `No reel is called ${reelId}. Receive it first.`);
	const [first] = [...handling(setUp, feeder, reel), ...tapeFault(feeder, reel)];
	return first ? only(first.code, first.words) : only('OK', `${reelId} is in ${feederId}.`);
}

/** A feeder that is put into a slot. */
export function dockFeeder(setUp: FeederSetUp, slot: number, feederId: string): ScanReply {
	checkSetUp(setUp);
	if (!(Number.isInteger(slot) && slot >= 1 && slot <= setUp.slots))
		return only('UNKNOWN_SLOT', `There is no slot ${slot}: this machine has 1 to ${setUp.slots}.`);
	const feeder = setUp.feeders.find((f) => f.id === feederId);
	if (!feeder) return only('UNKNOWN_FEEDER', `No feeder is called ${feederId}.`);
	if (feeder.reel === null) return only('FEEDER_NOT_TIED', `Nobody said which reel is in ${feederId}. Scan the feeder and its reel.`);
	const reel = setUp.reels.find((r) => r.id === feeder.reel);
	if (!reel) return only('UNKNOWN_REEL', `No reel is called ${feeder.reel}. Receive it first.`);
	return reply([...handling(setUp, feeder, reel), ...inSlot(setUp, slot, feeder, reel)]);
}

/** A reel that is spliced to the tape which runs in a slot. Only where it may is the new reel the feeder's. */
export function spliceReel(setUp: FeederSetUp, slot: number, feederId: string, newReelId: string): ScanReply {
	checkSetUp(setUp);
	if (!(Number.isInteger(slot) && slot >= 1 && slot <= setUp.slots))
		return only('UNKNOWN_SLOT', `There is no slot ${slot}: this machine has 1 to ${setUp.slots}.`);
	const feeder = setUp.feeders.find((f) => f.id === feederId);
	if (!feeder) return only('UNKNOWN_FEEDER', `No feeder is called ${feederId}.`);
	if (feeder.reel === null) return only('FEEDER_NOT_TIED', `Nothing runs in ${feederId} that could be spliced.`);
	const reel = setUp.reels.find((r) => r.id === newReelId);
	if (!reel) return only('UNKNOWN_REEL', `No reel is called ${newReelId}. Receive it first.`);
	return reply([...handling(setUp, feeder, reel), ...inSlot(setUp, slot, feeder, reel)]);
}

/** Whether the reel is free for this feeder. */
function handling({ feeders }: FeederSetUp, feeder: ScannedFeeder, reel: ScannedReel): Fault[] {
	const other = feeders.find((f) => f.id !== feeder.id && f.reel === reel.id);
	return [
		...(feeder.outOfService === null
			? []
			: [{ code: 'FEEDER_OUT_OF_SERVICE' as const, words: `${feeder.id} is out of service: ${feeder.outOfService}.` }]),
		...(other ? [{ code: 'REEL_ON_OTHER_FEEDER' as const, words: `${reel.id} is in ${other.id}. One of the two scans is wrong.` }] : []),
		...(reel.blocked === null ? [] : [{ code: 'REEL_BLOCKED' as const, words: `${reel.id} is blocked: ${reel.blocked}.` }])
	];
}

const tapeFault = (feeder: ScannedFeeder, reel: ScannedReel): Fault[] =>
	feeder.tapeMm === reel.tapeMm
		? []
		: [{ code: 'FEEDER_TYPE', words: `${feeder.id} is for ${feeder.tapeMm} mm tape, ${reel.id} has ${reel.tapeMm} mm.` }];

/** Whether a slot takes a part: its own, or an alternate that was released. */
const takes = (need: SlotNeed, part: string) => need.part === part || need.alternates.some((a) => a.part === part && a.approved);

/** Everything that speaks for or against a reel in a slot. */
function inSlot({ needs, runH }: FeederSetUp, slot: number, feeder: ScannedFeeder, reel: ScannedReel): Fault[] {
	const need = needs.find((n) => n.slot === slot);
	if (!need || !takes(need, reel.part)) {
		const elsewhere = needs.filter((n) => n.slot !== slot && takes(n, reel.part)).map((n) => n.slot);
		if (elsewhere.length)
			return [{ code: 'WRONG_SLOT', words: `${reel.part} is wanted in slot ${elsewhere.join(' and ')}, not in ${slot}.` }];
		if (!need) return [{ code: 'NOT_NEEDED', words: `Slot ${slot} stays empty in this program; ${reel.part} is wanted nowhere.` }];
		if (need.alternates.some((a) => a.part === reel.part))
			return [{ code: 'ALTERNATE_NOT_APPROVED', words: `${reel.part} is listed for ${need.part} but not released for this board.` }];
		return [{ code: 'WRONG_PART', words: `Slot ${slot} wants ${need.part}; this is ${reel.part}.` }];
	}
	const faults: Fault[] = [...tapeFault(feeder, reel)];
	if (faults.length === 0 && feeder.tapeMm !== need.tapeMm)
		faults.push({ code: 'FEEDER_TYPE', words: `Slot ${slot} is for ${need.tapeMm} mm tape, ${feeder.id} is for ${feeder.tapeMm} mm.` });
	else if (faults.length === 0 && feeder.pitchMm !== need.pitchMm)
		faults.push({
			code: 'FEEDER_TYPE',
			words: `${feeder.id} is set to a pitch of ${feeder.pitchMm} mm; ${reel.part} lies ${need.pitchMm} mm apart.`
		});
	const leftH = reel.floorLifeLeftH;
	if (leftH !== null && leftH <= 0)
		faults.push({ code: 'FLOOR_LIFE_EXPIRED', words: `${reel.id} has been in the air too long. Bake it as its bag says.` });
	if (reel.pieces === 0) faults.push({ code: 'EMPTY_REEL', words: `${reel.id} is empty.` });
	if (need.quadrant !== null && reel.quadrant !== null && reel.quadrant !== need.quadrant)
		faults.push({
			code: 'ORIENTATION',
			words: `In ${reel.id} pin 1 lies in quadrant ${reel.quadrant}; the program expects it in ${need.quadrant}: it would be placed turned.`
		});
	if (need.value && reel.measured !== null && offPct(reel.measured, need.value.nominal) > need.value.tolerancePct + 1e-9)
		faults.push({
			code: 'VALUE_CHECK',
			words: `A piece of ${reel.id} measures ${reel.measured}; ${need.value.nominal} ± ${need.value.tolerancePct} % is wanted.`
		});
	if (faults.length) return faults;
	const good: Fault =
		need.part === reel.part
			? { code: 'OK', words: `${reel.part} is right in slot ${slot}.` }
			: { code: 'OK_ALTERNATE', words: `${reel.part} may stand for ${need.part} in slot ${slot}.` };
	return leftH !== null && leftH < runH
		? [
				{
					code: 'FLOOR_LIFE_SHORT',
					words: `${reel.id} may stay in the air for ${leftH.toFixed(1)} h; the run takes ${runH.toFixed(1)} h.`
				},
				good
			]
		: [good];
}

const offPct = (measured: number, nominal: number) => Math.abs(measured / nominal - 1) * 100;

/** A slot that a program takes pieces from, as it stands: its check as it would be answered now; null while nothing was scanned there. */
export interface StandingSlot {
	slot: number;
	check: ScanReply | null;
	/** A reel that the machine has reported since, which nobody scanned. */
	reported: string | null;
	/** One person has scanned it, and the plant asks for a second one. */
	waitsForSecond?: boolean;
}

/** The reel that a machine has taken since a feeder was scanned into its slot; null where it is the one that was scanned.
 * @param load what was reported last for the slot
 */
export const reelTakenSince = (
	feeder: { reel: string | null; dockedMs: number } | null,
	load: { reel: string; loadedMs: number } | null
): string | null => (feeder && load && load.loadedMs > feeder.dockedMs && load.reel !== feeder.reel ? load.reel : null);

/** right: scanned, and it is what the program asks for. wrong: it must not run. open: nobody has scanned what feeds there. */
export type SlotMark = 'right' | 'wrong' | 'open';
export const slotMark = ({ check, waitsForSecond = false }: Pick<StandingSlot, 'check' | 'waitsForSecond'>): SlotMark =>
	check === null || (check.ok && waitsForSecond) ? 'open' : check.ok ? 'right' : 'wrong';

/** Why a slot is open, in a sentence. */
export const openWords = ({ check, reported }: Pick<StandingSlot, 'check' | 'reported'>): string =>
	check?.ok
		? 'One person has scanned it: a second one scans slot and feeder too.'
		: reported === null
			? 'Nobody has scanned what feeds there.'
			: `The machine reports reel ${reported}, which nobody has scanned.`;

/** How the slots that a placer's program needs are to be judged; null while each of them is right for the whole run. */
export function judgeDocked(slots: readonly StandingSlot[]): Verdict | null {
	const of = (mark: SlotMark) => slots.filter((slot) => slotMark(slot) === mark);
	const [wrong, open] = [of('wrong'), of('open')];
	const short = of('right').filter(({ check }) => check!.codes.includes('FLOOR_LIFE_SHORT'));
	const worst = [wrong, open, short].find((some) => some.length > 0);
	const first = worst?.[0];
	if (!worst || !first) return null;
	const words = slotMark(first) === 'open' ? openWords(first) : first.check!.words;
	return {
		level: worst === short ? 'watch' : 'act',
		statement: `Slot ${first.slot}: ${words}${worst.length > 1 ? ` ${worst.length - 1} more.` : ''}`,
		because: [
			{
				quantity: 'Slots right by scan',
				value: of('right').length,
				unit: '',
				limit: `${slots.length}`,
				source: 'common practice: what is scanned is what the program asks for',
				formula: `${slots.length} needed, ${wrong.length} wrong, ${open.length} not scanned`
			}
		],
		doNext: [
			worst === wrong
				? `Take the feeder out of slot ${first.slot} and scan the right one`
				: worst === open
					? first.check?.ok
						? `Let a second person scan slot ${first.slot} and its feeder`
						: `Scan slot ${first.slot}, its feeder and its reel`
					: `Plan another reel for slot ${first.slot}`
		]
	};
}
