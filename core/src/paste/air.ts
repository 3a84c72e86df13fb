import { requireRange } from '../judgement/index.ts';

/** Dew point, °C, by the Magnus formula: g = ln(RH/100) + a·T/(b+T), Td = b·g/(a−g).
 * @param airC −10 to 50 °C; @param rhPct 1 to 100 %
 * @throws {InputError} `out-of-range`, naming the field
 * @see WMO form, a = 17.62, b = 243.12 °C (values from memory)
 * @example dewPointC(25, 55) // => 15.33
 */
export function dewPointC(airC: number, rhPct: number): number {
	requireRange('airC', airC, -10, 50, '°C');
	requireRange('rhPct', rhPct, 1, 100, '% RH');
	const [a, b] = [17.62, 243.12];
	const g = Math.log(rhPct / 100) + (a * airC) / (b + airC);
	return (b * g) / (a - g);
}

/** Paste colder than this draws water from the air when it is opened: dew point + 3 °C (margin: common practice). */
export function safeOpeningC(airC: number, rhPct: number): number {
	return dewPointC(airC, rhPct) + 3;
}

/** Time constant of a 500 g jar in still air, h: our model, to be fitted with one thermometer and one jar. */
export const JAR_TAU_H = 1;

/** Temperature of a jar that warms by itself: T = Ta − (Ta − T₀)·e^(−t/τ), our model. */
export function jarC(startC: number, airC: number, hours: number, tauH = JAR_TAU_H): number {
	return airC - (airC - startC) * Math.exp(-Math.max(0, hours) / tauH);
}

export interface WarmUp {
	/** Hours until the paste has that temperature; null: this air never gets it there. */
	physicsH: number | null;
	/** The later of the two: the rule and the physics; null where it never gets there. */
	gateH: number | null;
	statement: string;
}

/** Hours that a jar has to stand: the later of the rule and the physics; null where this air never warms it. */
export function warmUpGateH(startC: number, airC: number, toC: number, ruleH: number, tauH = JAR_TAU_H): number | null {
	if (startC >= toC) return ruleH;
	return toC >= airC ? null : Math.max(ruleH, tauH * Math.log((airC - startC) / (airC - toC)));
}

/** How long a jar has to stand before it may be opened.
 * @param startC paste as it leaves the fridge; @param airC where it stands; @param toC needed
 * @example warmUp(5, 23, 20).physicsH // => 1.79
 */
export function warmUp(startC: number, airC: number, toC: number, ruleH = 4, tauH = JAR_TAU_H): WarmUp {
	requireRange('startC', startC, -10, 50, '°C');
	requireRange('airC', airC, -10, 50, '°C');
	if (startC >= toC)
		return { physicsH: 0, gateH: ruleH, statement: `Warm enough already; the rule asks for ${ruleH} h out of the fridge.` };
	if (toC >= airC)
		return {
			physicsH: null,
			gateH: null,
			statement: `Air of ${airC} °C never brings it to ${toC} °C. Let it stand in a warmer room; never force it.`
		};
	const physicsH = tauH * Math.log((airC - startC) / (airC - toC));
	const gateH = Math.max(ruleH, physicsH);
	return { physicsH, gateH, statement: `${toC} °C after ${physicsH.toFixed(2)} h; may be opened after ${gateH.toFixed(2)} h.` };
}
