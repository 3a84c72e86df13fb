import loadHighs from 'highs';
import { describe, expect, test } from 'vitest';
import { seededRandom } from '@keen-relay/core/numerics';
import { axisTimeS, closedTour } from '@keen-relay/core/placement';

const X = { vMmS: 1000, aMmS2: 10_000 };
const Y = { vMmS: 800, aMmS2: 8000 };
const moves = (places: readonly (readonly [number, number])[]) =>
	places.map(([x, y]) => places.map(([u, v]) => Math.max(axisTimeS(x - u, X), axisTimeS(y - v, Y))));

/** Rings of a set of edges, by their places. */
function ringsOf(n: number, edges: readonly (readonly [number, number])[]): number[][] {
	const beside = Array.from({ length: n }, () => [] as number[]);
	for (const [i, k] of edges) {
		beside[i]!.push(k);
		beside[k]!.push(i);
	}
	const seen = new Set<number>();
	const rings: number[][] = [];
	for (let begin = 0; begin < n; begin++) {
		const ring: number[] = [];
		for (const stack = [begin]; stack.length;) {
			const i = stack.pop()!;
			if (seen.has(i)) continue;
			seen.add(i);
			ring.push(i);
			stack.push(...beside[i]!);
		}
		if (ring.length) rings.push(ring);
	}
	return rings;
}

/** The shortest closed tour by a mixed-integer program: each place has two edges; a ring that leaves places out is forbidden once it is seen.
 * @see Dantzig, Fulkerson and Johnson 1954, from memory
 */
async function optimum(d: readonly (readonly number[])[]): Promise<number> {
	const highs = await loadHighs();
	const n = d.length;
	const pairs = d.flatMap((_, i) => d.slice(0, i).map((__, k) => [i, k] as const));
	const name = (i: number, k: number) => (i > k ? `x${i}_${k}` : `x${k}_${i}`);
	const cuts: string[] = [];
	for (;;) {
		const lp = [
			'Minimize',
			` obj: ${pairs.map(([i, k]) => `+ ${d[i]![k]!} ${name(i, k)}`).join(' ')}`,
			'Subject To',
			...d.map((_, i) => ` two${i}: ${d.flatMap((__, k) => (k === i ? [] : [`+ ${name(i, k)}`])).join(' ')} = 2`),
			...cuts,
			'Binary',
			...pairs.map(([i, k]) => ` ${name(i, k)}`),
			'End'
		].join('\n');
		const solution = highs.solve(lp, { mip_rel_gap: 1e-9 });
		expect(solution.Status).toBe('Optimal');
		const rings = ringsOf(
			n,
			pairs.filter(([i, k]) => (solution.Columns[name(i, k)] as { Primal: number }).Primal > 0.5)
		);
		if (rings.length === 1) return solution.ObjectiveValue;
		for (const ring of rings)
			cuts.push(
				` ring${cuts.length}: ${ring.flatMap((i, a) => ring.slice(0, a).map((k) => `+ ${name(i, k)}`)).join(' ')} <= ${ring.length - 1}`
			);
	}
}

describe('the order in which a head visits its places', () => {
	test('eight places whose optimum is known: 0.728771 s, in the order in which they were listed 0.766175 s', () => {
		const d = moves([
			[0, 0],
			[10, 0],
			[10, 10],
			[0, 10],
			[50, 5],
			[60, 5],
			[50, 40],
			[20, 30]
		]);
		expect(closedTour(d).seconds).toBeCloseTo(0.728771, 6);
		expect(d.reduce((sum, row, i) => sum + row[(i + 1) % 8]!, 0)).toBeCloseTo(0.766175, 6);
	});

	test.each([
		[13, 3],
		[20, 4],
		[30, 5],
		[45, 6]
	])('%i places (seed %i): within a hundredth of the proven optimum', async (n, seed) => {
		const random = seededRandom(seed);
		const d = moves(Array.from({ length: n }, () => [250 * random.uniform(), 200 * random.uniform()] as const));
		const { order, seconds } = closedTour(d);
		expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
		expect(order.reduce((sum, at, i) => sum + d[at]![order[(i + 1) % n]!]!, 0)).toBeCloseTo(seconds, 9);
		const best = await optimum(d);
		expect(seconds).toBeGreaterThan(best - 1e-6);
		expect(seconds).toBeLessThanOrEqual(best * 1.01);
	});
});
