/** Something that is being done and takes its time. */
interface Work {
	label: string;
	/** When it was begun, ms. */
	since: number;
	/** Ends it; null where it cannot be ended any more. */
	stop: (() => void) | null;
}

/** From here on people begin to wonder. */
const SHOWN_AFTER_MS = 1000;

/** What takes longer than a second, on every page in the same place. */
class Works {
	#all = new Set<Work>();
	/** Those that have taken a second already, the oldest first. */
	shown = $state.raw<readonly Work[]>([]);

	/** @returns says that it is over */
	begin(label: string, stop: Work['stop']): () => void {
		const work: Work = { label, since: Date.now(), stop };
		this.#all.add(work);
		const timer = setTimeout(() => this.#tell(), SHOWN_AFTER_MS);
		return () => {
			clearTimeout(timer);
			if (this.#all.delete(work)) this.#tell();
		};
	}

	#tell(): void {
		const now = Date.now();
		this.shown = [...this.#all].filter((work) => now - work.since >= SHOWN_AFTER_MS - 20);
	}
}

export const works = new Works();
