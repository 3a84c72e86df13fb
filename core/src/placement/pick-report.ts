import { InputError, noData, type Verdict } from '../judgement/index.ts';
import { ACT_LOST_SHARE, judgePicks } from './judge.ts';
import { pickCauses, type PickCount } from './pick-errors.ts';

/** Picks of one slot by one nozzle for a panel, those that failed among them. */
export interface NozzlePicks {
	slot: number;
	nozzle: string;
	picks: number;
	lost: number;
}

/** A panel as its placer reported it. */
export interface PlacedPanel {
	placedMs: number;
	/** Picks lost by slot; slots that lost none may be left out. */
	lost: Readonly<Record<string, number>>;
	/** null: the machine does not count by nozzle. */
	nozzles: readonly NozzlePicks[] | null;
}

/** What picks of a slot are told from: what it feeds, and what fed it when. */
export interface FedSlot {
	slot: number;
	partNumber: string;
	perPanel: number;
	feeder: string | null;
	reels: readonly { reel: string; loadedMs: number }[];
	/** When its feeder was last cared for: picks before that are of no account. */
	caredMs?: number | null;
}

export interface PickGroup {
	name: string;
	picks: number;
	lost: number;
	/** Of its picks. */
	share: number;
}

export interface PickReport {
	panels: number;
	picks: number;
	lost: number;
	slots: (PickGroup & { slot: number; partNumber: string; feeder: string | null })[];
	/** Empty where the machine does not count by nozzle. */
	nozzles: PickGroup[];
	/** Reels of the slot that stands out, in the order of loading; empty where none does. */
	reels: PickGroup[];
	/** The strongest one. */
	cause: PickFault | null;
	verdict: Verdict;
}

export interface PickFault {
	/** Where two always went together nobody can tell them apart yet. */
	kind: 'feeder' | 'nozzle' | 'reel' | 'feederOrReel' | 'slotOrNozzle';
	name: string;
	/** null: it is at no slot more than at others. */
	slot: number | null;
	share: number;
	/** Its rate against that of the others. */
	ratio: number;
}

/** Two whose picks are the same to this share cannot be told apart (common practice). */
const TOGETHER = 0.9;

/** Why what a machine counts by nozzle cannot be what it counts by slot; null: it can. */
export function miscounted({ lost, nozzles }: Pick<PlacedPanel, 'lost' | 'nozzles'>): string | null {
	if (!nozzles?.length) return null;
	const bySlot = new Map<number, number>();
	for (const n of nozzles) {
		if (n.lost > n.picks) return `slot ${n.slot}, nozzle ${n.nozzle}: ${n.lost} lost of ${n.picks} picks`;
		bySlot.set(n.slot, (bySlot.get(n.slot) ?? 0) + n.lost);
	}
	for (const slot of new Set([...bySlot.keys(), ...Object.keys(lost).map(Number)])) {
		const [byNozzle, whole] = [bySlot.get(slot) ?? 0, lost[slot] ?? 0];
		if (byNozzle !== whole) return `slot ${slot}: its nozzles lost ${byNozzle} picks, the slot ${whole}`;
	}
	return null;
}

type Row = PickCount & { slot: number; reel: string };
const group = (name: string, rows: readonly PickCount[]): PickGroup => {
	const picks = rows.reduce((sum, r) => sum + r.picks, 0);
	const lost = rows.reduce((sum, r) => sum + r.errors, 0);
	return { name, picks, lost, share: picks === 0 ? 0 : lost / picks };
};

/** The reel that fed a slot at an instant: the latest loaded by then, else the first that is known. */
const reelAt = (reels: FedSlot['reels'], ms: number): string =>
	(reels.filter(({ loadedMs }) => loadedMs <= ms).at(-1) ?? reels[0])?.reel ?? '';

/** When a nozzle was last cared for. */
export type NozzleCare = Readonly<Record<string, number>>;

/** How a placer's picks go in these panels, slot by slot, nozzle by nozzle, and what makes them fail more often than elsewhere: by rate, never by count.
 * @param slots those of its program, reels in the order of loading
 * @param cared nozzles that were cared for: their picks before that are of no account either
 * @throws {InputError} `out-of-range` for more lost than picked
 */
export function pickReport(panels: readonly PlacedPanel[], slots: readonly FedSlot[], cared: NozzleCare = {}): PickReport {
	const rows = new Map<string, Row>();
	const count = (slot: number, reel: string, nozzle: string, picks: number, errors: number) => {
		const key = JSON.stringify([slot, reel, nozzle]);
		const row = rows.get(key) ?? { feeder: String(slot), slot, reel, nozzle, picks: 0, errors: 0 };
		rows.set(key, { ...row, picks: row.picks + picks, errors: row.errors + errors });
	};
	for (const { placedMs, lost, nozzles } of panels)
		for (const { slot, perPanel, reels, caredMs } of slots) {
			if (placedMs < (caredMs ?? -Infinity)) continue;
			const reel = reelAt(reels, placedMs);
			const own = nozzles?.filter((n) => n.slot === slot) ?? [];
			for (const n of own) {
				if (n.lost > n.picks) throw new InputError('out-of-range', `slot ${slot}, nozzle ${n.nozzle}`, `at most ${n.picks} lost`, n.lost);
				if (placedMs >= (cared[n.nozzle] ?? -Infinity)) count(slot, reel, n.nozzle, n.picks, n.lost);
			}
			// A lost pick is tried again: it is one more.
			if (own.length === 0) count(slot, reel, '', perPanel + (lost[slot] ?? 0), lost[slot] ?? 0);
		}
	const all = [...rows.values()];
	const counted = all.filter((row) => row.nozzle !== '');
	const bySlot = slots.map(({ slot, partNumber, feeder }) => ({
		...group(
			`slot ${slot}`,
			all.filter((row) => row.slot === slot)
		),
		slot,
		partNumber,
		feeder
	}));
	const nozzles = [...new Set(counted.map((row) => row.nozzle))]
		.sort((a, b) => a.localeCompare(b, 'en', { numeric: true }))
		.map((name) =>
			group(
				name,
				all.filter((row) => row.nozzle === name)
			)
		);
	const whole = group('', all);
	const [found] = pickCauses(all);
	const worst = found?.kind === 'feeder' ? slots.find(({ slot }) => String(slot) === found.name)! : null;
	const ofWorst = worst ? all.filter((row) => row.slot === worst.slot) : [];
	const reels = [...new Set(worst?.reels.map(({ reel }) => reel) ?? [])]
		.map((name) =>
			group(
				name,
				ofWorst.filter((row) => row.reel === name)
			)
		)
		.filter(({ picks }) => picks > 0);
	const cause = found ? faultOf(found, worst, all, reels) : null;
	return {
		panels: panels.length,
		picks: whole.picks,
		lost: whole.lost,
		slots: bySlot,
		nozzles,
		reels,
		cause,
		verdict: judgeCause(cause, worst, whole, panels.length)
	};
}

/** What always goes with a slot, or a slot with a nozzle: the other one, if nine in ten picks of both are the same. */
function twinOf(all: readonly Row[], of: 'feeder' | 'nozzle', name: string): string | null {
	const other = of === 'feeder' ? 'nozzle' : 'feeder';
	const picksOf = (rows: readonly Row[]) => rows.reduce((sum, r) => sum + r.picks, 0);
	const mine = all.filter((row) => row[of] === name);
	for (const twin of new Set(mine.map((row) => row[other]))) {
		if (twin === '') continue;
		const both = picksOf(mine.filter((row) => row[other] === twin));
		if (both >= TOGETHER * Math.max(picksOf(mine), picksOf(all.filter((row) => row[other] === twin)))) return twin;
	}
	return null;
}

function faultOf(
	{ kind, name, ratio }: { kind: 'feeder' | 'nozzle'; name: string; ratio: number },
	worst: FedSlot | null,
	all: readonly Row[],
	reels: readonly PickGroup[]
): PickFault {
	const twin = twinOf(all, kind, name);
	const share = group(
		'',
		all.filter((row) => row[kind] === name)
	).share;
	if (twin !== null)
		return { kind: 'slotOrNozzle', name: kind === 'nozzle' ? name : twin, slot: Number(kind === 'nozzle' ? twin : name), share, ratio };
	if (!worst) return { kind: 'nozzle', name, slot: null, share, ratio };
	const { slot } = worst;
	const feeder = worst.feeder ?? `in slot ${slot}`;
	if (reels.length < 2) return { kind: 'feederOrReel', name: feeder, slot, share, ratio };
	// Within the slot: does one of its reels fail more often than the others?
	const [reel] = pickCauses(all.filter((row) => row.slot === slot).map((row) => ({ ...row, feeder: row.reel, nozzle: '' })));
	if (reel) return { kind: 'reel', name: reel.name, slot, share: reels.find((r) => r.name === reel.name)!.share, ratio: reel.ratio };
	return { kind: 'feeder', name: feeder, slot, share, ratio };
}

const times = (ratio: number) => (ratio < 10 ? ratio.toFixed(1) : ratio.toFixed(0));

function judgeCause(cause: PickFault | null, worst: FedSlot | null, whole: PickGroup, panels: number): Verdict {
	if (panels === 0 || whole.picks === 0) return noData('Nothing placed in this run yet.');
	// What is picked includes what was lost and tried again; judged is what should have been placed.
	const total = judgePicks({ panels: 1, lost: whole.lost }, whole.picks);
	if (!cause)
		return total.level === 'good'
			? total
			: { ...total, doNext: ['See what all slots share: vacuum, air, the camera, the height of the table'] };
	const { kind, name, slot, share, ratio } = cause;
	const loses = `${(100 * share).toFixed(2)} % of its picks, ${times(ratio)} times as many as the others`;
	const [statement, next] = {
		nozzle: [`Nozzle ${name} loses ${loses}.`, `Clean nozzle ${name}, look at its vacuum and its tip`],
		reel: [`Reel ${name} in slot ${slot} loses ${loses} there.`, `Put another reel of ${worst?.partNumber} on in slot ${slot}`],
		feeder: [
			`Slot ${slot}, feeder ${name}, loses ${loses}, whatever reel is in it.`,
			`See to the feeder in slot ${slot}: pick position, pocket, cover tape, gear`
		],
		slotOrNozzle: [
			`Slot ${slot} and nozzle ${name} go together, and lose ${loses}.`,
			`Take another nozzle for slot ${slot} for two panels: then it shows which`
		],
		feederOrReel: [
			`Slot ${slot} loses ${loses}: its feeder or its reel.`,
			`Move the reel of slot ${slot} to another feeder for two panels: then it shows which`
		]
	}[kind] as [string, string];
	return {
		// A cause that is proven is worth an act where too much is lost by it.
		level: share > ACT_LOST_SHARE ? 'act' : 'watch',
		statement,
		because: [
			{
				quantity: 'Picks lost by it',
				value: 100 * share,
				unit: '%',
				limit: 'at most 0.5 %',
				source: 'common practice: act below 99.5 % good picks',
				formula: `${times(ratio)} × the rate of the others, found by the likelihood of its own rate`
			},
			...total.because
		],
		doNext: [next]
	};
}
