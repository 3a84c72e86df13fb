import { measureDeposits } from './print-physics.ts';
import { Station } from './station.ts';
import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import type { PadClass } from '@keen-relay/core/parts';
import { judgeDeposit } from '@keen-relay/core/inspection';
import type { SimPanel, Trouble, Work } from './work.ts';

/** A simulated paste inspection: measures every pad with its own noise. */
export class PasteInspection extends Station {
	#panels = 0;

	constructor(
		sender: Sender,
		random: Random,
		handOn: (panel: SimPanel) => void,
		private readonly work: Work,
		private readonly baseS: number,
		troubles: readonly Trouble[],
		/** Whether every pad is reported, or only what the machine makes of them. */
		private readonly raw: boolean,
		private readonly gauge?: { panel: number; times: number }
	) {
		super(sender, random, handOn, troubles);
	}

	protected override cycleS(): number {
		return this.baseS + 0.2 * this.random.normal();
	}

	protected override report(panel: SimPanel, nowMs: number): void {
		if (!panel.deposits) return;
		const times = ++this.#panels === this.gauge?.panel ? this.gauge.times : 1;
		for (let attempt = 1; attempt <= times; attempt++) this.#measure(panel, nowMs, attempt);
	}

	#measure(panel: SimPanel, nowMs: number, inspectionAttempt: number): void {
		if (!panel.deposits) return;
		const wrong = this.trouble('measurement', nowMs);
		const { bridges, peakHeightUm, ...readings } = measureDeposits(
			panel.deposits,
			this.work.foilUm,
			this.random,
			wrong > 0 ? [{ kind: 'measurement', strength: wrong }] : []
		);
		if (!this.raw) return this.summarise(panel, nowMs, readings);
		// Which pads bridge is the unit's to say: it sees two deposits where one should end.
		const bridged = Array.from({ length: bridges }, () => this.random.integer(readings.volumePct.length));
		this.sender.send(nowMs, 'paste_inspection', {
			panel: panel.serial,
			...(panel.printAttempt ? { printAttempt: panel.printAttempt } : {}),
			...(inspectionAttempt > 1 ? { inspectionAttempt } : {}),
			...readings,
			...(peakHeightUm ? { peakHeightUm } : {}),
			...(bridged.length ? { bridgedPads: [...new Set(bridged)] } : {})
		});
	}

	/** What a unit sends that keeps its readings to itself: sums by pad class, and the worst pads. */
	private summarise(
		panel: SimPanel,
		nowMs: number,
		r: Record<'volumePct' | 'heightUm' | 'areaPct' | 'offsetXUm' | 'offsetYUm', number[]>
	): void {
		const sums = new Map<string, { padClass: string; pads: number; fails: number; warnings: number; sum: number; squares: number }>();
		const worst: { pad: number; code: string; volumePct: number }[] = [];
		const { pads, foilUm } = this.work;
		r.volumePct.forEach((volumePct, i) => {
			const pad = pads[i % pads.length]!;
			const side = Math.sqrt(pad.areaMm2);
			const { codes, warn } = judgeDeposit(
				pad.padClass as PadClass,
				{ xMm: side, yMm: side },
				{
					volumePct,
					heightPct: (r.heightUm[i]! / foilUm) * 100,
					areaPct: r.areaPct[i]!,
					offsetXUm: r.offsetXUm[i]!,
					offsetYUm: r.offsetYUm[i]!
				}
			);
			const c = sums.get(pad.padClass) ?? { padClass: pad.padClass, pads: 0, fails: 0, warnings: 0, sum: 0, squares: 0 };
			sums.set(pad.padClass, c);
			c.pads++;
			c.sum += volumePct;
			c.squares += volumePct * volumePct;
			if (codes[0]) {
				c.fails++;
				if (worst.length < 60) worst.push({ pad: i, code: codes[0], volumePct });
			} else if (warn) c.warnings++;
		});
		const classes = [...sums.values()].map(({ sum, squares, ...c }) => ({
			...c,
			meanVolumePct: sum / c.pads,
			sdVolumePct: c.pads > 1 ? Math.sqrt(Math.max(0, squares - (sum * sum) / c.pads) / (c.pads - 1)) : 0
		}));
		this.sender.send(nowMs, 'paste_summary', {
			panel: panel.serial,
			...(panel.printAttempt ? { printAttempt: panel.printAttempt } : {}),
			classes,
			worst
		});
	}
}
