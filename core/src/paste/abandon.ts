/** What has to be done before the next print after a pause. */
export interface AfterPause {
	step: 'none' | 'knead' | 'freshen' | 'remove';
	/** Imperatives, in order. */
	doFirst: string[];
	/** How many of the next panels are inspected pad by pad before the line goes on. */
	fullCheckPanels: number;
}

/** The abandon ladder: minutes since the last print.
 * @see common practice; a paste's data sheet may be stricter
 */
export const ABANDON_MIN = { knead: 20, freshen: 60, remove: 240 } as const;

/** What a pause asks for. Exactly on a step counts as the milder one. */
export function afterPause(gapMin: number): AfterPause {
	if (gapMin <= ABANDON_MIN.knead) return { step: 'none', doFirst: [], fullCheckPanels: 0 };
	if (gapMin <= ABANDON_MIN.freshen)
		return { step: 'knead', doFirst: ['Knead with 2 to 4 strokes', 'Wipe', 'Check the next print'], fullCheckPanels: 1 };
	if (gapMin <= ABANDON_MIN.remove)
		return { step: 'freshen', doFirst: ['Wipe', 'Add fresh paste', 'Knead', 'Inspect the next two panels in full'], fullCheckPanels: 2 };
	return { step: 'remove', doFirst: ['Take the paste off', 'Clean the stencil', 'Start with a fresh bead'], fullCheckPanels: 2 };
}

/** The instants at which a standing printer climbs the ladder, for the list of what is due. */
export function abandonSteps(lastPrintMs: number): { step: AfterPause['step']; atMs: number; doFirst: string[] }[] {
	return (['knead', 'freshen', 'remove'] as const).map((step) => ({
		step,
		atMs: lastPrintMs + ABANDON_MIN[step] * 60_000,
		doFirst: afterPause(ABANDON_MIN[step] + 0.01).doFirst
	}));
}

/** Print to reflow of one panel. */
export function reflowClock(
	printedMs: number,
	nowMs: number,
	actH = 1,
	stopH = 2
): { level: 'good' | 'act' | 'stopped'; actMs: number; stopMs: number; statement: string } {
	const H = 3_600_000;
	const [actMs, stopMs] = [printedMs + actH * H, printedMs + stopH * H];
	const level = nowMs >= stopMs ? 'stopped' : nowMs >= actMs ? 'act' : 'good';
	const statement =
		level === 'stopped'
			? `Printed more than ${stopH} h ago: an engineer decides; it is not simply reflowed.`
			: level === 'act'
				? `Printed more than ${actH} h ago: bring it to the oven.`
				: 'Within its time to reflow.';
	return { level, actMs, stopMs, statement };
}
