import { InputError, requireRange } from '../judgement/index.ts';

/** How soon a part takes up so much water that it bursts in the oven. */
export const MOISTURE_LEVELS = ['1', '2', '2a', '3', '4', '5', '5a', '6'] as const;
export type MoistureLevel = (typeof MOISTURE_LEVELS)[number];

/** Hours in air of at most 30 °C and 60 % RH; null: without end; level 6 has what its label says, after a bake.
 * @see J-STD-020 (values from memory)
 */
export const FLOOR_LIFE_H: Record<Exclude<MoistureLevel, '6'>, number | null> = {
	'1': null,
	'2': 8760,
	'2a': 672,
	'3': 168,
	'4': 72,
	'5': 48,
	'5a': 24
};

/** What a reel or tray went through, one after the other. */
export type MoistureStay =
	| { where: 'air'; hours: number }
	/** As dry as it was at its wettest. */
	| { where: 'cabinet'; hours: number; rhPct: number }
	/** `cardPct`: what its humidity card read when it was opened again; null: nobody looked, or the desiccant was not fresh. */
	| { where: 'bag'; hours: number; cardPct: number | null }
	/** A whole bake, as long as it needs. */
	| { where: 'bake'; hours: number };

/** Levels that stand more air are kept in 10 % RH, the others in 5 %; and by how much dry time a short stay in air is undone.
 * @see J-STD-033 (values from memory; the safe reading)
 */
const DRY = {
	easy: { rhPct: 10, resetWithinH: 12, times: 5 },
	strict: { rhPct: 5, resetWithinH: 8, times: 10 }
} as const;
const dryFor = (level: MoistureLevel) => (level === '2' || level === '2a' || level === '3' ? DRY.easy : DRY.strict);
const CARD_PCT = 10;

export interface FloorLife {
	/** Hours that count since the last reset. */
	usedH: number;
	/** Hours that are left in air; null: without end. */
	leftH: number | null;
	/** Used up: only a bake resets it. */
	expired: boolean;
}

/** The clock of a moisture-sensitive part: it runs in air, stands in dry air and in a good bag, and is set back by a bake, or by long dry air after a short stay.
 * @param labelH what the label of a level 6 part gives after a bake, h
 * @throws {InputError} `out-of-range` for hours or humidity that cannot be
 * @example floorLife('3', [{ where: 'air', hours: 11 }, { where: 'cabinet', hours: 55, rhPct: 8 }, { where: 'air', hours: 100 }]) // => { usedH: 100, leftH: 68, expired: false }
 */
export function floorLife(level: MoistureLevel, stays: readonly MoistureStay[], labelH: number | null = null): FloorLife {
	stays.forEach((stay, i) => {
		requireRange(`stays.${i}.hours`, stay.hours, 0, 1e6, 'h');
		if (stay.where === 'cabinet') requireRange(`stays.${i}.rhPct`, stay.rhPct, 0, 100, '%');
		if (stay.where === 'bag' && stay.cardPct !== null) requireRange(`stays.${i}.cardPct`, stay.cardPct, 0, 100, '%');
	});
	if (level === '6' && !(labelH !== null && labelH > 0))
		throw new InputError('out-of-range', 'labelH', 'the hours on the label, above 0', labelH);
	const lifeH = level === '6' ? labelH : FLOOR_LIFE_H[level];
	if (lifeH === null) return { usedH: 0, leftH: null, expired: false };
	const dry = dryFor(level);
	// Level 6 begins wet: it has no life before its first bake.
	let usedH = level === '6' ? lifeH : 0;
	let dryH = 0;
	for (const stay of stays) {
		if (stay.where === 'bake') [usedH, dryH] = [0, 0];
		else if (stay.where === 'bag' && stay.cardPct !== null && stay.cardPct <= CARD_PCT) continue;
		else if (stay.where === 'cabinet' && stay.rhPct <= dry.rhPct) {
			dryH += stay.hours;
			if (usedH > 0 && usedH <= Math.min(dry.resetWithinH, lifeH) && dryH >= dry.times * usedH && level !== '6') [usedH, dryH] = [0, 0];
		} else {
			usedH += stay.hours;
			dryH = 0;
		}
	}
	return { usedH, leftH: Math.max(0, lifeH - usedH), expired: usedH > lifeH || (level === '6' && usedH >= lifeH) };
}

/** Hours at 125 °C, by body thickness and level: over floor life by more than 72 h, and by 72 h at most.
 * @see J-STD-033, table of bake times (values from memory: verify them before use)
 */
const BAKE_H: Record<'thin' | 'middle', Partial<Record<MoistureLevel, readonly [number, number]>>> = {
	thin: { '2': [5, 3], '2a': [7, 5], '3': [9, 7], '4': [11, 7], '5': [12, 7], '5a': [16, 10] },
	middle: { '2': [18, 15], '2a': [21, 16], '3': [27, 17], '4': [34, 20], '5': [40, 25], '5a': [48, 40] }
};
const THICK_H = 48;

/** The thickest body that the table has, mm. */
export const THICKEST_BODY_MM = 4.5;

/** How long a part is baked at 125 °C; null for one that is never baked. Reels and tubes mostly do not stand it: their label says.
 * @param bodyMm thickness, up to 4.5 mm
 * @param overH hours past its floor life
 */
export function bakeHours(level: MoistureLevel, bodyMm: number, overH: number): number | null {
	requireRange('bodyMm', bodyMm, 0.1, THICKEST_BODY_MM, 'mm');
	requireRange('overH', overH, 0, 1e6, 'h');
	if (level === '1' || level === '6') return null;
	if (bodyMm > 2) return THICK_H;
	return BAKE_H[bodyMm <= 1.4 ? 'thin' : 'middle'][level]![overH > 72 ? 0 : 1];
}
