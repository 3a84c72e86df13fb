import { noData, type Verdict } from '../judgement/index.ts';
import type { OffsetCause, OffsetLevel, OffsetReport } from './offset-causes.ts';
import { LEAST_PANELS, LEAST_UM } from './trims.ts';

/** "34 µm right and 5 µm down", as the panel lies. */
export function offsetWords({ dxUm, dyUm }: { dxUm: number; dyUm: number }): string {
	const [x, y] = [Math.round(dxUm), Math.round(dyUm)];
	const said = [
		...(x === 0 ? [] : [`${Math.abs(x)} µm ${x > 0 ? 'right' : 'left'}`]),
		...(y === 0 ? [] : [`${Math.abs(y)} µm ${y > 0 ? 'up' : 'down'}`])
	];
	return said.join(' and ') || '0 µm';
}

/** What a cause is called in a sentence. */
export function causeWords({ level, name }: { level: OffsetLevel; name: string }): string {
	return {
		program: 'Everything',
		circuit: `Circuit ${name}`,
		board: 'Every panel, each for itself,',
		nozzle: `What nozzle ${name} places`,
		feeder: `What slot ${name} feeds`,
		part: `Part ${name}`,
		ref: name
	}[level];
}

const NEXT: Record<OffsetLevel, (name: string) => string> = {
	program: () => 'Trim the program’s origin',
	circuit: (name) => `Look at the fiducials of circuit ${name} and at its place in the panel`,
	board: () => 'Look at the fiducials, the clamping and the support: no trim mends this',
	nozzle: (name) => `Clean nozzle ${name}, look at its tip, or put another one in: a mechanical fault is not trimmed away`,
	feeder: (name) => `Trim the pick of slot ${name}, or put another feeder there`,
	part: (name) => `Teach the body of ${name} anew, or trim it`,
	ref: (name) => `Trim ${name} alone, and look at its row in the files`
};

/** What to do about a cause. */
export function causeNext({ level, name, tied }: Pick<OffsetCause, 'level' | 'name' | 'tied'>): string {
	const [other] = tied;
	if (!other) return NEXT[level](name);
	const kinds = [level, other.level];
	if (kinds.includes('feeder') && kinds.includes('part'))
		return `Move the reel of slot ${level === 'feeder' ? name : other.name} to another feeder for two panels: then it shows which`;
	if (kinds.includes('nozzle'))
		return `Take another nozzle for ${level === 'nozzle' ? other.name : name} for two panels: then it shows which`;
	return NEXT[level](name);
}

/** How a placer puts its parts, by what an inspection measured of them.
 * @param afterOven measured after the oven: parts that solder pulls to their pads were left out
 */
export function judgeOffsets({ rows, panels, sigmaUm, median, causes }: OffsetReport, afterOven: boolean): Verdict {
	const since = afterOven ? 'after the oven, parts that solder pulls into place left out' : 'before the oven';
	if (rows === 0) return noData('No inspection has measured where this machine puts its parts.');
	if (panels < LEAST_PANELS)
		return noData(`Measured on ${panels} panel${panels === 1 ? '' : 's'} yet: from ${LEAST_PANELS} on something can be said.`);
	const because = [
		{
			quantity: 'Spread of a designator',
			value: Math.round(sigmaUm),
			unit: 'µm',
			limit: null,
			source: 'median absolute deviation from panel to panel',
			formula: `${rows} placements on ${panels} panels, ${since}`
		},
		...causes.map((cause) => ({
			quantity: causeWords(cause),
			value: Math.round(cause.sizeUm),
			unit: 'µm',
			limit: `below ${LEAST_UM}`,
			source: 'common practice: smaller ones are let be',
			formula: `${cause.rows} placements on ${cause.panels} panels; gain ${cause.gain.toFixed(0)} beyond its cost`
		}))
	];
	const [worst] = causes;
	if (!worst)
		return {
			level: 'good',
			statement: `Parts sit where they should: nothing is off by ${LEAST_UM} µm together.`,
			because,
			doNext: []
		};
	const where = worst.level === 'board' ? `sits off by about ${Math.round(worst.sizeUm)} µm` : `sits ${offsetWords(worst)}`;
	const either = worst.tied.length ? `, or is it ${worst.tied.map(causeWords).join(' or ')}: nobody can tell yet` : '';
	return {
		level: 'act',
		statement: `${causeWords(worst)} ${where}${worst.level === 'part' ? ' as the part lies' : ''}${either}.`,
		because: [
			...because,
			{ quantity: 'All together', value: Math.round(Math.hypot(median.dxUm, median.dyUm)), unit: 'µm', limit: null, source: 'median' }
		],
		doNext: causes.map(causeNext)
	};
}
