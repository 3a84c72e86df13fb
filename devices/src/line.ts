import { seededRandom } from '@keen-relay/core/numerics';
import { Inspection } from './inspection.ts';
import { Sender, type Sent } from './message.ts';
import { Oven } from './oven.ts';
import { PasteInspection } from './paste-inspection.ts';
import { Placer } from './placer.ts';
import { Printer } from './printer.ts';
import type { Station } from './station.ts';
import type { SimPanel, StationInfo, Work } from './work.ts';

/** A whole simulated line for one run. The same seed, work and steps give the same messages. */
export class Line {
	readonly #stations: Station[] = [];
	#nowMs: number;
	finished = 0;

	constructor(
		lineName: string,
		infos: readonly StationInfo[],
		work: Work,
		seed: number,
		startMs: number,
		bootId: string,
		out: (message: Sent) => void
	) {
		this.#nowMs = startMs;
		infos.forEach((info, i) => {
			const random = seededRandom(seed * 97 + i);
			const sender = new Sender(`${lineName}/${info.name}`, bootId, out);
			const handOn = (panel: SimPanel) => {
				const after = this.#stations[i + 1];
				if (after) after.queue.push(panel);
				else this.finished++;
			};
			const cycleS = info.spec.cycleS ?? 15;
			const machine = work.machines.find((m) => m.name === info.name);
			switch (info.role) {
				case 'print':
					this.#stations.push(new Printer(sender, random, handOn, work, cycleS));
					break;
				case 'pasteCheck':
					this.#stations.push(new PasteInspection(sender, random, handOn, work, cycleS));
					break;
				case 'place':
					this.#stations.push(new Placer(sender, random, handOn, work, machine ?? { name: info.name, cycleS: 5, feeders: [] }, startMs));
					break;
				case 'oven':
					this.#stations.push(new Oven(sender, random, handOn, work, info));
					break;
				default:
					this.#stations.push(new Inspection(sender, random, handOn, work, info.role, cycleS));
			}
		});
	}

	/** Plant time that the simulation has reached, ms. */
	get nowMs(): number {
		return this.#nowMs;
	}

	/** Advances to a plant time in steps of one second. */
	runTo(untilMs: number, printing = true): void {
		while (this.#nowMs + 1000 <= untilMs) {
			this.#nowMs += 1000;
			// Downstream first, so that a panel moves one machine a step.
			for (let i = this.#stations.length - 1; i >= 0; i--) {
				const station = this.#stations[i]!;
				if (i === 0 && !printing && station.empty) continue;
				station.step(1, this.#nowMs, this.#stations[i + 1]?.hasRoom ?? true);
			}
		}
	}

	get empty(): boolean {
		return this.#stations.every((station) => station.empty);
	}
}
