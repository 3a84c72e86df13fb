/** Plant time in the page: runs on from the server's last word at the plant's rate. */
class PlantTime {
	#base = { nowMs: Date.now(), rate: 1, readAt: Date.now() };
	now = $state(Date.now());

	set(nowMs: number, rate: number): void {
		this.#base = { nowMs, rate, readAt: Date.now() };
		this.tick();
	}

	tick(): void {
		this.now = this.#base.nowMs + (Date.now() - this.#base.readAt) * this.#base.rate;
	}
}

export const plantTime = new PlantTime();
