import type { ScanContext } from '@keen-relay/core/feeders';
import type { PanelLayout } from '@keen-relay/core/artwork';
import type { LimitSet } from '@keen-relay/core/inspection';
import type { Action, ActionRule } from '@keen-relay/core/people';
import type { Level, Verdict } from '@keen-relay/core/judgement';
import type { EnteredFact, PackageField } from '@keen-relay/core/parts';
import type { LinePace } from '@keen-relay/core/line';
import type { Stop } from '@keen-relay/core/schedule';
import type { StationRole } from '../stations/index.ts';
import type { Purpose } from '../stations/kind.ts';

/** What pages and the server say to each other. */
export type StationState = 'running' | 'waiting' | 'stopped' | 'idle';

/** A station as the strip draws it; several of one kind may share a tile. */
export interface Tile {
	/** 0 for what is no machine. */
	stationId: number;
	role: StationRole;
	name: string;
	href: string;
	state: StationState;
	level: Level;
	/** The one number that matters now, with its unit, and what it is. */
	figure: string;
	words: string;
	/** Panels at the station now. */
	panels: number;
	dueAtMs: number | null;
	/** Those that share it. */
	members: { name: string; href: string; level: Level }[];
}

/** How a station stands: the one verdict that tile, page, next up and hand-over print, with its act. */
export interface Standing {
	stationId: number;
	role: StationRole;
	name: string;
	href: string;
	state: StationState;
	verdict: Verdict;
	figure: string;
	words: string;
	act: { say: string; href: string; who: string } | null;
}

/** Something that needs a person: when, what, where, why, who may. */
export interface NextUp {
	atMs: number;
	station: string;
	action: string;
	reason: string;
	href: string;
	who: string;
}

/** A line as it stands: what every page of it is given. */
export interface LineState {
	id: number;
	name: string;
	purpose: Purpose;
	tiles: Tile[];
	/** How each station stands, in the order boards travel. */
	stations: Standing[];
	run: {
		id: number;
		number: string;
		board: string;
		side: string;
		boardSideId: number;
		panels: number;
		printed: number;
		finished: number;
		held: boolean;
	} | null;
	pace: LinePace;
	/** What needs a person: acts that the stations ask for now, and what falls due, the most urgent first. */
	next: NextUp[];
	/** Stops of this shift that ask for a reason, the latest first. */
	unexplained: (Stop & { id: number; explainedBy: string | null })[];
}

/** A JSON schema as forms are made from it. */
export interface FormSchema {
	type?: 'object' | 'array' | 'string' | 'number' | 'integer' | 'boolean';
	title?: string;
	unit?: string;
	format?: string;
	enum?: (string | number)[];
	/** What each of them is called. */
	words?: Record<string, string>;
	default?: unknown;
	minimum?: number;
	maximum?: number;
	exclusiveMinimum?: number;
	properties?: Record<string, FormSchema>;
	required?: string[];
	items?: FormSchema;
	additionalProperties?: FormSchema | boolean;
	anyOf?: FormSchema[];
}

/** The answer to a scan. */
export interface Found {
	ok: boolean;
	/** First line: yes or no, and what it is. */
	what: string;
	why: string;
	/** Where to go, if anywhere. */
	href: string | null;
	/** Set where the code is a person's badge. */
	badge: string | null;
	/** What may be done with it at once. */
	moves: ScanMove[];
	/** What has to be scanned next, and what was scanned so far; null: this is done. */
	waits: { for: string; context: ScanContext } | null;
}

export interface ScanMove {
	name: string;
	path: string;
	body: Record<string, unknown>;
	/** Asked for where the move needs it; the body takes it as `grams`. */
	grams: number | null;
}

/** Pad readings of a panel, circuit by circuit. */
export interface PadReadings {
	volumePct: number[];
	heightUm: number[];
	areaPct: number[];
	offsetXUm: number[];
	offsetYUm: number[];
	/** Pads whose paste joins a neighbour; of one panel only. */
	bridged?: number[];
	/** What judged it; of one panel only. */
	limits?: LimitSet;
	limitRevision?: number | null;
}

/** What it takes to reverse an action: kept with the action, carried out as a record of its own. */
export type Undo =
	| { kind: 'release'; table: 'stencil' | 'placementProgram' | 'ovenRecipe'; id: number; previousId: number | null }
	| { kind: 'panel'; revisionId: number; panel: PanelLayout; panelSetBy: string | null }
	| { kind: 'package'; packageName: string; field: PackageField; before: EnteredFact | null }
	| { kind: 'runEnd'; runId: number }
	| { kind: 'job'; jobId: number }
	| { kind: 'stopReason'; id: number }
	| { kind: 'note'; lineId: number; date: string; shift: string; before: string | null }
	| { kind: 'rights'; action: Action; before: ActionRule }
	| { kind: 'trim'; id: number }
	| { kind: 'quarantine'; id: number };

/** How a person set a table: by what its rows stand in order, and which columns are away. */
export interface TableView {
	sort: { id: string; desc: boolean }[];
	hidden: string[];
}

/** Where an inspection found a part of a circuit: measured less nominal along the panel, µm. */
export type KeptOffset = readonly [refDes: string, dxUm: number, dyUm: number];
