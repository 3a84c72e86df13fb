import { CARE_RULES, ROUND_RULES } from '@keen-relay/core/feeders';
import { YIELD_GOALS } from '@keen-relay/core/inspection';
import { FIRST_BOARD_POLICIES } from '@keen-relay/core/line';
import { LEAST_DIGITS } from '@keen-relay/core/people';
import { CHARGED, STOP_REASONS } from '@keen-relay/core/schedule';
import { z } from 'zod';

/** A rule that a plant sets for itself: what it starts with, where that comes from, and what goes by it. */
interface PlantRule<S extends z.ZodObject = z.ZodObject> {
	title: string;
	/** What goes by it. */
	about: string;
	/** Where the start values come from. */
	source: string;
	schema: S;
	start: z.input<S>;
}

const rule = <S extends z.ZodObject>(of: PlantRule<S>): PlantRule<S> => of;
const share = (title: string) => z.number().min(0.5).max(1).meta({ title, unit: 'share that passes at first' });
const digits = (title: string) => z.int().min(4).max(12).meta({ title, unit: 'digits' });

/** Every rule, by the word that is stored. */
export const RULES = {
	stopReasons: rule({
		title: 'Reasons of stops',
		about:
			'The words that a person touches when a machine stood; lost time is added up by them. A reason that was used is never lost: take it out of use instead.',
		source: 'A two-level list: words, and who can prevent the stop. Common practice.',
		schema: z.object({
			reasons: z
				.array(
					z.object({
						code: z
							.string()
							.trim()
							.regex(/^[A-Za-z][\w-]{1,29}$/, 'letters and digits, 2 to 30')
							.meta({ title: 'Code' }),
						words: z.string().trim().min(1).max(40).meta({ title: 'Words' }),
						charged: z.enum(CHARGED).meta({ title: 'Charged to' }),
						inUse: z.boolean().default(true).meta({ title: 'Offered' })
					})
				)
				.min(1)
				.max(24)
				.refine((list) => new Set(list.map((r) => r.code.toLowerCase())).size === list.length, 'each code stands once')
				.refine((list) => list.some((r) => r.inUse), 'at least one reason is offered')
				.meta({ title: 'Reasons' })
		}),
		start: {
			reasons: Object.entries(STOP_REASONS).map(([code, { words, charged }]) => ({ code, words, charged, inUse: true }))
		}
	}),
	defectCodes: rule({
		title: 'Kinds of defects',
		about:
			'The words that a person at a bench is offered, and what the codes of inspection machines and testers are called on every page. A code that is not here stays as the machine says it.',
		source: 'Common practice: what is seen at placement, at the joint and in the test.',
		schema: z.object({
			codes: z
				.array(
					z.object({
						code: z.string().trim().min(1).max(60).meta({ title: 'Code, as it is reported' }),
						words: z.string().trim().min(1).max(40).meta({ title: 'Words' }),
						inUse: z.boolean().default(true).meta({ title: 'Offered' })
					})
				)
				.max(60)
				.refine((list) => new Set(list.map((r) => r.code.toLowerCase())).size === list.length, 'each code stands once')
				.meta({ title: 'Kinds' })
		}),
		start: {
			codes: [
				['missing', 'part missing'],
				['wrong part', 'wrong part'],
				['polarity', 'turned the wrong way'],
				['skew', 'skewed or shifted'],
				['tombstone', 'stands on one end'],
				['billboard', 'lies on its side'],
				['bridge', 'bridge between joints'],
				['insufficient', 'too little solder'],
				['open', 'open joint'],
				['lifted lead', 'lifted lead'],
				['no contact', 'no contact in the fixture'],
				['damage', 'damaged part or board']
			].map(([code, words]) => ({ code: code!, words: words!, inUse: true }))
		}
	}),
	yieldGoals: rule({
		title: 'Yields to aim at',
		about: 'First-pass yield below its goal asks for a look; only when the whole 95 % interval lies below it, it asks for an act.',
		source: 'Ours, to start from: a plant replaces them by what its customers and its own best month ask for.',
		schema: z.object({
			pasteCheck: share('Paste check'),
			optical: share('Optical'),
			inCircuit: share('In-circuit'),
			bench: share('Bench')
		}),
		start: YIELD_GOALS
	}),
	alarmBudget: rule({
		title: 'Alarm budget',
		about:
			'How many acts a line may ask of one person in an hour. Next up says so where more are due: then either more people work the line, or something asks too often.',
		source: 'EEMUA 191 and IEC 62682 (values from memory): about six an hour are handled well, twelve at the most.',
		schema: z.object({ actsPerHour: z.int().min(1).max(60).meta({ title: 'Acts due in an hour', unit: 'acts a line' }) }),
		start: { actsPerHour: 12 }
	}),
	pins: rule({
		title: 'PINs and badges',
		about:
			'Holds for PINs that are chosen from now on. Easy ones (digits in a row, the badge, one digit again and again) are always refused.',
		source: 'Ours: four digits hold for weeks against the limits of guessing; a lead can enter people and change rights, so six.',
		schema: z.object({
			operator: digits('Operator'),
			technician: digits('Technician'),
			engineer: digits('Engineer'),
			quality: digits('Quality'),
			lead: z.int().min(6).max(12).meta({ title: 'Lead', unit: 'digits' }),
			badgeIdleS: z.int().min(20).max(600).meta({ title: 'A badge at a shared screen is forgotten after', unit: 's without a touch' })
		}),
		start: { ...LEAST_DIGITS, badgeIdleS: 90 }
	}),
	splices: rule({
		title: 'Splices and breaks',
		about: 'When reels run out by the clock, when they are spliced, and the round of one technician over them.',
		source:
			'A splice takes 45 to 90 s, people walk at about 1 m/s: common practice. Ours: a line runs through its breaks until the plant says otherwise, so that nothing is spliced too late.',
		schema: z.object({
			lineStands: z.boolean().default(false).meta({ title: 'Lines stand in the breaks of a shift' }),
			spliceS: z.number().min(10).max(600).meta({ title: 'A splice takes', unit: 's' }),
			tailMin: z.number().min(1).max(120).meta({ title: 'It can be begun when the reel feeds at most', unit: 'min' }),
			walkMPerS: z.number().min(0.2).max(3).meta({ title: 'Walking', unit: 'm/s' })
		}),
		start: {
			lineStands: false,
			spliceS: ROUND_RULES.spliceS,
			tailMin: ROUND_RULES.tailS / 60,
			walkMPerS: ROUND_RULES.walkMPerS
		}
	}),
	care: rule({
		title: 'Care of feeders and nozzles',
		about: 'After so many picks a feeder or a nozzle is due for care: the placer says so, and its page has the button that notes it done.',
		source: 'Ours, to start from: what is right for a machine stands in its manual.',
		schema: z.object({
			feederPicks: z.int().min(1000).max(100_000_000).meta({ title: 'A feeder after', unit: 'picks' }),
			nozzlePicks: z.int().min(1000).max(100_000_000).meta({ title: 'A nozzle after', unit: 'picks' })
		}),
		start: CARE_RULES
	}),
	slotCheck: rule({
		title: 'Second check of the slots',
		about:
			'Whether a second person scans each slot and its feeder before a line prints. A splice while the line runs is matched by its own scan and asks for no second one.',
		source: 'Common practice where a wrong part costs much; many plants trust one scan of slot, feeder and reel.',
		schema: z.object({ second: z.boolean().default(false).meta({ title: 'A second person scans each slot too' }) }),
		start: { second: false }
	}),
	firstBoard: rule({
		title: 'First board of a run',
		about:
			'Whether a line prints nothing more until a second person has released the first board, or goes on and marks what it builds before. By risk: held where something is new (side, stencil, program, recipe, paste lot) or was wrong the last time, else rolled.',
		source: 'Both are common practice: to hold is safer for what is new, to roll is for proven repeats.',
		schema: z.object({
			policy: z.enum(FIRST_BOARD_POLICIES).meta({
				title: 'The line',
				words: { byRisk: 'holds by risk', hold: 'always holds', roll: 'always goes on', none: 'keeps its first boards elsewhere' }
			})
		}),
		start: { policy: 'byRisk' as const }
	}),
	retention: rule({
		title: 'What is kept how long',
		about:
			'Results, readings, panels and the log are kept for good; months of raw pad readings are taken out by “npm run detach”, never by themselves. What goes by itself is the list of messages that tells repeats from new ones, once the start of the machine that sent them is over, and where each part of a panel sat, which trims need for a while.',
		source: 'Ours: a machine that was silent for a month and has started anew sends nothing of its old start again.',
		schema: z.object({
			ledgerDays: z.int().min(7).max(400).meta({ title: 'Message numbers of a machine’s past start', unit: 'days' }),
			offsetDays: z.int().min(1).max(4000).default(90).meta({ title: 'Where each part of a panel sat', unit: 'days' })
		}),
		start: { ledgerDays: 30, offsetDays: 90 }
	})
} as const;

export type RuleName = keyof typeof RULES;
export type RuleValue<N extends RuleName> = z.output<(typeof RULES)[N]['schema']>;
export const RULE_NAMES = Object.keys(RULES) as RuleName[];

/** What a defect is called here; a code that nobody listed is said as the machine says it. */
export const defectWords = (code: string, { codes }: RuleValue<'defectCodes'>): string =>
	codes.find((known) => known.code.toLowerCase() === code.toLowerCase())?.words ?? code;

/** Words of a reason, also of one that the plant no longer lists. */
export function reasonWords(code: string, { reasons }: RuleValue<'stopReasons'>): string {
	const known: Record<string, { words: string }> = STOP_REASONS;
	return reasons.find((reason) => reason.code === code)?.words ?? known[code]?.words ?? code;
}
