import { seededRandom } from '@keen-relay/core/numerics';
import { airAt, airNodes, type Oven, type OvenRecipe } from '@keen-relay/core/reflow';

export interface Thermocouple {
	name: string;
	/** What the board is like there, s: the profiler only feels it. */
	tauS: number;
}

const STEP_S = 0.1;
const SAMPLE_S = 0.5;
/** A thermocouple's own lag, s. */
const BEAD_S = 0.8;

/** A simulated profiler that rides through the oven on a panel and writes a thermocouple log as CSV.
 * Small steps in time with heat from air and from the hot walls, which a closed form does not have; each board differs a little from what was
 * reckoned for it, each bead lags and is noisy. The log starts while the panel waits before the oven.
 */
export function profilerLog(oven: Oven, recipe: OvenRecipe, thermocouples: readonly Thermocouple[], seed: number): string {
	const random = seededRandom(seed);
	const nodes = airNodes(oven, recipe);
	const speedMPerS = recipe.beltCmPerMin / 6000;
	const waitS = 12 + 6 * random.uniform();
	const endM = nodes.at(-1)!.xM + 0.3;
	const state = thermocouples.map(({ tauS }) => ({
		boardC: oven.ambientC,
		beadC: oven.ambientC,
		tauS: tauS * (1 + 0.05 * random.normal()),
		walls: 0.02 + 0.01 * random.uniform()
	}));
	const rows = [['Time (s)', ...thermocouples.map(({ name }) => `"${name.replaceAll('"', '')} (°C)"`)].join(',')];
	const startM = -oven.entryM - 0.3;
	for (let step = 0; ; step++) {
		const timeS = step * STEP_S;
		const xM = startM + Math.max(0, timeS - waitS) * speedMPerS;
		if (xM > endM) break;
		const airC = xM < nodes[0]!.xM ? oven.ambientC : airAt(nodes, xM);
		for (const spot of state) {
			// Radiation gains on convection as the walls get hotter.
			const pull = (1 + spot.walls * ((airC - 150) / 100)) / spot.tauS;
			spot.boardC += STEP_S * pull * (airC - spot.boardC);
			spot.beadC += (STEP_S / BEAD_S) * (spot.boardC - spot.beadC);
		}
		if (step % Math.round(SAMPLE_S / STEP_S) === 0)
			rows.push([timeS.toFixed(1), ...state.map((spot) => (spot.beadC + 0.15 * random.normal()).toFixed(1))].join(','));
	}
	return rows.join('\n') + '\n';
}
