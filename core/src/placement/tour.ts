import { seededRandom } from '../numerics/index.ts';

/** Up to so many places every order is compared. */
const MOST_EXACT = 12;
const NEAR = 10;
/** Longest chain of places that is moved as one. */
const CHAIN = 3;
/** Kicks of the search, each place so often: about a second for two hundred places. */
const KICKS_A_PLACE = 80;
/** What a kick turns round lies within so many places. */
const KICK_WINDOW = 30;
const LEAST_S = 1e-12;

/** The shortest way from a start through all places to an end: exact up to twelve, beyond that the best that is found by moving chains and turning
 * stretches round, kicked loose again and again. The same places and seed give the same way.
 * @param first seconds from the start to a place; @param between from place to place, the same both ways; @param last from a place to the end
 * @param kicks tries of the search
 * @see Held and Karp 1962 for the exact order; Lin 1965 (2-opt), Or 1976 (chains), Martin, Otto and Felten 1991 (kicks), all from memory
 */
export function shortestPath(
	n: number,
	first: (i: number) => number,
	between: readonly (readonly number[])[],
	last: (i: number) => number,
	{ kicks = KICKS_A_PLACE * n, seed = 1 }: { kicks?: number; seed?: number } = {}
): number[] {
	if (n <= MOST_EXACT) return n === 0 ? [] : heldKarp(n, first, between, last);
	return new Tour(n, first, between, last).search(kicks, seed);
}

/** The shortest closed way through all places. @returns the order, from place 0 on, and its seconds */
export function closedTour(
	between: readonly (readonly number[])[],
	search: { kicks?: number; seed?: number } = {}
): { order: number[]; seconds: number } {
	const n = between.length;
	if (n === 0) return { order: [], seconds: 0 };
	const rest = between.slice(1).map((row) => row.slice(1));
	const home = (i: number) => between[0]![i + 1]!;
	const order = [0, ...shortestPath(n - 1, home, rest, home, search).map((i) => i + 1)];
	return { order, seconds: order.reduce((sum, at, i) => sum + between[at]![order[(i + 1) % n]!]!, 0) };
}

/** The shortest path through all points from a start to an end, exact.
 * @param first seconds from the start to a point; @param last from a point to the end
 * @example heldKarp(2, (i) => (i === 0 ? 1 : 5), [[0, 1], [1, 0]], () => 0) // => [0, 1]
 */
export function heldKarp(
	n: number,
	first: (i: number) => number,
	between: readonly (readonly number[])[],
	last: (i: number) => number
): number[] {
	const full = 1 << n;
	const best = new Float64Array(full * n).fill(Infinity);
	const before = new Int8Array(full * n).fill(-1);
	for (let i = 0; i < n; i++) best[(1 << i) * n + i] = first(i);
	for (let set = 1; set < full; set++)
		for (let i = 0; i < n; i++) {
			const here = best[set * n + i]!;
			if (here === Infinity) continue;
			for (let k = 0; k < n; k++) {
				if (set & (1 << k)) continue;
				const at = (set | (1 << k)) * n + k;
				const way = here + between[i]![k]!;
				if (way < best[at]!) [best[at], before[at]] = [way, i];
			}
		}
	let end = 0;
	for (let i = 1; i < n; i++) if (best[(full - 1) * n + i]! + last(i) < best[(full - 1) * n + end]! + last(end)) end = i;
	const order: number[] = [];
	for (let set = full - 1, i = end; i >= 0;) {
		order.unshift(i);
		const previous = before[set * n + i]!;
		set &= ~(1 << i);
		i = previous;
	}
	return order;
}

/** A closed tour through the places, the start and the end, which are tied to each other: whatever is found goes from one to the other. */
class Tour {
	private readonly size: number;
	private readonly d: Float64Array;
	private readonly near: Int32Array;
	private tour: Int32Array;
	private readonly at: Int32Array;
	private readonly queue: number[] = [];
	private readonly queued: Uint8Array;

	constructor(
		private readonly n: number,
		first: (i: number) => number,
		between: readonly (readonly number[])[],
		last: (i: number) => number
	) {
		const size = (this.size = n + 2);
		const [start, end] = [n, n + 1];
		this.d = new Float64Array(size * size);
		const set = (i: number, k: number, s: number) => (this.d[i * size + k] = this.d[k * size + i] = s);
		for (let i = 0; i < n; i++) {
			for (let k = 0; k < i; k++) set(i, k, between[i]![k]!);
			set(i, start, first(i));
			set(i, end, last(i));
		}
		// Dearer than any detour to leave.
		set(start, end, -1 - 4 * n * this.d.reduce((most, s) => Math.max(most, s), 0));
		const near = Math.min(NEAR, size - 1);
		this.near = new Int32Array(size * NEAR);
		for (let i = 0; i < size; i++) {
			const others = Array.from({ length: size }, (_, k) => k)
				.filter((k) => k !== i)
				.sort((a, b) => this.d[i * size + a]! - this.d[i * size + b]! || a - b);
			for (let k = 0; k < NEAR; k++) this.near[i * NEAR + k] = others[k % near]!;
		}
		this.tour = this.nearestFirst(start, end);
		this.at = new Int32Array(size);
		this.place(0, size - 1);
		this.queued = new Uint8Array(size);
	}

	private nearestFirst(start: number, end: number): Int32Array {
		const open = new Set(Array.from({ length: this.n }, (_, i) => i));
		const tour = [start];
		while (open.size) {
			const from = tour.at(-1)!;
			let next = -1;
			for (const k of open) if (next < 0 || this.d[from * this.size + k]! < this.d[from * this.size + next]!) next = k;
			open.delete(next);
			tour.push(next);
		}
		return Int32Array.from([...tour, end]);
	}

	private place(from: number, to: number): void {
		for (let p = from; p <= to; p++) this.at[this.tour[p]!] = p;
	}

	private gap(a: number, b: number): number {
		return this.d[a * this.size + b]!;
	}
	private after(a: number): number {
		const p = this.at[a]! + 1;
		return this.tour[p === this.size ? 0 : p]!;
	}
	private ahead(a: number): number {
		const p = this.at[a]!;
		return this.tour[p === 0 ? this.size - 1 : p - 1]!;
	}

	private look(city: number): void {
		if (this.queued[city]) return;
		this.queued[city] = 1;
		this.queue.push(city);
	}

	/** Turns round what stands from one place to another, going forward; the shorter side of the ring is turned. */
	private turn(from: number, to: number): void {
		const { tour, at, size } = this;
		let [i, k] = [at[from]!, at[to]!];
		let length = (k - i + size) % size;
		if (2 * length > size) {
			[i, k] = [(k + 1) % size, (i - 1 + size) % size];
			length = (k - i + size) % size;
		}
		for (let step = 0; step < (length + 1) >> 1; step++) {
			const [a, b] = [tour[i]!, tour[k]!];
			[tour[i], tour[k]] = [b, a];
			[at[b], at[a]] = [i, k];
			i = i + 1 === size ? 0 : i + 1;
			k = k === 0 ? size - 1 : k - 1;
		}
	}

	/** One better turn or chain move at a place. @returns seconds gained, 0: there is none */
	private better(a: number): number {
		const { near } = this;
		const [next, before] = [this.after(a), this.ahead(a)];
		const [toNext, toBefore] = [this.gap(a, next), this.gap(before, a)];
		for (let k = 0; k < NEAR; k++) {
			const c = near[a * NEAR + k]!;
			const there = this.gap(a, c);
			if (there >= toNext && there >= toBefore) break;
			if (there < toNext && c !== next) {
				const d = this.after(c);
				const gain = toNext + this.gap(c, d) - there - this.gap(next, d);
				if (gain > LEAST_S) {
					this.turn(next, c);
					for (const city of [a, next, c, d]) this.look(city);
					return gain;
				}
			}
			if (there < toBefore && c !== before) {
				const d = this.ahead(c);
				const gain = toBefore + this.gap(d, c) - there - this.gap(before, d);
				if (gain > LEAST_S) {
					this.turn(a, d);
					for (const city of [a, before, c, d]) this.look(city);
					return gain;
				}
			}
		}
		return this.moveChain(a);
	}

	/** Moves a chain that begins or ends at a place beside one of its near ones. */
	private moveChain(a: number): number {
		const { near } = this;
		for (const forward of [true, false]) {
			let end = a;
			for (let length = 1; length <= CHAIN; length++) {
				if (length > 1) end = forward ? this.after(end) : this.ahead(end);
				// The chain from head to tail in the direction of the tour.
				const [head, tail] = forward ? [a, end] : [end, a];
				const [left, right] = [this.ahead(head), this.after(tail)];
				if (left === tail || right === head || left === right) break;
				const freed = this.gap(left, head) + this.gap(tail, right) - this.gap(left, right);
				if (freed <= LEAST_S) continue;
				for (let k = 0; k < NEAR; k++) {
					const c = near[a * NEAR + k]!;
					const there = this.gap(a, c);
					if (there >= freed) break;
					if (this.isWithin(c, head, tail)) continue;
					// Beside c, with a next to it: between c and what follows it, or what goes before it.
					for (const d of [this.after(c), this.ahead(c)]) {
						if (this.isWithin(d, head, tail)) continue;
						const other = a === head ? tail : head;
						const gain = freed + this.gap(c, d) - there - this.gap(other, d);
						if (gain <= LEAST_S) continue;
						this.carry(head, tail, c, d, a);
						for (const city of [left, right, head, tail, c, d]) this.look(city);
						return gain;
					}
				}
			}
		}
		return 0;
	}

	private isWithin(city: number, head: number, tail: number): boolean {
		const [p, from, to] = [this.at[city]!, this.at[head]!, this.at[tail]!];
		return from <= to ? p >= from && p <= to : p >= from || p <= to;
	}

	/** Puts the chain between two neighbours, its place `a` next to `c`: as turns of stretches, which keep the ring whole. */
	private carry(head: number, tail: number, c: number, d: number, a: number): void {
		const { tour, size } = this;
		const chain: number[] = [];
		for (let city = head; ; city = this.after(city)) {
			chain.push(city);
			if (city === tail) break;
		}
		const taken = new Set(chain);
		const ring = Array.from(tour).filter((city) => !taken.has(city));
		const [i, k] = [ring.indexOf(c), ring.indexOf(d)];
		const forward = (i + 1) % ring.length === k;
		// In the ring's direction the first of the chain stands behind the first neighbour.
		const behindFirst = forward ? a : a === head ? tail : head;
		if (chain[0] !== behindFirst) chain.reverse();
		const at = (forward ? i : k) + 1;
		ring.splice(at, 0, ...chain);
		this.tour = Int32Array.from(ring);
		this.place(0, size - 1);
	}

	private settle(): number {
		let gained = 0;
		while (this.queue.length) {
			const city = this.queue.pop()!;
			this.queued[city] = 0;
			for (let gain = this.better(city); gain > 0; gain = this.better(city)) gained += gain;
		}
		return gained;
	}

	/** Exchanges two stretches that follow each other. @returns seconds that it costs */
	private kick(random: { integer: (n: number) => number }): number {
		const { tour, size } = this;
		const window = Math.min(KICK_WINDOW, size - 2);
		const from = 1 + random.integer(size - window - 1);
		const cuts = [random.integer(window), random.integer(window), random.integer(window)].sort((a, b) => a - b) as [number, number, number];
		const [i, k, m] = [from + cuts[0], from + cuts[1], from + cuts[2]];
		if (i === k || k === m) return 0;
		// … x | i … k-1 | k … m-1 | m …
		const [x, y] = [tour[i - 1]!, tour[m]!];
		const [p, q, r, s] = [tour[i]!, tour[k - 1]!, tour[k]!, tour[m - 1]!];
		const cost = this.gap(x, r) + this.gap(s, p) + this.gap(q, y) - this.gap(x, p) - this.gap(q, r) - this.gap(s, y);
		const moved = tour.slice(i, k);
		tour.copyWithin(i, k, m);
		tour.set(moved, i + m - k);
		this.place(i, m - 1);
		for (const city of [x, p, q, r, s, y]) this.look(city);
		return cost;
	}

	search(kicks: number, seed: number): number[] {
		for (let i = 0; i < this.size; i++) this.look(i);
		this.settle();
		const random = seededRandom(seed);
		let kept = this.tour.slice();
		for (let t = 0; t < kicks; t++) {
			const cost = this.kick(random) - this.settle();
			if (cost <= 0) kept.set(this.tour);
			else {
				this.tour.set(kept);
				this.place(0, this.size - 1);
			}
		}
		kept = kept.slice();
		// From the start on, whichever way round the ring lies.
		const s = kept.indexOf(this.n);
		const ring = [...kept.subarray(s + 1), ...kept.subarray(0, s)];
		return ring[0] === this.n + 1 ? ring.slice(1).reverse() : ring.slice(0, -1);
	}
}
