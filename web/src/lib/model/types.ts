import type { Aperture, PanelLayout } from '@keen-relay/core/artwork';
import type { Action, ActionRule, Level } from '@keen-relay/core/judgement';
import type { EnteredFact, PackageField, PadClass } from '@keen-relay/core/parts';

/** What pages and the server say to each other. */
export type StationRole = 'print' | 'pasteCheck' | 'place' | 'oven' | 'optical' | 'inCircuit';
export type StationState = 'running' | 'waiting' | 'stopped' | 'idle';

/** An opening with the class whose limits it goes by. */
export interface ClassedAperture extends Aperture {
	padClass: PadClass;
}

/** A station as the strip draws it. */
export interface Tile {
	/** 0 for the paste, which is no machine. */
	stationId: number;
	role: StationRole | 'paste';
	name: string;
	href: string;
	state: StationState;
	level: Level;
	figure: string;
	unit: string;
	/** Panels at the station now. */
	panels: number;
	dueAtMs: number | null;
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
	| { kind: 'quarantine'; id: number };
