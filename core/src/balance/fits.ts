import type { LinePlan } from './line-plan.ts';

/** Why a placement program cannot be built on the placers of a line as they are now; null where it can. A line changes after its programs were released.
 * @param placers names of the placers in use
 * @example whyNotOn({ machines: [{ machine: 'Place 1' }] }, ['Place 1', 'Place 2']) // => 'it has no work for Place 2'
 */
export function whyNotOn(
	plan: { machines: readonly Pick<LinePlan['machines'][number], 'machine'>[] },
	placers: readonly string[]
): string | null {
	const planned = plan.machines.map((m) => m.machine);
	const gone = planned.filter((name) => !placers.includes(name));
	if (gone.length) return `it counts on ${gone.join(' and ')}, which ${gone.length === 1 ? 'is' : 'are'} not in use`;
	const idle = placers.filter((name) => !planned.includes(name));
	return idle.length ? `it has no work for ${idle.join(' and ')}` : null;
}
