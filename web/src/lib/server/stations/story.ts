import type { PanelResult } from '@keen-relay/core/inspection';
import type { Action } from '@keen-relay/core/people';
import type { Level } from '@keen-relay/core/judgement';

/** One thing that happened to a panel, as its page lists it. */
export interface StoryLine {
	at: Date;
	/** What, shortly: "printed, attempt 1". */
	what: string;
	level: Level | null;
	/** What is known of it, in sentences. */
	text: string;
	/** More of it, each with its level. */
	notes: { level: Level | null; text: string }[];
	/** Steps that a person goes through in order, each with where it is said that it was done. */
	steps?: { words: string; done: { at: Date; by: string } | null; path: string; body: object }[];
	may?: Action;
}

/** What a station has to say of a panel's pass. */
export interface StoryPart {
	lines: StoryLine[];
	/** Pads that failed, by index on the panel. */
	pads?: { pad: number; code: string; volumePct: number }[];
	paste?: PanelResult | null;
	pastePads?: number;
	/** Paste that it can hold. */
	bead?: { jar: string; lot: string; loadedMs: number; grams: number }[];
	/** Parts that were called. */
	parts?: { circuit: number; refDes: string }[];
	/** Circuits that failed, and whether any was inspected. */
	inspected?: { circuits: number; failed: number };
	/** What was used on it: a table with a title, its columns' names and a text a cell. */
	used?: { title: string; columns: string[]; rows: string[][]; none: string }[];
	/** Sentences above everything: what must not go on. */
	warnings?: { level: Level; text: string }[];
}
