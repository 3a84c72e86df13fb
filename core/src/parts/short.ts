import { noData, requireRange, type Level, type Verdict } from '../judgement/index.ts';

/** Pieces that a job still asks for. */
export interface PartNeed {
	partNumber: string;
	/** To be placed, >= 0. */
	pieces: number;
	/** First day of the week in which it is built, "2026-11-30"; null: it has no time yet. */
	week: string | null;
	customer: string;
}

/** Pieces that lie here. */
export interface PartStock {
	partNumber: string;
	pieces: number;
	/** Whose they are; null: the plant's own. */
	owner: string | null;
	/** Blocked, or over their floor life: they cannot be placed as they are. */
	blocked: boolean;
}

export interface ShortPart {
	partNumber: string;
	/** Picks by week, lost ones among them. */
	weeks: Record<string, number>;
	/** Picks of jobs that have no time yet. */
	undated: number;
	needed: number;
	/** Pieces that these jobs may use. */
	usable: number;
	blocked: number;
	short: number;
	/** The week in which the first piece is missing; null: nothing is, or it is missing of a job without a time. */
	firstWeek: string | null;
}

/** Of what is picked so much is lost (chips 0.3 to 1 %, common practice). */
export const PLANNED_LOSS_SHARE = 0.005;

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Picks by week of use against what lies here, part by part: what runs short first comes first. A customer's own parts serve that customer's boards alone; they are
 * used before the plant's.
 * @param lossShare share of picks lost
 * @throws {InputError} `out-of-range`
 */
export function shortParts(needs: readonly PartNeed[], stock: readonly PartStock[], lossShare = PLANNED_LOSS_SHARE): ShortPart[] {
	requireRange('lossShare', lossShare, 0, 0.5);
	needs.forEach(({ pieces }, i) => requireRange(`needs.${i}.pieces`, pieces, 0, 1e9));
	const byPart = new Map<string, PartNeed[]>();
	for (const need of needs) byPart.set(need.partNumber, [...(byPart.get(need.partNumber) ?? []), need]);
	return [...byPart]
		.map(([partNumber, all]) =>
			onePart(
				partNumber,
				all,
				stock.filter((s) => s.partNumber === partNumber),
				lossShare
			)
		)
		.sort(
			(a, b) =>
				Number(b.short > 0) - Number(a.short > 0) ||
				(a.firstWeek ?? '9999').localeCompare(b.firstWeek ?? '9999') ||
				b.short - a.short ||
				a.partNumber.localeCompare(b.partNumber, 'en', { numeric: true })
		);
}

function onePart(partNumber: string, needs: readonly PartNeed[], stock: readonly PartStock[], lossShare: number): ShortPart {
	const inTurn = [...needs].sort((a, b) => (a.week ?? '9999').localeCompare(b.week ?? '9999'));
	const mayUse = (s: PartStock) => s.owner === null || needs.some((need) => same(need.customer, s.owner!));
	const left = stock.filter((s) => !s.blocked).map((s) => ({ ...s }));
	const part: ShortPart = {
		partNumber,
		weeks: {},
		undated: 0,
		needed: 0,
		usable: left.filter(mayUse).reduce((sum, s) => sum + s.pieces, 0),
		blocked: stock.filter((s) => s.blocked && mayUse(s)).reduce((sum, s) => sum + s.pieces, 0),
		short: 0,
		firstWeek: null
	};
	for (const { pieces, week, customer } of inTurn) {
		const picks = Math.ceil(pieces / (1 - lossShare) - 1e-9);
		part.needed += picks;
		if (week === null) part.undated += picks;
		else part.weeks[week] = (part.weeks[week] ?? 0) + picks;
		let missing = picks;
		const own = left.filter((s) => s.owner !== null && same(s.owner, customer));
		for (const from of [...own, ...left.filter((s) => s.owner === null)]) {
			const taken = Math.min(missing, from.pieces);
			from.pieces -= taken;
			missing -= taken;
		}
		if (missing > 0 && part.short === 0) part.firstWeek = week;
		part.short += missing;
	}
	return part;
}

/** Pieces by part that some panels take: one of each fitted place in every circuit.
 * @param panels still to be placed; below none is none
 */
export function piecesOfPanels(
	parts: readonly { partNumber: string; fitted: boolean }[],
	circuits: number,
	panels: number
): { partNumber: string; pieces: number }[] {
	const each = Math.max(0, panels) * circuits;
	const pieces = new Map<string, number>();
	if (each > 0) for (const { partNumber, fitted } of parts) if (fitted) pieces.set(partNumber, (pieces.get(partNumber) ?? 0) + each);
	return [...pieces].map(([partNumber, count]) => ({ partNumber, pieces: count }));
}

/** What is missing this week has to be acted on, what is missing later watched. */
export const shortLevel = ({ short, firstWeek }: Pick<ShortPart, 'short' | 'firstWeek'>, thisWeek: string): Level =>
	short === 0 ? 'good' : firstWeek !== null && firstWeek <= thisWeek ? 'act' : 'watch';

/** @param thisWeek first day of the week that is now; @param sayWeek how a week is said */
export function judgeShort(parts: readonly ShortPart[], thisWeek: string, sayWeek: (week: string) => string = (week) => week): Verdict {
	if (parts.length === 0) return noData('No job is open: nothing is needed.', ['Enter a job']);
	const short = parts.filter((part) => part.short > 0);
	const [first] = short;
	if (!first) return { level: 'good', statement: `All parts of the open jobs lie here: ${parts.length}.`, because: [], doNext: [] };
	const level = shortLevel(first, thisWeek);
	const when = first.firstWeek === null ? 'of a job without a time' : level === 'act' ? 'this week' : `from ${sayWeek(first.firstWeek)}`;
	return {
		level,
		statement: `${short.length === 1 ? '1 part runs' : `${short.length} parts run`} short, ${first.partNumber} first: ${first.short} pieces ${when}.`,
		because: [
			{
				quantity: `${first.partNumber} short`,
				value: first.short,
				unit: 'pieces',
				limit: null,
				source: 'open jobs against counted reels',
				formula: `${first.needed} picks needed, ${first.usable} pieces usable`
			}
		],
		doNext: [
			first.blocked >= first.short
				? `See whether the blocked pieces of ${first.partNumber} can be freed`
				: `Fetch ${first.short} pieces of ${first.partNumber}`
		]
	};
}
