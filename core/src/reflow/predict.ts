import { InputError, requireRange } from '../judgement/index.ts';
import { airNodes, type Oven, type OvenRecipe, type TimeConstants } from './oven.ts';

/** A temperature curve: times s from the start, rising; temperatures °C; places m of the leading edge. */
export interface Curve {
	timeS: number[];
	tempC: number[];
	xM: number[];
}

const STEP_S = 0.5;

/** Temperature of a spot on its way through an oven: first order, dT/dt = (air − T)/τ, solved exactly piece by piece.
 * With air A + B·s on a piece, T(s) = A + B(s − τ) + (T0 − A + Bτ)·e^(−s/τ); pieces break at every air node and every border
 * of a time constant, and at least every 0.5 s so that the curve can be drawn and measured.
 * @param startM where it starts, before the entry, m (default: 0.3 m before the entry tunnel)
 * @throws {InputError} `out-of-range` for a time constant or the belt
 * @see the closed form is checked against a single step and a single ramp in checks/reflow.test.ts
 */
export function predictCurve(oven: Oven, recipe: OvenRecipe, tau: TimeConstants, startM = -oven.entryM - 0.3): Curve {
	requireRange('belt', recipe.beltCmPerMin, 1, 1000, 'cm/min');
	if (tau.length === 0) throw new InputError('empty', 'tau', 'at least one time constant', tau);
	for (const { tauS } of tau) requireRange('tauS', tauS, 0.1, 1000, 's');
	const speed = recipe.beltCmPerMin / 6000;
	const nodes = airNodes(oven, recipe);
	const endM = nodes.at(-1)!.xM + 0.1;
	const breaks = [...nodes.map((node) => node.xM), ...tau.map((t) => t.untilM), endM]
		.filter((x) => x > startM && x <= endM)
		.sort((a, b) => a - b);
	const curve: Curve = { timeS: [0], tempC: [oven.ambientC], xM: [startM] };
	let x = startM;
	let t = 0;
	let temp = oven.ambientC;
	let node = 0;
	let group = 0;
	for (const end of breaks) {
		if (end - x < 1e-9) continue;
		while (node < nodes.length && nodes[node]!.xM <= x + 1e-9) node++;
		while (group < tau.length - 1 && tau[group]!.untilM <= x + 1e-9) group++;
		const left = nodes[node - 1];
		const right = nodes[node];
		const slopePerM = left && right ? (right.airC - left.airC) / (right.xM - left.xM) : 0;
		const airHere = left ? left.airC + slopePerM * (x - left.xM) : nodes[0]!.airC;
		const tauS = tau[group]!.tauS;
		const b = slopePerM * speed;
		const duration = (end - x) / speed;
		const start = temp;
		const n = Math.max(1, Math.ceil(duration / STEP_S));
		for (let i = 1; i <= n; i++) {
			const s = (duration * i) / n;
			temp = airHere + b * (s - tauS) + (start - airHere + b * tauS) * Math.exp(-s / tauS);
			curve.timeS.push(t + s);
			curve.tempC.push(temp);
			curve.xM.push(x + speed * s);
		}
		t += duration;
		x = end;
	}
	return curve;
}
