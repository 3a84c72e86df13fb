import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import { Station } from './station.ts';
import type { SimPanel, Trouble, Work } from './work.ts';

const WIPE_EVERY = 10;
const WIPE_S = 9;

/** A simulated printer: front and rear strokes in turn, a wipe every ten prints, small openings that fill up between wipes. */
export class Printer extends Station {
	#made: number;
	/** Panels that come for their second side; the printer opens new ones where there are none. */
	readonly #serials: string[] | null;
	readonly #seen = new Set<string>();
	panels: number;
	#sinceWipe = 0;
	/** How each opening differs from its neighbours for good, share. */
	readonly #padBias: Float64Array;
	readonly #release: Float64Array;
	/** Paste gets a little stiffer through a run. */
	#ageing = 0;

	constructor(
		sender: Sender,
		random: Random,
		handOn: (panel: SimPanel) => void,
		private readonly work: Work,
		private readonly baseS: number,
		troubles: readonly Trouble[]
	) {
		super(sender, random, handOn, troubles);
		this.#made = work.printed;
		this.panels = work.panels;
		this.#serials = work.serials && [];
		this.bring(work.serials ?? []);
		this.#padBias = Float64Array.from({ length: work.pads.length * work.circuits }, () => 0.035 * random.normal());
		// Walls hold back what the opening's area cannot pull out: a smooth loss with the wall's share, drawn apart for each opening.
		this.#release = Float64Array.from(work.pads, (pad) => {
			const wall = (pad.perimeterMm * work.foilUm) / 1000 / pad.areaMm2;
			return 1 / (1 + (0.42 * wall) ** 5.5) - 0.01 * Math.abs(random.normal());
		});
	}

	/** Panels that have come off the first side since. */
	bring(serials: readonly string[]): void {
		for (const serial of serials) {
			if (!this.#serials || this.#seen.has(serial)) continue;
			this.#seen.add(serial);
			this.#serials.push(serial);
		}
	}

	protected override next(): SimPanel | undefined {
		const serial = this.#serials ? this.#serials.shift() : this.#made < this.panels ? this.#newSerial() : undefined;
		if (serial === undefined) return undefined;
		this.#made++;
		return {
			serial,
			volume: new Float64Array(0),
			offset: { x: 0, y: 0 },
			stroke: this.#made % 2 ? 'F' : 'R',
			printsSinceWipe: 0
		};
	}

	#newSerial(): string {
		return `${this.work.job}-${String(this.#made + 1).padStart(4, '0')}`;
	}

	protected override breaks(nowMs: number, dtS: number) {
		// A wipe that meets its paper's end, or a squeegee that has to be topped up: short and now and then.
		return this.random.chance(dtS / 9000)
			? { seconds: 45 + 60 * this.random.uniform(), reason: 'wipe paper or paste' }
			: super.breaks(nowMs, dtS);
	}

	protected override cycleS(): number {
		return this.baseS + 0.4 * this.random.normal() + (this.#sinceWipe >= WIPE_EVERY ? WIPE_S : 0);
	}

	protected override report(panel: SimPanel, nowMs: number, cycleS: number): void {
		if (this.#sinceWipe >= WIPE_EVERY) this.#sinceWipe = 0;
		panel.printsSinceWipe = this.#sinceWipe;
		this.#sinceWipe++;
		this.#ageing += 0.00004;
		panel.offset = { x: 4 + 5 * this.random.normal(), y: -3 + 5 * this.random.normal() };
		panel.volume = this.deposit(panel, this.trouble('dryPaste', nowMs));
		this.sender.send(nowMs, 'print', {
			runId: this.work.runId,
			panel: panel.serial,
			stroke: panel.stroke,
			printsSinceWipe: panel.printsSinceWipe,
			cycleS: Math.round(cycleS * 100) / 100
		});
	}

	/** Volumes by pad; stiff paste lets go of small openings less and spreads them more. */
	deposit(panel: Pick<SimPanel, 'stroke' | 'printsSinceWipe'>, dry = 0): Float64Array {
		const { pads, circuits } = this.work;
		const whole = 0.02 * this.random.normal() + (panel.stroke === 'F' ? 0.006 : -0.006) - this.#ageing;
		const volume = new Float64Array(pads.length * circuits);
		for (let i = 0; i < volume.length; i++) {
			const release = this.#release[i % pads.length]!;
			const clog = (0.006 * panel.printsSinceWipe + 0.22 * dry) * (1 - release) + 0.05 * dry;
			let v = (release - clog) * Math.exp(whole + this.#padBias[i]! + (0.03 + 0.16 * (1 - release)) * this.random.normal());
			// Now and then an opening does not let go.
			if (this.random.chance(1.2e-5 * (1 + 12 * (1 - release)) * (1 + 60 * dry))) v *= 0.35 * this.random.uniform();
			volume[i] = Math.max(0, v);
		}
		return volume;
	}
}
