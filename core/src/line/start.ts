import type { Level } from '../judgement/index.ts';

/** What is known of a plant that begins. */
export interface PlantFacts {
	/** Somebody has set the plant's name, zone and shifts, or said that they are right. */
	plantSaid: boolean;
	/** People who can sign in, those who hold a starting code that they have not used, and the leads among the former. */
	people: number;
	invited: number;
	leads: number;
	rulesSaid: boolean;
	lines: readonly { name: string; stations: number }[];
	/** Tokens that speak for machines; null: it was said that results come by hand and by file. */
	sources: number | null;
	pastes: number;
	jars: number;
	/** Sides of boards, and those that are ready to be run on some line. */
	sides: number;
	readySides: number;
	jobs: number;
	/** A panel was reported by some station of a run. */
	panels: number;
}

export const START_STEPS = ['plant', 'people', 'lines', 'rules', 'machines', 'paste', 'board', 'release', 'job', 'panel'] as const;
export type StartStep = (typeof START_STEPS)[number];

/** What stands of a step towards the first panel. */
export interface StepStands {
	code: StartStep;
	title: string;
	/** good: done; watch: done, with something open; act: the next thing to do; noData: not reached yet. */
	level: Level;
	/** What is there, or what is missing. */
	stands: string;
	/** What it takes; '' where nothing is left. */
	next: string;
}

const counted = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** The way from an empty plant to its first panel: every step with what stands and what it takes. It can be left at any step and taken up again; what is there counts, in
 * whatever order it came. The first step that is not done is the one to do next.
 */
export function startSteps(facts: PlantFacts): StepStands[] {
	const steps: (Omit<StepStands, 'level'> & { done: boolean; open?: boolean })[] = [
		{
			code: 'plant',
			title: 'The plant',
			done: facts.plantSaid,
			stands: facts.plantSaid ? 'name, time zone and shifts are set' : 'starts with three shifts round the clock',
			next: 'Set its name, time zone, shifts, breaks and holidays.'
		},
		{
			code: 'people',
			title: 'The people',
			done: facts.people > 1 || facts.invited > 0,
			open: facts.invited > 0 || facts.leads < 2,
			stands: `${counted(facts.people, 'person can', 'people can')} sign in${facts.invited ? `, ${facts.invited} ${facts.invited === 1 ? 'has' : 'have'} a starting code` : ''}`,
			next:
				facts.people > 1 || facts.invited > 0
					? facts.invited
						? 'Who has a starting code chooses a PIN on the sign-in page.'
						: 'A second lead can reset the first one’s PIN.'
					: 'Enter who works here: badge and role; each chooses a PIN at first use.'
		},
		{
			code: 'lines',
			title: 'The lines and their machines',
			done: facts.lines.some((line) => line.stations > 0),
			stands: facts.lines.length
				? facts.lines.map((line) => `${line.name}: ${counted(line.stations, 'station')}`).join('; ')
				: 'no line yet',
			next: 'Enter a line with its stations, from the papers of the machines.'
		},
		{
			code: 'rules',
			title: 'The rules',
			done: facts.rulesSaid,
			stands: facts.rulesSaid ? 'looked at by somebody' : 'as they start: reasons of stops, yields, PINs, what is kept',
			next: 'Look at what they start with, and say that they are right, or change them.'
		},
		{
			code: 'machines',
			title: 'How results come in',
			done: facts.sources === null || facts.sources > 0,
			stands:
				facts.sources === null
					? 'by hand and by file'
					: facts.sources
						? `${counted(facts.sources, 'token speaks', 'tokens speak')} for machines`
						: 'not said yet',
			next: 'Make a token for machines that send messages, or say that results come by hand and by file.'
		},
		{
			code: 'paste',
			title: 'The paste',
			done: facts.pastes > 0 && facts.jars > 0,
			stands: `${counted(facts.pastes, 'paste')} with data, ${counted(facts.jars, 'jar')} received`,
			next: facts.pastes ? 'Receive a jar by its label.' : 'Define the paste from its data sheet, then receive a jar.'
		},
		{
			code: 'board',
			title: 'The board',
			done: facts.sides > 0,
			stands: facts.sides ? counted(facts.sides, 'board side') : 'no board yet',
			next: 'Read in a board: paste layer, positions, bill of materials; then set its panel.'
		},
		{
			code: 'release',
			title: 'Stencil, program and recipe',
			done: facts.readySides > 0,
			stands: `${facts.readySides} of ${counted(facts.sides, 'side')} can be run`,
			next: 'Release the stencil, the placement program and the oven recipe of one side on a line.'
		},
		{
			code: 'job',
			title: 'The first job',
			done: facts.jobs > 0,
			stands: counted(facts.jobs, 'job'),
			next: 'Enter a job and begin its set-up on a line.'
		},
		{
			code: 'panel',
			title: 'The first panel',
			done: facts.panels > 0,
			stands: facts.panels ? `${counted(facts.panels, 'panel')} reported` : 'no panel yet',
			next: 'Prove the set-up, print, and give the results by message, by file or by hand.'
		}
	];
	const at = steps.findIndex((step) => !step.done);
	return steps.map(({ done, open, ...step }, i) => ({
		...step,
		level: done ? (open ? 'watch' : 'good') : i === at ? 'act' : 'noData',
		next: done && !open ? '' : step.next
	}));
}
