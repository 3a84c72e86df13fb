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

/** What is to be said of a released program on its line as it is now; null where it is of it. A misfit is not planned with any more.
 * @param corrected placers whose machine data were corrected after the release
 * @example programAge({ revision: 2, plan: { machines: [{ machine: 'Place 1' }] } }, ['Place 1'], []) // => null
 */
export function programAge(
	program: { revision: number; plan: Parameters<typeof whyNotOn>[0] },
	placers: readonly string[],
	corrected: readonly string[]
): { misfit: boolean; words: string } | null {
	const { revision, plan } = program;
	const why = whyNotOn(plan, placers);
	if (why) return { misfit: true, words: `Program ${revision} cannot be built here any more: ${why}. This is one for the placers in use.` };
	if (corrected.length === 0) return null;
	return {
		misfit: false,
		words: `Machine data of ${corrected.join(' and ')} were corrected after program ${revision}. Release it anew to plan with them.`
	};
}
