/** A value that is read again after some time, or once it is known to have changed. */
export class Remembered<T> {
	#kept: { value: Promise<T>; readAt: number } | null = null;

	/** @param ms how long a value may be used
	 * @param read reads it; a failed read is not kept
	 */
	constructor(
		private readonly ms: number,
		private readonly read: () => Promise<T>
	) {}

	value(): Promise<T> {
		const now = Date.now();
		if (this.#kept && now - this.#kept.readAt < this.ms) return this.#kept.value;
		const kept = { value: this.read(), readAt: now };
		this.#kept = kept;
		kept.value.catch(() => {
			if (this.#kept === kept) this.#kept = null;
		});
		return kept.value;
	}

	/** The next one who asks reads anew: a read that is under way may have begun before the change. */
	forget(): void {
		this.#kept = null;
	}
}
