export interface Approval {
	badge: string;
	pin: string;
}

/** The question for badge and PIN that is open, if any. */
class Approvals {
	open = $state<{ roles: string[]; second: boolean; problem: string } | null>(null);
	#answer: ((given: Approval | null) => void) | null = null;
	#before: { roles: string[]; second: boolean } = { roles: [], second: false };

	ask(what: { roles: string[]; second: boolean } | null, problem: string): Promise<Approval | null> {
		this.#before = what ?? this.#before;
		this.open = { ...this.#before, problem };
		return new Promise((resolve) => (this.#answer = resolve));
	}

	give(given: Approval | null): void {
		this.open = null;
		this.#answer?.(given);
		this.#answer = null;
	}
}

export const approvals = new Approvals();
