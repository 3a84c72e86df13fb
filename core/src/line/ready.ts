import { noData, worstLevel, type Level, type Reason, type Verdict } from '../judgement/index.ts';
import { openWords, slotMark, type StandingSlot } from '../feeders/index.ts';
import type { Action } from '../people/index.ts';

/** What has to be shown before a line prints, in the order in which it is set up. */
export const READY_ITEMS = ['stencil', 'foil', 'printRecipe', 'support', 'blades', 'paste', 'program', 'feeders', 'ovenRecipe'] as const;
export type ReadyCode = (typeof READY_ITEMS)[number];

export const READY_NAMES: Record<ReadyCode, string> = {
	stencil: 'Stencil',
	foil: 'Foil',
	printRecipe: 'Print recipe',
	support: 'Support',
	blades: 'Blades',
	paste: 'Paste',
	program: 'Program',
	feeders: 'Feeders',
	ovenRecipe: 'Oven recipe'
};

/** proven: it was looked at and is right. open: nobody has looked, or it is not as it should be. wrong: what stands there must never run. */
export type ReadyMark = 'proven' | 'open' | 'wrong';

export interface ReadyItem {
	code: ReadyCode;
	/** "Stencil". */
	name: string;
	mark: ReadyMark;
	/** What proves it, or what speaks against it; a sentence. */
	why: string;
	/** Imperative; null where nothing is to be done. */
	next: string | null;
	/** Code to scan for it; null where it is no scan. */
	scan: string | null;
	/** Where it is done, as the application names its places, and the right that it asks for. */
	where: string;
	right: Action;
	/** A lead may let the line print without it, for a while. */
	mayOverride: boolean;
	/** It has to hold for as long as the line prints, not only at the start. */
	always: boolean;
}

/** A slot of a placer, with the code on its label, the part that the program takes there, and where its page is. */
export interface ReadySlot extends StandingSlot {
	label: string;
	part: string;
	where: string;
}

/** What was found at a line about the run that it is to build. */
export interface ReadyFacts {
	nowMs: number;
	/** The stencil that was scanned for this run; null: none was. */
	stencil: { code: string; inPrinter: boolean; against: readonly { why: string; fix: string }[] } | null;
	/** A stencil of the library that fits: the one to fetch. */
	fetchStencil: { code: string; place: string } | null;
	/** The verdict with which the stencil's design was released. */
	foil: Verdict;
	/** Revision of the released print recipe; null without one. */
	printRecipe: number | null;
	/** Of the recipe's support pins; null where the recipe has none. */
	support: Verdict | null;
	/** The blade in each holder; null where none was scanned. */
	blades: Record<'F' | 'R', { code: string; nicked: boolean; verdict: Verdict } | null>;
	/** What lies on the stencil; null where no jar was scanned onto it. */
	bead: { paste: string; jars: readonly string[]; endsMs: number | null } | null;
	/** The paste that the run asks for. */
	wanted: string;
	/** An open jar of it that may go on the stencil; null where none is open. */
	fetchJar: string | null;
	programRevision: number;
	/** Nozzles out of service with which the program places; its pages are those of their placer. */
	nozzlesOut: readonly { station: string; name: string; why: string; where: string }[];
	/** Every slot that the program takes pieces from, at all placers of the line. */
	slots: readonly ReadySlot[];
	ovenRecipeRevision: number;
	oven: Verdict;
}

const bad = (level: Level) => level === 'act' || level === 'stopped';

/** What a line has to show before it prints, each with its mark, why, and what to do next.
 * @see common practice: a set-up is what was scanned and measured, not what somebody remembers
 */
export function readyItems(f: ReadyFacts): ReadyItem[] {
	const item = (
		code: ReadyCode,
		mark: ReadyMark,
		why: string,
		rest: { next?: string | null; scan?: string | null; where: string; right: Action; mayOverride?: boolean; always?: boolean }
	): ReadyItem => ({
		code,
		name: READY_NAMES[code],
		mark,
		why,
		next: mark === 'proven' ? null : (rest.next ?? null),
		scan: mark === 'proven' ? null : (rest.scan ?? null),
		where: rest.where,
		right: rest.right,
		mayOverride: mark === 'open' && rest.mayOverride === true,
		always: rest.always ?? false
	});
	return [
		stencilItem(f, item),
		item('foil', bad(f.foil.level) ? 'open' : 'proven', f.foil.statement, {
			next: f.foil.doNext[0] ?? 'Release another foil',
			where: '/print/stencil',
			right: 'stencil.release',
			mayOverride: true
		}),
		item(
			'printRecipe',
			f.printRecipe === null ? 'open' : 'proven',
			f.printRecipe === null ? 'No print recipe is released for this board on this line.' : `Revision ${f.printRecipe} is released.`,
			{ next: 'Release a print recipe', where: '/print/set-up', right: 'printRecipe.release' }
		),
		item(
			'support',
			f.support && !bad(f.support.level) ? 'proven' : 'open',
			f.support?.statement ?? 'The print recipe says nothing of the support under the panel.',
			{ next: f.support?.doNext[0] ?? 'Set support pins', where: '/print/set-up', right: 'printRecipe.release', mayOverride: true }
		),
		bladesItem(f, item),
		pasteItem(f, item),
		programItem(f, item),
		feedersItem(f, item),
		item(
			'ovenRecipe',
			bad(f.oven.level) ? 'open' : 'proven',
			bad(f.oven.level)
				? `Revision ${f.ovenRecipeRevision} is outside its window: ${f.oven.statement}`
				: `Revision ${f.ovenRecipeRevision}: ${f.oven.statement}`,
			{ next: f.oven.doNext[0] ?? 'Release another recipe', where: '/oven', right: 'recipe.release', mayOverride: true }
		)
	];
}

type MakeItem = (
	code: ReadyCode,
	mark: ReadyMark,
	why: string,
	rest: { next?: string | null; scan?: string | null; where: string; right: Action; mayOverride?: boolean; always?: boolean }
) => ReadyItem;

function stencilItem({ stencil, fetchStencil }: ReadyFacts, item: MakeItem): ReadyItem {
	const rest = { where: '/print/stencil/library', right: 'stencilTool.mount', always: true } as const;
	const fetch = fetchStencil
		? `Scan ${fetchStencil.code} into the printer, from ${fetchStencil.place}`
		: 'Scan the stencil into the printer; none of the library fits';
	if (!stencil || !stencil.inPrinter)
		return item('stencil', 'open', stencil ? `${stencil.code} was taken out of the printer.` : 'No stencil was scanned for this run.', {
			...rest,
			next: fetch,
			scan: fetchStencil?.code ?? null,
			mayOverride: stencil === null
		});
	const [against] = stencil.against;
	if (against) return item('stencil', 'wrong', against.why, { ...rest, next: against.fix });
	return item('stencil', 'proven', `${stencil.code} is in the printer: right board, side, panel and foil.`, rest);
}

function bladesItem({ blades }: ReadyFacts, item: MakeItem): ReadyItem {
	const rest = { where: '/print', right: 'blade.fit' } as const;
	const [front, rear] = [blades.F, blades.R];
	const missing = [...(front ? [] : ['front']), ...(rear ? [] : ['rear'])];
	if (!front || !rear)
		return item('blades', 'open', `No blade was scanned into the ${missing.join(' and the ')} holder.`, {
			...rest,
			next: 'Scan the blades',
			mayOverride: true
		});
	const nicked = [front, rear].find((b) => b.nicked);
	if (nicked) return item('blades', 'wrong', `${nicked.code} has a nick.`, { ...rest, next: 'Replace the blade' });
	const worn = [front, rear].find((b) => bad(b.verdict.level));
	if (worn)
		return item('blades', 'open', `${worn.code}: ${worn.verdict.statement}`, {
			...rest,
			next: 'Replace the blade',
			mayOverride: true
		});
	return item(
		'blades',
		'proven',
		`${front.code} in front, ${front.verdict.statement} ${rear.code} at the rear, ${rear.verdict.statement}`,
		rest
	);
}

function pasteItem({ bead, wanted, fetchJar, nowMs }: ReadyFacts, item: MakeItem): ReadyItem {
	const rest = { where: '/paste', right: 'jar.scan', always: true } as const;
	const load = fetchJar ? `Scan ${fetchJar} onto the stencil` : `Open a jar of ${wanted} and scan it onto the stencil`;
	if (!bead)
		return item('paste', 'open', 'No paste was scanned onto the stencil.', { ...rest, next: load, scan: fetchJar, mayOverride: true });
	if (bead.paste !== wanted)
		return item('paste', 'wrong', `${bead.paste} lies on the stencil; this run asks for ${wanted}.`, {
			...rest,
			next: `Take the bead off, wash the stencil, and load ${wanted}`
		});
	if (bead.endsMs !== null && bead.endsMs <= nowMs)
		return item('paste', 'wrong', 'The paste on the stencil is past its life.', {
			...rest,
			next: 'Take the bead off and discard it; start with a fresh jar'
		});
	const hours = bead.endsMs === null ? '' : `, good for ${((bead.endsMs - nowMs) / 3_600_000).toFixed(1)} h more`;
	return item('paste', 'proven', `${bead.jars.join(', ')} on the stencil${hours}.`, rest);
}

/** What a machine stops at by itself: an empty reel harms nobody once the line runs. */
const STOPS_BY_ITSELF = 'EMPTY_REEL';

function programItem({ programRevision, nozzlesOut }: ReadyFacts, item: MakeItem): ReadyItem {
	const [first] = nozzlesOut;
	if (!first) return item('program', 'proven', `Revision ${programRevision} is released.`, { where: '/place', right: 'program.release' });
	const more = nozzlesOut.length > 1 ? `, and ${nozzlesOut.length - 1} more` : '';
	return item(
		'program',
		'wrong',
		`Revision ${programRevision} places with nozzle ${first.name} of ${first.station}, out of service: ${first.why}${more}.`,
		{
			next: `Put another nozzle in as ${first.name}, then take it back into service`,
			where: first.where,
			right: 'feeder.keep'
		}
	);
}

function feedersItem({ slots }: ReadyFacts, item: MakeItem): ReadyItem {
	const rest = { right: 'feeder.load' } as const;
	const of = (mark: ReturnType<typeof slotMark>) => slots.filter((slot) => slotMark(slot) === mark);
	const [wrong, open] = [of('wrong'), of('open')];
	if (wrong.length) {
		const first = wrong.find(({ check }) => check!.codes[0] !== STOPS_BY_ITSELF) ?? wrong[0]!;
		const words = first.check!.words;
		return item('feeders', 'wrong', `${first.label}: ${words}${wrong.length > 1 ? ` ${wrong.length - 1} more.` : ''}`, {
			...rest,
			where: first.where,
			next: `Take the feeder out of ${first.label} and scan the right one, with ${first.part}`,
			scan: first.label,
			always: first.check!.codes[0] !== STOPS_BY_ITSELF
		});
	}
	const [first] = open;
	if (first)
		return item(
			'feeders',
			'open',
			`${open.length} of ${slots.length} slots ${open.length === 1 ? 'is' : 'are'} not verified. ${first.label}: ${openWords(first)}`,
			{
				...rest,
				where: first.where,
				next: first.check?.ok
					? `Let a second person scan ${first.label} and its feeder`
					: `Scan ${first.label}, its feeder and a reel of ${first.part}`,
				scan: first.label,
				mayOverride: true
			}
		);
	const why = slots.length ? `All ${slots.length} slots of the program are right by scan.` : 'The program takes nothing from a feeder.';
	return item('feeders', 'proven', why, { ...rest, where: '/place' });
}

/** A lead's leave to print without some of it. */
export interface Override {
	codes: readonly ReadyCode[];
	reason: string;
	by: string;
	atMs: number;
	/** null: for the whole run. */
	untilMs: number | null;
}

/** How long an override lasts that is not for the whole run, ms. */
export const OVERRIDE_MS = 30 * 60_000;

/** Whether an override holds at an instant. */
export const holdsAt = ({ atMs, untilMs }: Override, ms: number) => ms >= atMs && (untilMs === null || ms < untilMs);

/** What is missing of a set-up at an instant, overridden items left out.
 * @param started whether the run prints already: then only what has to hold always stops it, and what was overridden once that holds no more
 */
export function missing(items: readonly ReadyItem[], overrides: readonly Override[], nowMs: number, started: boolean): ReadyItem[] {
	const covered = (item: ReadyItem) => item.mayOverride && overrides.some((o) => o.codes.includes(item.code) && holdsAt(o, nowMs));
	const asked = (item: ReadyItem) => !started || item.always || overrides.some((o) => o.codes.includes(item.code));
	return items.filter((item) => item.mark !== 'proven' && !covered(item) && asked(item));
}

/** What is never overridden for longer than {@link OVERRIDE_MS}: somebody scans it meanwhile. */
export const BRIEFLY: readonly ReadyCode[] = ['feeders'];

/** Why these items may not be overridden; null where they may.
 * @param wholeRun for the run, not for {@link OVERRIDE_MS}
 */
export function refusesOverride(
	items: readonly ReadyItem[],
	codes: readonly ReadyCode[],
	reason: string,
	wholeRun: boolean
): string | null {
	if (reason.trim().length < 3) return 'Say why the line may print without it.';
	if (codes.length === 0) return 'Say what is overridden.';
	for (const code of codes) {
		const item = items.find((i) => i.code === code);
		if (!item || item.mark === 'proven') return `${item?.name ?? code} needs no override.`;
		if (!item.mayOverride) return `${item.name}: never by an override. ${item.why} ${item.next ?? ''}`.trim();
		if (wholeRun && BRIEFLY.includes(code)) return `${item.name}: for 30 minutes at most. ${item.next ?? ''}`.trim();
	}
	return null;
}

/** How a set-up stands.
 * @param started whether the run prints already
 * @param number of the job
 */
export function judgeReady(
	number: string,
	items: readonly ReadyItem[],
	overrides: readonly Override[],
	nowMs: number,
	started: boolean
): Verdict {
	const open = missing(items, overrides, nowMs, started);
	const because: Reason[] = items.map((item) => ({
		quantity: item.name,
		value: { proven: 'proven', open: 'open', wrong: 'wrong' }[item.mark],
		unit: '',
		limit: item.why,
		source: 'what was scanned, measured or released'
	}));
	const first = open.find((item) => item.mark === 'wrong') ?? open[0];
	if (first)
		return {
			level: open.some((item) => item.mark === 'wrong') || started ? 'stopped' : 'act',
			statement: `${number} ${started ? 'may not go on' : 'is not ready'}: ${first.why}${open.length > 1 ? ` And ${open.length - 1} more.` : ''}`,
			because,
			doNext: open.flatMap((item) => (item.next === null ? [] : [item.next]))
		};
	const held = overrides.filter((o) => holdsAt(o, nowMs) && items.some((i) => i.mark !== 'proven' && o.codes.includes(i.code)));
	const names = items.filter((i) => held.some((o) => o.codes.includes(i.code)) && i.mark !== 'proven').map((i) => i.name.toLowerCase());
	if (names.length)
		return {
			level: 'watch',
			statement: `${number} ${started ? 'prints' : 'may start'} under an override: ${names.join(', ')}. ${held[0]!.by}: ${held[0]!.reason}`,
			because,
			doNext: started ? [] : ['Start printing']
		};
	if (items.length === 0) return noData('Nothing to set up.');
	const lost = items.filter((i) => i.mark !== 'proven');
	if (lost.length)
		return {
			level: 'watch',
			statement: `${number} prints; ${items.length - lost.length} of ${items.length} points are as they were proven. ${lost[0]!.name}: ${lost[0]!.why}`,
			because,
			doNext: lost.flatMap((item) => (item.next === null ? [] : [item.next]))
		};
	return started
		? { level: 'good', statement: `All ${items.length} points of ${number} are proven.`, because, doNext: [] }
		: { level: 'act', statement: `${number} is ready: all ${items.length} points are proven.`, because, doNext: ['Start printing'] };
}

/** The level of an item, for its mark on a page. */
export function readyLevel(item: ReadyItem, overridden: boolean): Level {
	if (item.mark === 'proven') return 'good';
	return worstLevel([item.mark === 'wrong' ? 'stopped' : overridden ? 'watch' : 'act']);
}
