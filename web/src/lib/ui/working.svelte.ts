import type { Verdict } from '@keen-relay/core/judgement';

/** Which verdict's working is open, and which one the `w` key would open. */
class Working {
	open = $state<Verdict | null>(null);
	#offered: (() => Verdict) | null = null;

	/** The page's main verdict: what `w` shows. */
	offer(verdict: () => Verdict): void {
		this.#offered = verdict;
	}

	show(verdict: Verdict): void {
		this.open = verdict;
	}

	toggleOffered(): void {
		this.open = this.open ? null : (this.#offered?.() ?? null);
	}

	close(): void {
		this.open = null;
	}
}

export const working = new Working();
