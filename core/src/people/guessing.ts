/** How many tries of a PIN are answered: so many at once, and so many more with each minute that passes. */
export interface Budget {
	burst: number;
	perMinute: number;
}

/** Who is slowed by whose guesses (ours). A person at a screen that knows them has tries of their own, which nobody else can use up; everywhere else a badge, an
 * address and the plant each have a few for all who try: a PIN of four digits then holds for weeks, and nobody is locked out at their own screen.
 */
export const GUESSING: Readonly<Record<'known' | 'person' | 'address' | 'plant', Budget>> = {
	known: { burst: 30, perMinute: 6 },
	person: { burst: 10, perMinute: 2 / 3 },
	address: { burst: 30, perMinute: 2 },
	plant: { burst: 100, perMinute: 10 }
};

/** Wrong answers come later and later: this many at once, then after one second, two, four, at most eight. */
const FREE_TRIES = 3;
const LONGEST_WAIT_S = 8;
/** After this long without a wrong try the waits begin anew. */
const FORGET_MS = 5 * 60_000;
/** One try of a PIN. */
export interface Try {
	/** The badge that is tried, of bounded length. */
	person: string;
	address: string;
	/** The browser, where it says which one it is; else its address. */
	screen: string;
	/** Whether this person signed in at this screen before. */
	known: boolean;
}

/** What was counted under a key, and when. */
export interface Counted {
	n: number;
	atMs: number;
}

/** Counts the tries of PINs. What it counts by stands in a map, so that several processes can count together: `keysOf` says what one try touches. */
export class Guessing {
	/** @param kept what was counted so far; it is changed in place */
	constructor(private readonly kept: Map<string, Counted> = new Map()) {}

	/** Takes a try out of every budget that it belongs to, before it is known whether it is right: many at once gain nothing.
	 * @returns seconds until another try is answered, where none is left; 0 where this one may be answered
	 */
	take(of: Try, nowMs: number): number {
		const budgets = budgetsOf(of);
		const empty = budgets.map(([key, budget]) => [this.#leftOf(key, budget, nowMs), budget] as const).filter(([left]) => left < 1 - 1e-9);
		if (empty.length) return Math.max(...empty.map(([left, budget]) => Math.ceil(((1 - left) / budget.perMinute) * 60)));
		for (const [key, budget] of budgets) this.kept.set(key, { n: this.#leftOf(key, budget, nowMs) - 1, atMs: nowMs });
		return 0;
	}

	/** A right try costs nobody anything. */
	right(of: Try, nowMs: number): void {
		for (const [key, budget] of budgetsOf(of))
			this.kept.set(key, { n: Math.min(budget.burst, this.#leftOf(key, budget, nowMs) + 1), atMs: nowMs });
		this.kept.delete(pairOf(of));
	}

	/** @returns how long the answer to a wrong try waits, ms */
	wrong(of: Try, nowMs: number): number {
		const before = this.kept.get(pairOf(of));
		const n = (before && nowMs - before.atMs <= FORGET_MS ? before.n : 0) + 1;
		this.kept.set(pairOf(of), { n, atMs: nowMs });
		return n <= FREE_TRIES ? 0 : 1000 * Math.min(LONGEST_WAIT_S, 2 ** (n - FREE_TRIES - 1));
	}

	#leftOf(key: string, { burst, perMinute }: Budget, nowMs: number): number {
		const left = this.kept.get(key);
		return left ? Math.min(burst, left.n + ((nowMs - left.atMs) / 60_000) * perMinute) : burst;
	}
}

function budgetsOf({ person, address, screen, known }: Try): [string, Budget][] {
	if (known) return [[`known ${screen} ${person}`, GUESSING.known]];
	return [
		[`person ${person}`, GUESSING.person],
		[`address ${address}`, GUESSING.address],
		['plant', GUESSING.plant]
	];
}

const pairOf = ({ screen, person }: Try) => `wrong ${screen} ${person}`;

/** Everything that one try counts under. */
export const keysOf = (of: Try): string[] => [...budgetsOf(of).map(([key]) => key), pairOf(of)];
