import type { Aperture } from '@keen-relay/core/artwork';
import type { Level } from '@keen-relay/core/judgement';
import type { PadClass } from '@keen-relay/core/parts';

/** What pages and the server say to each other. */
export type StationRole = 'print' | 'pasteCheck' | 'place' | 'oven' | 'optical' | 'inCircuit';
export type StationState = 'running' | 'waiting' | 'stopped' | 'idle';

/** An opening with the class whose limits it goes by. */
export interface ClassedAperture extends Aperture {
	padClass: PadClass;
}

/** A station as the strip draws it. */
export interface Tile {
	stationId: number;
	role: StationRole;
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
}

/** Pad readings of a panel, circuit by circuit. */
export interface PadReadings {
	serial: string;
	volumePct: number[];
	heightUm: number[];
	areaPct: number[];
	offsetXUm: number[];
	offsetYUm: number[];
}
