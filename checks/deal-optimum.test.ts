import loadHighs from 'highs';
import { describe, expect, test } from 'vitest';
import { dealParts, type MachineLoad, type PartLoad } from '@keen-relay/core/balance';
import { seededRandom } from '@keen-relay/core/numerics';

/** The deal as a mixed-integer program in LP format: the slowest machine as fast as can be, each type whole on one capable machine, slots kept. */
function asLp(parts: readonly PartLoad[], machines: readonly MachineLoad[]): string {
	const pairs = parts.flatMap((part, i) => machines.flatMap((_, m) => (part.secondsEach[m] === null ? [] : [{ part, i, m }])));
	const term = (value: number, name: string) => `+ ${value} ${name}`;
	return [
		'Minimize',
		' obj: t',
		'Subject To',
		...parts.map(
			(_, i) =>
				` once${i}: ${pairs
					.filter((p) => p.i === i)
					.map((p) => `+ x${i}_${p.m}`)
					.join(' ')} = 1`
		),
		...machines.map(
			(machine, m) =>
				` load${m}: t ${pairs
					.filter((p) => p.m === m)
					.map((p) => `- ${p.part.count * p.part.secondsEach[m]!} x${p.i}_${m}`)
					.join(' ')} >= ${machine.fixedS}`
		),
		...machines.map(
			(machine, m) =>
				` slots${m}: ${pairs
					.filter((p) => p.m === m)
					.map((p) => term(p.part.slots[m]!, `x${p.i}_${m}`))
					.join(' ')} <= ${machine.slots}`
		),
		'Binary',
		...pairs.map((p) => ` x${p.i}_${p.m}`),
		'End'
	].join('\n');
}

/** Three fixed instances of the kinds that lines have: a fast and a flexible placer, three alike with tight slots, two with many types. */
const INSTANCES = [
	{ name: 'two placers, some types for one only', types: 26, machines: 2, seed: 11, only: 0.2, slotRoom: 1.5 },
	{ name: 'three placers, slots tight', types: 30, machines: 3, seed: 12, only: 0.1, slotRoom: 1.15 },
	{ name: 'two placers, many types', types: 60, machines: 2, seed: 13, only: 0.15, slotRoom: 1.6 }
].map(({ types, machines: n, seed, only, slotRoom, ...rest }) => {
	const random = seededRandom(seed);
	const speeds = Array.from({ length: n }, (_, m) => 0.08 + 0.05 * m);
	const parts: PartLoad[] = Array.from({ length: types }, (_, i) => {
		const alone = random.chance(only) ? random.integer(n) : null;
		const slots = random.chance(0.25) ? 2 : 1;
		return {
			id: `P${i}`,
			count: 1 + Math.floor(60 * random.uniform() ** 2),
			slots: speeds.map(() => slots),
			secondsEach: speeds.map((s, m) =>
				alone !== null && alone !== m ? null : Math.round(1000 * s * (0.9 + 0.3 * random.uniform())) / 1000
			)
		};
	});
	const need = parts.reduce((sum, part) => sum + part.slots[0]!, 0);
	const machines: MachineLoad[] = speeds.map((_, m) => ({ slots: Math.ceil((need * slotRoom) / n), fixedS: 3 + 0.4 * m }));
	return { ...rest, parts, machines };
});

/** Reference: highs, a MILP solver (open source), proves the optimum. */
describe('parts dealt to two or three machines', async () => {
	const highs = await loadHighs();

	test.each(INSTANCES)('$name: at most 2 % above the proven optimum', ({ parts, machines }) => {
		const proof = highs.solve(asLp(parts, machines), { time_limit: 60, mip_rel_gap: 1e-6 });
		expect(proof.Status).toBe('Optimal');
		const deal = dealParts(parts, machines);
		expect(deal.left).toEqual([]);
		const optimumS = proof.ObjectiveValue;
		// The reference is a bound: a deal that were faster would have broken a rule.
		expect(deal.worstS).toBeGreaterThanOrEqual(optimumS - 1e-6);
		expect(deal.worstS / optimumS).toBeLessThanOrEqual(1.02);
		if (deal.proven) expect(deal.worstS).toBeCloseTo(optimumS, 6);
		expect(deal.boundS).toBeLessThanOrEqual(optimumS + 1e-6);
	});
});
