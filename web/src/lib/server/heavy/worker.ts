import { readPackage, withFacts, type EnteredFacts } from '@keen-relay/core/parts';
import { readProgram } from '@keen-relay/core/balance';
import { otherLayers, type BoardFiles, type ReadBoard } from '@keen-relay/core/boards';
import {
	factorsOfRun,
	findSignatures,
	followUp,
	lookAtVisits,
	readPasteTable,
	visitsOf,
	type VisitMapping
} from '@keen-relay/core/inspection';
import { InputError } from '@keen-relay/core/judgement';
import { readProfileLog } from '@keen-relay/core/reflow';
import { calculationByName } from '../../api/calc/index.ts';
import { strictText } from '../files/strict-text.ts';
import { readBoardFiles } from './read-files.ts';
import { writeSheet } from './spreadsheet.ts';

// What takes a thread of its own for longer than a page may wait, and whatever comes from outside: plain data in, plain data out. Built apart from the server,
// begun by ./pool.ts.

/** A refusal crosses as data: an error's own fields would be lost. */
export type Answer<T> = { done: T } | { refused: ConstructorParameters<typeof InputError> };

const work =
	<Args extends readonly unknown[], Result>(does: (...args: Args) => Result | Promise<Result>) =>
	async (args: Args): Promise<Answer<Result>> => {
		try {
			return { done: await does(...args) };
		} catch (caught) {
			if (!(caught instanceof InputError)) throw caught;
			return { refused: [caught.code, caught.path, caught.expected, String(caught.received).slice(0, 200)] };
		}
	};

export const signatures = work(findSignatures);
export const signatureFollowUp = work(followUp);
export const unitFactors = work(factorsOfRun);

/** Files of a board, with what the plant has entered of packages. */
export const board = work((files: BoardFiles, facts: ReadonlyMap<string, EnteredFacts>): Promise<ReadBoard> =>
	readBoardFiles(files, (name) => withFacts(readPackage(name), facts.get(name) ?? {}))
);
export const drawnLayers = work((files: Parameters<typeof otherLayers>[0], side: Parameters<typeof otherLayers>[1], widthMm: number) =>
	otherLayers(files, side, widthMm, strictText)
);
export const pasteTable = work(readPasteTable);
export const program = work(readProgram);
export const profileLog = work(readProfileLog);
/** One calculation of the core by its name, on input that its schema let through. */
export const calculate = work((name: string, input: unknown): unknown => calculationByName.get(name)!.run(input as never));
export const sheet = work(writeSheet);
/** A file of visits: what it says of itself, and what it holds as somebody reads it. */
export const visitTable = work((text: string, mapping: VisitMapping | null) => ({
	look: lookAtVisits(text, mapping?.columns),
	read: mapping && visitsOf(text, mapping)
}));
