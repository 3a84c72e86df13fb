import type { Random } from '@keen-relay/core/numerics';
import type { Sender } from './message.ts';
import type { SimPanel } from './work.ts';

/** A machine of the line: takes a panel, works on it for a while, hands it on. It has no clock of its own: step(dtS) is its time. */
export abstract class Station {
	/** Panels waiting before it. */
	readonly queue: SimPanel[] = [];
	protected working: SimPanel | null = null;
	private leftS = 0;
	private state: 'running' | 'waiting' | 'stopped' | 'idle' = 'idle';

	constructor(
		protected readonly sender: Sender,
		protected readonly random: Random,
		private readonly handOn: (panel: SimPanel) => void
	) {}

	/** Seconds for this panel. */
	protected abstract cycleS(panel: SimPanel): number;

	/** Reports a panel that is done; the message goes out at that moment. */
	protected abstract report(panel: SimPanel, nowMs: number, cycleS: number): void;

	/** A panel that waits inside the machine can come from nowhere but the queue; the printer makes its own. */
	protected next(_nowMs: number): SimPanel | undefined {
		return this.queue.shift();
	}

	protected setState(nowMs: number, state: Station['state'], reason?: string): void {
		if (state === this.state) return;
		this.state = state;
		this.sender.send(nowMs, 'state', { state, ...(reason ? { reason } : {}) });
	}

	/** True while a stop of the machine lasts. */
	protected stopped(_nowMs: number, _dtS: number): boolean {
		return false;
	}

	/** Room for one more panel before it. */
	get hasRoom(): boolean {
		return this.queue.length < 2;
	}

	get empty(): boolean {
		return this.queue.length === 0 && this.working === null;
	}

	private current = 0;

	/** Advances by dtS; `roomAfter` says whether the next machine can take a panel. */
	step(dtS: number, nowMs: number, roomAfter: boolean): void {
		if (this.stopped(nowMs, dtS)) return;
		if (!this.working) {
			const panel = this.next(nowMs);
			if (!panel) {
				this.setState(nowMs, 'waiting');
				return;
			}
			this.setState(nowMs, 'running');
			this.working = panel;
			this.current = this.cycleS(panel);
			this.leftS = this.current;
		}
		this.leftS -= dtS;
		if (this.leftS > 0 || !roomAfter) return;
		const panel = this.working;
		this.working = null;
		this.report(panel, nowMs, this.current);
		this.handOn(panel);
	}
}
