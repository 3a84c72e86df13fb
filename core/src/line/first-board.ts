import { noData, type Reason, type Verdict } from '../judgement/index.ts';

/** hold: nothing more is printed until a second person has released the first board. roll: the line goes on, and what it builds before is marked. */
export const FIRST_BOARD_MODES = ['hold', 'roll'] as const;
export type FirstBoardMode = (typeof FIRST_BOARD_MODES)[number];

/** How a plant chooses between them; none: it keeps its first boards elsewhere. */
export const FIRST_BOARD_POLICIES = ['byRisk', 'hold', 'roll', 'none'] as const;
export type FirstBoardPolicy = (typeof FIRST_BOARD_POLICIES)[number];

/** What makes a first board risky, as it is known when a line begins to print. */
export interface FirstBoardRisk {
	/** Nothing was built of this side on this line before. */
	never: boolean;
	/** "stencil", "program": released anew since the last run here. */
	newRevisions: readonly string[];
	/** Paste lots on the stencil that this side was never printed with. */
	newLots: readonly string[];
	/** A line of the last first board was found wrong. */
	wrongBefore: boolean;
}

/** Chooses by risk: held where something is new or was wrong, rolled where it is a proven repeat (common practice: hold is safer, roll is for proven repeats).
 * @returns the mode, and why; no mode where the plant keeps none here
 * @example firstBoardMode('byRisk', { never: false, newRevisions: [], newLots: [], wrongBefore: false }) // => { mode: 'roll', why: ['a proven repeat'] }
 */
export function firstBoardMode(
	policy: FirstBoardPolicy,
	{ never, newRevisions, newLots, wrongBefore }: FirstBoardRisk
): { mode: FirstBoardMode | null; why: string[] } {
	if (policy === 'none') return { mode: null, why: [] };
	if (policy !== 'byRisk') return { mode: policy, why: [`the plant ${policy === 'hold' ? 'holds' : 'rolls'} every first board`] };
	const why = [
		...(never ? ['nothing was built of it here before'] : newRevisions.map((what) => `the ${what} is new`)),
		...(newLots.length ? [`paste of lot ${newLots.join(', ')} is new to it`] : []),
		...(wrongBefore ? ['its last first board had something wrong'] : [])
	];
	return why.length ? { mode: 'hold', why } : { mode: 'roll', why: ['a proven repeat'] };
}

/** What a run is built with, as its first board is looked at by. */
export interface FirstBoardFacts {
	paste: { lots: readonly string[]; stencil: string; printRecipe: number | null };
	slots: readonly {
		station: string;
		slot: number;
		partNumber: string;
		value: string;
		refDes: readonly string[];
		feeder: string | null;
		reel: string | null;
		lot: string | null;
		/** Revisions of the trims that move its parts. */
		trims: readonly number[];
	}[];
	placers: readonly {
		station: string;
		program: number;
		/** When its nozzles were last cared for or changed, ms. */ nozzlesMs: number | null;
		/** Revisions of the trims that move all that it places. */
		trims: readonly number[];
	}[];
	byHand: readonly { partNumber: string; refDes: readonly string[] }[];
	oven: { station: string | null; recipe: number };
}

/** A line of the checklist. */
export interface FirstBoardItem {
	/** Stays the same while the run lasts: "slot Place 1 23". */
	key: string;
	/** Where on the line: "Place 1, slot 23". */
	where: string;
	/** What is looked at. */
	look: string;
	/** What the answer rests on; another one opens the line again. */
	rests: string;
	/** The machine that a panel must have been through to be looked at; null: it is enough that it is printed. */
	through: string | null;
}

const few = (refDes: readonly string[]) => `${refDes.slice(0, 6).join(' ')}${refDes.length > 6 ? ` and ${refDes.length - 6} more` : ''}`;

const trimmed = (trims: readonly number[]) => (trims.length ? `, trim ${trims.join(', ')}` : '');

/** The checklist of a first board, made from what the run is built with, in the order in which boards travel. */
export function firstBoardItems(f: FirstBoardFacts): FirstBoardItem[] {
	return [
		{
			key: 'paste',
			where: 'Print',
			look: 'Deposits in place, whole, none bridged, right under the finest parts',
			rests: `paste lot ${f.paste.lots.join(', ') || 'unknown'}, stencil ${f.paste.stencil || 'unknown'}, print recipe ${f.paste.printRecipe ?? 'none'}`,
			through: null
		},
		...f.slots.map((s) => ({
			key: `slot ${s.station} ${s.slot}`,
			where: `${s.station}, slot ${s.slot}`,
			look: `${s.partNumber}${s.value && s.value !== s.partNumber ? ` ${s.value}` : ''}: value, polarity, place of ${few(s.refDes)}`,
			rests: `reel ${s.reel ?? 'none'}, lot ${s.lot ?? 'unknown'}, feeder ${s.feeder ?? 'none'}${trimmed(s.trims)}`,
			through: s.station
		})),
		...f.placers.map((p) => ({
			key: `placer ${p.station}`,
			where: p.station,
			look: 'Parts centred on their pads, pressed into the paste, none lost or turned',
			rests: `program ${p.program}${p.nozzlesMs === null ? '' : `, nozzles as of ${new Date(p.nozzlesMs).toISOString()}`}${trimmed(p.trims)}`,
			through: p.station
		})),
		...f.byHand.map((hand) => ({
			key: `hand ${hand.partNumber}`,
			where: 'By hand',
			look: `${hand.partNumber}: placed, the right way round, pressed down: ${few(hand.refDes)}`,
			rests: 'this run',
			through: null
		})),
		{
			key: 'oven',
			where: 'After the oven',
			look: 'Joints wetted, no bridges, no parts on end; the board not scorched or bent',
			rests: `oven recipe ${f.oven.recipe}`,
			through: f.oven.station
		}
	];
}

export interface FirstBoardAnswer {
	key: string;
	rests: string;
	right: boolean;
	note: string;
	panel: string;
	personId: string;
	by: string;
	atMs: number;
}

/** open: nobody has looked. again: what it rested on is another one since. */
export type FirstBoardMark = 'right' | 'wrong' | 'open' | 'again';

export interface FirstBoardLine extends FirstBoardItem {
	mark: FirstBoardMark;
	/** The latest that was said of it. */
	answer: FirstBoardAnswer | null;
}

/** How each line stands: its latest answer counts, while what it rests on is the same. */
export function firstBoardLines(items: readonly FirstBoardItem[], answers: readonly FirstBoardAnswer[]): FirstBoardLine[] {
	const latest = new Map<string, FirstBoardAnswer>();
	for (const answer of answers) if (answer.atMs >= (latest.get(answer.key)?.atMs ?? -Infinity)) latest.set(answer.key, answer);
	return items.map((item) => {
		const answer = latest.get(item.key) ?? null;
		const mark = !answer ? 'open' : answer.rests !== item.rests ? 'again' : answer.right ? 'right' : 'wrong';
		return { ...item, mark, answer };
	});
}

/** Why somebody may not release a first board; null where they may. A second person does it: none of those who looked.
 * @param personId who would release it
 */
export function refusesFirstBoard(lines: readonly FirstBoardLine[], personId: string): string | null {
	const left = lines.filter(({ mark }) => mark !== 'right');
	if (left.length) return `${left.length === 1 ? 'One line is' : `${left.length} lines are`} not right: ${left[0]!.where}.`;
	const own = lines.find(({ answer }) => answer!.personId === personId);
	return own ? `A second person releases it: you looked at ${own.where} yourself.` : null;
}

/** What a first board says of its run. One that is held, or has a line wrong, asks for an act. */
export function judgeFirstBoard(of: {
	number: string;
	mode: FirstBoardMode;
	why: readonly string[];
	lines: readonly FirstBoardLine[];
	/** Panels that were printed, and of them those after the release; null: not released. */
	printed: number;
	released: { by: string } | null;
}): Verdict {
	const { lines, mode, number, released, printed } = of;
	if (printed === 0) return noData(`Nothing of ${number} is printed yet.`);
	const count = (mark: FirstBoardMark) => lines.filter((line) => line.mark === mark).length;
	const [right, wrong, again] = [count('right'), count('wrong'), count('again')];
	const first = (mark: FirstBoardMark) => lines.find((line) => line.mark === mark)!;
	const because: Reason[] = [
		{
			quantity: 'Lines that are right',
			value: right,
			unit: '',
			limit: `all ${lines.length}`,
			source: 'made from what the run is built with'
		},
		{
			quantity: mode === 'hold' ? 'Held' : 'Rolled',
			value: of.why.join('; '),
			unit: '',
			limit: null,
			source: 'common practice: hold what is new, roll proven repeats'
		}
	];
	if (wrong)
		return {
			level: 'act',
			statement: `${first('wrong').where} is wrong on the first board of ${number}${wrong > 1 ? `, and ${wrong - 1} more` : ''}.`,
			because,
			doNext: ['Set it right, then look at it on the next panel']
		};
	if (released && again)
		return {
			level: 'watch',
			statement: `${first('again').where} changed since the first board of ${number} was released${again > 1 ? `, and ${again - 1} more` : ''}.`,
			because,
			doNext: ['Look at those lines on the next panel']
		};
	if (released) return { level: 'good', statement: `The first board of ${number} is released by ${released.by}.`, because, doNext: [] };
	const left = lines.length - right;
	const statement = left
		? `${left} of ${lines.length} lines of the first board of ${number} are still to be looked at`
		: `The first board of ${number} is right and waits for a second person`;
	return {
		level: mode === 'hold' ? 'act' : 'watch',
		statement: `${statement}${mode === 'hold' ? '; nothing more is printed before its release' : ''}.`,
		because,
		doNext: [left ? 'Look at the first board, line by line' : 'Let a second person release it']
	};
}
