import { lineTimes, type MachineStage } from '@keen-relay/core/line';
import { seededRandom } from '@keen-relay/core/numerics';
import { describe, expect, test } from 'vitest';
import { Sender } from './message.ts';
import { Station } from './station.ts';
import type { SimPanel } from './work.ts';

/** A machine that takes a given time for each panel; a stop is a part of it. */
class Given extends Station {
	readonly outS: number[] = [];
	#done = 0;

	constructor(
		private readonly serviceS: readonly number[],
		private readonly places: number,
		handOn: (panel: SimPanel) => void
	) {
		super(new Sender('Line/Given', 'boot', () => undefined), seededRandom(1), handOn);
	}
	protected override get placesBefore(): number {
		return this.places;
	}
	protected override cycleS(): number {
		return this.serviceS[this.#done]!;
	}
	protected override report(_panel: SimPanel, nowMs: number): void {
		this.#done++;
		this.outS.push(nowMs / 1000);
	}
}

/** When each panel left each machine, stepped second by second as the simulated line is. */
function stepped(stages: readonly MachineStage[]): number[][] {
	const panels = stages[0]!.serviceS.length;
	const machines: Given[] = [];
	stages.forEach(({ serviceS, placesBefore }, i) =>
		machines.push(new Given(serviceS, placesBefore, (panel) => machines[i + 1]?.queue.push(panel)))
	);
	// All panels stand before the first machine.
	for (let k = 0; k < panels; k++) machines[0]!.queue.push({ serial: String(k), deposits: null, stroke: 'F', printsSinceWipe: 0 });
	for (let s = 1; machines.at(-1)!.outS.length < panels && s < 100_000; s++)
		for (let i = machines.length - 1; i >= 0; i--) machines[i]!.step(1, 1000 * s, machines[i + 1]?.hasRoom ?? true);
	return machines.map((machine) => machine.outS);
}

const machine = (name: string, serviceS: readonly number[], placesBefore: number): MachineStage => ({
	kind: 'machine',
	name,
	serviceS,
	placesBefore
});
const constant = (s: number, n: number, stops: Record<number, number> = {}) => Array.from({ length: n }, (_, i) => s + (stops[i] ?? 0));

describe('simulated machines keep the pace of the line’s recurrence', () => {
	test('times that are no whole seconds do not add up to a slower line', () => {
		const random = seededRandom(5);
		const of = (s: number) => Array.from({ length: 200 }, () => s + 3 * random.uniform());
		const stages = [machine('A', of(18.3), 0), machine('B', of(20.7), 2), machine('C', of(19.1), 2), machine('D', of(20.2), 2)];
		const exact = lineTimes(stages);
		stepped(stages).forEach((leftS, i) =>
			leftS.forEach((s, k) => {
				// A panel is seen a second later at each machine, no more after two hundred of them.
				expect(s - exact.stages[i]!.leftS[k]!).toBeGreaterThan(-stages.length);
				expect(s - exact.stages[i]!.leftS[k]!).toBeLessThan(2 * stages.length);
			})
		);
	});

	test.each([
		[2, 1680],
		[6, 1600]
	])('stops are taken up by %i places between machines', (places, lastS) => {
		const stages = [
			machine('1', constant(20, 60), 0),
			machine('2', constant(20, 60, { 14: 120, 40: 120 }), places),
			machine('3', constant(20, 60, { 25: 120, 50: 120 }), places)
		];
		expect(lineTimes(stages).lastOutS).toBe(lastS);
		expect(Math.abs(stepped(stages).at(-1)!.at(-1)! - lastS)).toBeLessThanOrEqual(stages.length);
	});
});
