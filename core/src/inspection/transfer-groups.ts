import { mean } from '../numerics/index.ts';
import { boardSideAreaMm2, type TransferGroup } from '../stencil/index.ts';
import type { SignatureRun } from './causes/index.ts';
import type { PanelPad } from './panel-pads.ts';

export type MeasuredGroup = TransferGroup & { shape: string };

/** Mean efficiency by shape and area ratio (to 0.01) of the openings in a run's readings: what the transfer curve is fitted to.
 * @param taperUm how much wider the openings are at the board side; null where it is not known
 */
export function transferGroups(
	run: Pick<SignatureRun, 'panels' | 'volumePct'> & { pads: readonly PanelPad[] },
	taperUm: number | null
): MeasuredGroup[] {
	const n = run.pads.length;
	const groups = new Map<string, { shape: string; areaRatio: number[]; volumes: number[]; pads: number }>();
	run.pads.forEach((pad, p) => {
		const key = `${pad.shape} ${pad.areaRatio.toFixed(2)}`;
		const g = groups.get(key) ?? { shape: pad.shape, areaRatio: [], volumes: [], pads: 0 };
		groups.set(key, g);
		g.areaRatio.push(pad.areaRatio);
		g.pads++;
		// What a unit calls 100 % is the opening as it was drawn; what the stencil holds is more where its walls taper.
		const held = taperUm ? (1 + boardSideAreaMm2(pad, taperUm) / pad.areaMm2) / 2 : 1;
		for (let m = 0; m < run.panels.length; m++) {
			const v = run.volumePct[m * n + p]!;
			if (v === v) g.volumes.push(v / 100 / held);
		}
	});
	return [...groups.values()]
		.filter((g) => g.volumes.length > 0)
		.map((g) => ({ shape: g.shape, areaRatio: mean(g.areaRatio), efficiency: mean(g.volumes), pads: g.pads }))
		.sort((a, b) => a.areaRatio - b.areaRatio);
}
