import { Station } from './station.ts';
import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import type { SimPanel, Work } from './work.ts';

/** A simulated paste inspection: measures every pad with its own noise. */
export class PasteInspection extends Station {
	constructor(
		sender: Sender,
		random: Random,
		handOn: (panel: SimPanel) => void,
		private readonly work: Work,
		private readonly baseS: number
	) {
		super(sender, random, handOn);
	}

	protected override cycleS(): number {
		return this.baseS + 0.2 * this.random.normal();
	}

	protected override report(panel: SimPanel, nowMs: number): void {
		const round = (v: number) => Math.round(v * 10) / 10;
		const n = panel.volume.length;
		const [volumePct, heightUm, areaPct, offsetXUm, offsetYUm] = [
			new Array<number>(n),
			new Array<number>(n),
			new Array<number>(n),
			new Array<number>(n),
			new Array<number>(n)
		];
		for (let i = 0; i < n; i++) {
			// Volume divides into a spread of area and height; the instrument adds a percent of its own.
			const v = panel.volume[i]! * (1 + 0.01 * this.random.normal());
			const area = Math.min(1.15, v ** 0.4 * (1 + 0.015 * this.random.normal()));
			areaPct[i] = round(100 * area);
			volumePct[i] = round(100 * v);
			heightUm[i] = round(area > 0 ? (this.work.foilUm * v) / area : 0);
			offsetXUm[i] = Math.round(panel.offset.x + 4 * this.random.normal());
			offsetYUm[i] = Math.round(panel.offset.y + 4 * this.random.normal());
		}
		this.sender.send(nowMs, 'paste_inspection', { panel: panel.serial, volumePct, heightUm, areaPct, offsetXUm, offsetYUm });
	}
}
