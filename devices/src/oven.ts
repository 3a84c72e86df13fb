import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import { Station } from './station.ts';
import type { SimPanel, StationInfo, Trouble, Work } from './work.ts';

/** A simulated oven: a belt that holds many panels, each out when its time is up; the next one in after a headway. */
export class Oven extends Station {
	readonly #inside: { panel: SimPanel; enteredMs: number; leftS: number }[] = [];
	#headwayS = 0;
	readonly #zoneDrift: number[];

	constructor(
		sender: Sender,
		random: Random,
		private readonly handOut: (panel: SimPanel) => void,
		private readonly work: Work,
		private readonly info: StationInfo,
		troubles: readonly Trouble[]
	) {
		super(sender, random, handOut, troubles);
		this.#zoneDrift = work.recipe.setC.map(() => 0.4 * random.normal());
	}

	private get speedMmS(): number {
		return (this.work.recipe.beltCmPerMin * 10) / 60;
	}

	override get empty(): boolean {
		return this.queue.length === 0 && this.#inside.length === 0;
	}

	override step(dtS: number, nowMs: number): void {
		this.#headwayS -= dtS;
		const oven = this.info.spec.oven!;
		const lengthMm = 1000 * (oven.entryM + oven.zoneM.reduce((a, b) => a + b, 0) + oven.cooling.reduce((a, c) => a + c.lengthM, 0));
		if (this.queue.length && this.#headwayS <= 0) {
			const panel = this.queue.shift()!;
			this.setState(nowMs, 'running');
			this.#headwayS = (this.work.panel.widthMm + (this.info.spec.gapMm ?? 60)) / this.speedMmS;
			this.#inside.push({ panel, enteredMs: nowMs, leftS: (lengthMm + this.work.panel.widthMm) / this.speedMmS });
		}
		if (this.empty) this.setState(nowMs, 'waiting');
		for (const entry of this.#inside) entry.leftS -= dtS;
		while (this.#inside[0] && this.#inside[0].leftS <= 0) {
			const { panel, enteredMs } = this.#inside.shift()!;
			this.report(panel, nowMs, (nowMs - enteredMs) / 1000);
			this.handOut(panel);
		}
	}

	protected override cycleS(): number {
		return 0;
	}

	protected override report(panel: SimPanel, nowMs: number, cycleS: number): void {
		// A blower that tires: the zone before the hottest falls behind its set-point.
		const low = this.trouble('zoneLow', nowMs);
		const tired = this.work.recipe.setC.length - 2;
		this.sender.send(nowMs, 'oven_pass', {
			panel: panel.serial,
			enteredAt: new Date(nowMs - cycleS * 1000).toISOString(),
			zoneC: this.work.recipe.setC.map(
				(c, i) => Math.round((c - (i === tired ? 9 * low : 0) + this.#zoneDrift[i]! + 0.3 * this.random.normal()) * 10) / 10
			),
			beltCmPerMin: this.work.recipe.beltCmPerMin
		});
	}
}
