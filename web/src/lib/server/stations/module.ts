import type { SidePads } from '@keen-relay/core/inspection';
import type { CameTo } from '@keen-relay/core/trace';
import type { StationRole } from '$lib/stations/index.ts';
import type { Trx } from '../db/index.ts';
import type { Copy } from '../db/pinned.ts';
import type { StoryPart } from './story.ts';
import type { LineContext, StationRow, StationSummary } from './summary.ts';
import type { AnyMessage, MessageKind } from './message-parts.ts';

/** A station as a batch of messages knows it. */
export interface BatchStation {
	id: number;
	lineId: number;
	role: StationRole;
	name: string;
	/** In the order boards travel. */
	position: number;
	last: boolean;
}

export interface BatchRun {
	id: number;
	jobId: number;
	lineId: number;
	boardSideId: number;
	stencilToolId: number | null;
	/** As it was measured, where it was. */
	foilUm: number;
}

/** A panel on its way through a line; `id` is null until the batch is written. */
export interface BatchPass {
	id: number | null;
	serial: string;
	run: BatchRun;
}

/** What a taker is given: the transaction, and what was read for all of the batch. */
export interface BatchFacts {
	trx: Trx;
	copy: Copy;
	runs: ReadonlyMap<number, BatchRun>;
	pads(boardSideId: number): SidePads;
}

/** Where a message is from: its station, the pass that it speaks of where it names a panel, the run where it names one. */
interface Where {
	station: BatchStation;
	pass: BatchPass | null;
	run: BatchRun | null;
}

/** Takes the messages of one kind out of a batch: each is taken or refused in turn, and every table is written once. A refused message leaves nothing behind. */
export interface Taker<M = AnyMessage> {
	/** Reads what these messages refer to. @param passIds passes of the panels that the batch names */
	read?(messages: readonly M[], passIds: readonly number[]): Promise<void>;
	/** @returns why it cannot be taken, or null */
	take(message: M, where: Where): string | null;
	write(): Promise<void>;
	/** Once the batch is on record. */
	afterwards?(): void;
}

/** Rows of one table that hang on a pass: which pass they are of follows from their own time, so they move when a print is heard late. */
export interface PassRows {
	table: string;
	/** Column of the moment that the message gave. */
	at: string;
	/** What the rows of a pass are told apart by. */
	key: readonly string[];
	/** Column of the station that reported; null: the line's own station of this kind. */
	station: string | null;
	/** Takes along what else is kept of a row that moved, and judges it anew by the run that it is of now.
	 * @returns for each row what it was shown as, and what it comes to
	 */
	moved?(trx: Trx, rows: readonly MovedRow[]): Promise<{ shown: CameTo; judged: CameTo }[]>;
}

/** A row that was found to be of another pass of its panel. */
export interface MovedRow {
	from: number;
	to: number;
	at: Date;
	/** Its key columns, as they stand in the table. */
	key: Record<string, number>;
}

/** A kind of station on the server. */
export interface StationModule {
	role: StationRole;
	messages: readonly MessageKind[];
	/** A taker for one batch; null where its machine says nothing of its own. */
	taker: ((facts: BatchFacts) => Taker) | null;
	/** What it keeps by pass. */
	rows?: readonly PassRows[];
	/** Its one verdict, figure and dues. */
	summary: (station: StationRow, line: LineContext) => Promise<StationSummary>;
	/** Its lines in a panel's story. */
	story?: (pass: { id: number; runId: number; lineId: number }) => Promise<StoryPart>;
}

/** Facts that were reported already: a second report of the same is refused. */
export class Claims {
	readonly #taken = new Set<string>();

	constructor(private readonly kind: string) {}

	/** @param keys as `claim` makes them, of what is on record */
	know(keys: Iterable<string>): void {
		for (const key of keys) this.#taken.add(key);
	}

	/** @returns whether nobody reported it before */
	claim(pass: BatchPass, rest: string): boolean {
		const key = `${this.kind} ${pass.id ?? `${pass.serial}@${pass.run.id}`} ${rest}`;
		if (this.#taken.has(key)) return false;
		this.#taken.add(key);
		return true;
	}
}

/** Declares a module, with the types of its own messages. */
export function stationModule<M extends AnyMessage>(
	module: Omit<StationModule, 'taker'> & { taker: ((facts: BatchFacts) => Taker<M>) | null }
): StationModule {
	return module as StationModule;
}
