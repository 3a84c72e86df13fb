import { seededRandom } from '@keen-relay/core/numerics';
import { Sender, type Sent } from './message.ts';

export interface SensorInfo {
	name: string;
	kind: 'fridge' | 'room' | 'store' | 'cabinet';
	everyMin: number;
}

/** A door left open: the air inside drifts to the room's. */
export interface SensorTrouble {
	fromMs: number;
	toMs: number;
	toC: number;
}

const AIR = {
	fridge: { c: 5.2, swing: 0.7, rh: null },
	room: { c: 23.6, swing: 0.8, rh: 49 },
	store: { c: 22, swing: 1.2, rh: 45 },
	cabinet: { c: 24, swing: 0.4, rh: 4 }
} as const;

/** A simulated temperature and humidity sensor: a fridge follows its compressor, a room the day. */
export class Sensor {
	readonly #sender: Sender;
	readonly #random;
	readonly #phase: number;
	#nextMs: number;

	constructor(
		private readonly info: SensorInfo,
		seed: number,
		startMs: number,
		bootId: string,
		out: (message: Sent) => void,
		private readonly troubles: readonly SensorTrouble[] = []
	) {
		this.#sender = new Sender(`Sensors/${info.name}`, bootId, out);
		this.#random = seededRandom(seed);
		this.#phase = this.#random.uniform();
		this.#nextMs = startMs;
	}

	/** Reports every reading that has fallen due by then. */
	runTo(nowMs: number): void {
		for (; this.#nextMs <= nowMs; this.#nextMs += this.info.everyMin * 60_000) {
			const at = this.#nextMs;
			const { c, swing, rh } = AIR[this.info.kind];
			const period = this.info.kind === 'fridge' ? 35 * 60_000 : 24 * 3_600_000;
			const wave = Math.sin(2 * Math.PI * (at / period + this.#phase));
			let temperatureC = c + swing * wave + 0.08 * this.#random.normal();
			for (const t of this.troubles) {
				const near = at < t.fromMs ? 0 : at <= t.toMs ? 1 - Math.exp(-(at - t.fromMs) / 600_000) : Math.exp(-(at - t.toMs) / 900_000);
				if (near > 0.02) temperatureC += near * (t.toC - c);
			}
			this.#sender.send(at, 'sensor_reading', {
				temperatureC: Math.round(temperatureC * 100) / 100,
				...(rh === null ? {} : { rhPct: Math.round(10 * Math.min(99, Math.max(1, rh - 3 * wave + this.#random.normal()))) / 10 })
			});
		}
	}
}
