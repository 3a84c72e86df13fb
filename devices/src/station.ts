import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import type { SimPanel, Trouble } from './work.ts';

/** A machine of the line: takes a panel, works on it for a while, hands it on. It has no clock of its own: step(dtS) is its time. */
export abstract class Station {
	/** Panels waiting before it. */
	readonly queue: SimPanel[] = [];
	protected working: SimPanel | null = null;
	private leftS = 0;
	private stopS = 0;
	private state: 'running' | 'waiting' | 'stopped' | 'idle' = 'idle';

	constructor(
		protected readonly sender: Sender,
		protected readonly random: Random,
		private readonly handOn: (panel: SimPanel) => void,
		private readonly troubles: readonly Trouble[] = []
	) {}

	/** Seconds for this panel. */
	protected abstract cycleS(panel: SimPanel): number;

	/** Reports a panel that is done; the message goes out at that moment. */
	protected abstract report(panel: SimPanel, nowMs: number, cycleS: number): void;

	/** Whether this machine may take a panel: go, wait for word of it, or leave it aside because it is held. */
	gate: ((serial: string) => 'go' | 'wait' | 'held') | null = null;
	/** Panels that are held: somebody has taken them off the belt until they may go on. */
	readonly aside: SimPanel[] = [];

	/** A panel that waits inside the machine can come from nowhere but the queue; the printer makes its own. */
	protected next(_nowMs: number): SimPanel | undefined {
		const back = this.aside.findIndex((panel) => this.gate?.(panel.serial) === 'go');
		if (back >= 0) return this.aside.splice(back, 1)[0];
		for (let first = this.queue[0]; first; first = this.queue[0]) {
			const says = this.gate?.(first.serial) ?? 'go';
			if (says === 'wait') return undefined;
			this.queue.shift();
			if (says === 'go') return first;
			this.aside.push(first);
		}
		return undefined;
	}

	/** How strongly a kind of trouble works now, 0 for not at all. */
	protected trouble(kind: Trouble['kind'], nowMs: number): number {
		let strength = 0;
		for (const t of this.troubles) if (t.kind === kind && nowMs >= t.fromMs && nowMs < t.toMs) strength = Math.max(strength, t.strength);
		return strength;
	}

	protected setState(nowMs: number, state: Station['state'], reason?: string): void {
		if (state === this.state) return;
		this.state = state;
		this.sender.send(nowMs, 'state', { state, ...(reason ? { reason } : {}) });
	}

	/** Stands for a while, with the reason that the machine gives. */
	protected stop(nowMs: number, seconds: number, reason: string): void {
		this.stopS = seconds;
		this.setState(nowMs, 'stopped', reason);
	}

	/** Why the machine stops at this moment, and for how long; null while it runs. */
	protected breaks(nowMs: number, dtS: number): { seconds: number; reason: string } | null {
		const jams = this.trouble('jam', nowMs);
		return jams > 0 && this.random.chance((dtS * jams) / 900) ? { seconds: 60 + 300 * this.random.uniform(), reason: 'panel jam' } : null;
	}

	/** Why the machine stands although a panel waits; null where it only waits. */
	protected waits(): string | null {
		return null;
	}

	/** Panels that may wait between the machine before and this one. */
	protected get placesBefore(): number {
		return 2;
	}

	/** Room for one more panel before it; without places for it, only while the machine itself is free. */
	get hasRoom(): boolean {
		return this.queue.length < this.placesBefore || (this.placesBefore === 0 && this.empty);
	}

	/** What stands aside is off the belt: it keeps nothing waiting. */
	get empty(): boolean {
		return this.queue.length === 0 && this.working === null;
	}

	private current = 0;
	/** How long ago within the last step the machine became free: the next panel that waits is begun from there. */
	private freeSinceS = 0;

	/** Advances by dtS; `roomAfter` says whether the next machine can take a panel. */
	step(dtS: number, nowMs: number, roomAfter: boolean): void {
		if (this.stopS > 0) {
			this.stopS -= dtS;
			if (this.stopS > 0) return;
			this.setState(nowMs, this.working ? 'running' : 'waiting');
		}
		if (!this.working) {
			const panel = this.next(nowMs);
			if (!panel) {
				this.freeSinceS = 0;
				const why = this.waits();
				this.setState(nowMs, why ? 'stopped' : 'waiting', why ?? undefined);
				return;
			}
			this.setState(nowMs, 'running');
			this.working = panel;
			this.current = this.cycleS(panel);
			this.leftS = this.current - this.freeSinceS;
		}
		const broken = this.breaks(nowMs, dtS);
		if (broken) return this.stop(nowMs, broken.seconds, broken.reason);
		this.leftS -= dtS;
		if (this.leftS > 0 || !roomAfter) return;
		// Whoever had to wait for room became free just now.
		this.freeSinceS = this.leftS > -dtS ? -this.leftS : 0;
		const panel = this.working;
		this.working = null;
		this.report(panel, nowMs, this.current);
		this.handOn(panel);
	}
}
