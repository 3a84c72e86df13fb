import { medianInPlace } from '../../numerics/index.ts';
import { bridgesOf } from './bridges.ts';
import { blockedPads, nickedStrips, unsupportedPlaces } from './local.ts';
import { fitOffsets } from './offsets.ts';
import { fitFactors, fitTilt } from './regress.ts';
import type { Prepared } from './run.ts';
import type { SignatureThresholds } from './thresholds.ts';

/** Shorter side from which a deposit counts as large, mm. */
export const LARGE_MM = 1;

/** What the causes of a run are read from: each fit is made once, when the first cause asks for it. */
export class Facts {
	constructor(
		readonly p: Prepared,
		readonly th: SignatureThresholds
	) {}

	/** Offsets of each panel. */
	get offsets() {
		return this.#once('offsets', () => fitOffsets(this.p));
	}

	/** Panel medians on stroke, wipe, time, top-up and pause: all pads. */
	get all() {
		return this.#once('all', () => fitFactors(this.p.pa, this.p.run.panels));
	}

	/** The same of the small openings. */
	get small() {
		return this.#once('small', () => fitFactors(this.p.ps, this.p.run.panels));
	}

	/** Wipes in the run. */
	get wipes() {
		const { panels } = this.p.run;
		return panels.filter((m, i) => i > 0 && m.printsSinceWipe <= panels[i - 1]!.printsSinceWipe).length;
	}

	get blocked() {
		return this.#once('blocked', () => blockedPads(this.p, this.th.blockedLp));
	}

	get high() {
		return this.#once('high', () => unsupportedPlaces(this.p, this.strips, this.th.supportLp, this.th.leastT));
	}

	get strips() {
		return this.#once('strips', () => nickedStrips(this.p, this.th.nickLp, this.th.leastT));
	}

	/** Slopes over the board, without the pads that a local cause explains. */
	get tilt() {
		return this.#once('tilt', () => {
			const local = [...this.blocked.map((b) => b.pad), ...this.high.flatMap((h) => h.pads), ...this.strips.flatMap((s) => s.pads)];
			return fitTilt(this.p, new Set(local)) ?? fitTilt(this.p);
		});
	}

	/** Height, area and volume of the whole print as shares of what is expected; heights of large deposits and of the others. */
	get levels() {
		return this.#once('levels', () => {
			const { p } = this;
			const scratch = new Float64Array(p.run.pads.length);
			const middle = (values: Float64Array, keep: (pad: number) => boolean = () => true) => {
				let n = 0;
				for (let i = 0; i < values.length; i++) if (keep(i) && Number.isFinite(values[i]!)) scratch[n++] = values[i]!;
				return { value: medianInPlace(scratch, n), n };
			};
			const large = (pad: number) => p.run.pads[pad]!.minSideMm >= LARGE_MM;
			return {
				height: middle(p.hr).value,
				area: middle(p.ar).value,
				volume: Math.exp(middle(p.md).value / 100),
				large: middle(p.hr, large),
				others: middle(p.hr, (pad) => !large(pad))
			};
		});
	}

	/** Bridges, where there are enough of them to ask why. */
	get bridges() {
		return this.#once('bridges', () => bridgesOf(this.p.run, this.th));
	}

	readonly #made = new Map<string, unknown>();

	#once<T>(name: string, make: () => T): T {
		if (!this.#made.has(name)) this.#made.set(name, make());
		return this.#made.get(name) as T;
	}
}
