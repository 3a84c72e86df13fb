import { InputError } from '../judgement/index.ts';
import { seededRandom, type Random } from '../numerics/index.ts';

export interface FeederNeed {
	id: string;
	/** Picks a panel. */
	picks: number;
	/** Width in slots. */
	slots: number;
}

export interface BankLayout {
	/** First slot of each feeder, by id; slots count from 1. */
	firstSlot: Record<string, number>;
	/** Σ picks · |pick position − camera slot| · pitch, picks·mm a panel. */
	costPickMm: number;
}

/** Where a feeder of `slots` at first slot s is picked: s + (slots − 1)/2. */
export function pickPosition(firstSlot: number, slots: number): number {
	return firstSlot + (slots - 1) / 2;
}

/** Gives each feeder a slot, the busiest near the camera.
 * Starts from Smith's order (picks ÷ slots, falling), which is exactly optimal on one side of the camera, dealt alternately to
 * both sides, and from a few seeded shuffles; then swaps and moves while the cost falls. Best found, not proven.
 * @param needs feeders of one bank
 * @param bank number of slots, pitch mm, slot the camera stands at
 * @throws {InputError} `mismatch` where the feeders need more slots than there are
 */
export function layoutBank(needs: readonly FeederNeed[], bank: { slots: number; pitchMm: number; cameraSlot: number }): BankLayout {
	const total = needs.reduce((sum, need) => sum + need.slots, 0);
	if (total > bank.slots) throw new InputError('mismatch', 'bank.slots', `at least ${total} slots for ${needs.length} feeders`, bank.slots);
	const smith = [...needs].sort((a, b) => b.picks / b.slots - a.picks / a.slots || a.id.localeCompare(b.id));
	const random = seededRandom(needs.length);
	const starts = [smith, dealt(smith), dealt(smith).reverse(), ...Array.from({ length: SHUFFLES }, () => shuffled(smith, random))];
	let best: { order: FeederNeed[]; start: number; cost: number } | null = null;
	for (const start of starts) {
		const found = descend(start, total, bank);
		if (!best || found.cost < best.cost - 1e-9) best = found;
	}
	const firstSlot: Record<string, number> = {};
	let slot = best?.start ?? 1;
	for (const need of best?.order ?? []) {
		firstSlot[need.id] = slot;
		slot += need.slots;
	}
	return { firstSlot, costPickMm: (best?.cost ?? 0) * bank.pitchMm };
}

/** Smith's order dealt to both sides: the second to the left of the first, the third to its right, and so on. */
function dealt(smith: readonly FeederNeed[]): FeederNeed[] {
	const left: FeederNeed[] = [];
	const right: FeederNeed[] = [];
	smith.forEach((need, i) => (i % 2 === 0 ? right : left).push(need));
	return [...left.reverse(), ...right];
}

/** Starts besides Smith's order: enough that small banks are solved, few enough that large ones stay quick. */
const SHUFFLES = 6;

function shuffled(needs: readonly FeederNeed[], random: Random): FeederNeed[] {
	const order = [...needs];
	for (let i = order.length - 1; i > 0; i--) {
		const j = random.integer(i + 1);
		[order[i], order[j]] = [order[j]!, order[i]!];
	}
	return order;
}

interface Bank {
	slots: number;
	cameraSlot: number;
}

/** Where a row of feeders begins best, the leftmost of equal ones. What it costs is convex in where it begins: whoever walks downhill arrives.
 * @param near where the walk begins: what was best for a row like it
 */
function bestStart(order: readonly FeederNeed[], total: number, bank: Bank, near: number): { start: number; cost: number } {
	const costAt = (start: number): number => {
		if (start < 1 || start > bank.slots - total + 1) return Infinity;
		let slot = start;
		let cost = 0;
		for (const need of order) {
			cost += need.picks * Math.abs(pickPosition(slot, need.slots) - bank.cameraSlot);
			slot += need.slots;
		}
		return cost;
	};
	let start = near;
	let cost = costAt(start);
	const walk = (way: 1 | -1, least: number): void => {
		for (let next = costAt(start + way); next < cost + least; next = costAt(start + way)) [start, cost] = [start + way, next];
	};
	walk(1, -1e-9);
	walk(-1, 1e-9);
	return { start, cost };
}

function descend(start: readonly FeederNeed[], total: number, bank: Bank) {
	let order = [...start];
	let best = bestStart(order, total, bank, 1);
	for (let improved = true; improved;) {
		improved = false;
		for (let i = 0; i < order.length; i++)
			for (let j = i + 1; j < order.length; j++) {
				const swapped = [...order];
				[swapped[i], swapped[j]] = [swapped[j]!, swapped[i]!];
				const moved = [...order];
				moved.splice(j, 0, ...moved.splice(i, 1));
				const back = [...order];
				back.splice(i, 0, ...back.splice(j, 1));
				for (const candidate of [swapped, moved, back]) {
					const found = bestStart(candidate, total, bank, best.start);
					if (found.cost < best.cost - 1e-9) {
						order = candidate;
						best = found;
						improved = true;
					}
				}
			}
	}
	return { order, ...best };
}
