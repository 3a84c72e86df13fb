import type { Trim } from '@keen-relay/core/placement';
import type { Deposits, PrintFaultKind } from './print-physics.ts';

/** How the printer is set: what the run's print recipe says, or the setting of a trial that is going on. */
export interface PrinterSetting {
	forceKgPerCm: number;
	speedMmPerS: number;
	separationMmPerS: number;
}

/** The work of a line as the public API gives it: what a real machine's adapter would read. */
export interface Work {
	runId: number;
	job: string;
	side: 'top' | 'bottom';
	panels: number;
	printed: number;
	/** The run was ended by a person: what is on the belt still goes through. */
	ended: boolean;
	/** How many panels the printer may print until the first prints are released; null: all of them. */
	mayPrint?: number | null;
	/** Serials of panels that come for their second side, in order; null where the printer opens new ones. */
	serials: string[] | null;
	/** Number of the next panel of the job; one more than were printed where it is not said. */
	nextSerial?: number;
	/** Panels that are held, with the kinds of station that do not work on them. */
	held?: { panel: string; stations: string[] }[];
	/** Panels that were washed and dried: printed again first. */
	reprint?: { panel: string; printAttempt: number }[];
	/** Panels between the machines, with the station that reported them last and how they were printed. */
	onLine: { serial: string; after: string; stroke: 'F' | 'R'; printsSinceWipe: number }[];
	foilUm: number;
	circuits: number;
	panel: {
		widthMm: number;
		heightMm: number;
		origins: { x: number; y: number; rotationDeg: number }[];
		/** Marks that the printer's camera looks for, mm. */
		fiducials?: { x: number; y: number }[];
	};
	/** null: set as the printer comes. */
	setting?: PrinterSetting | null;
	/** Causes that somebody has acted on in this run. */
	cured?: string[];
	/** The jar that stands open at the printer. */
	jar?: string | null;
	/** What lies on the stencil already, g. */
	beadG?: number;
	pads: { xMm: number; yMm: number; areaMm2: number; perimeterMm: number; widthMm?: number; padClass: string; refDes: string | null }[];
	parts: { refDes: string; packageName: string; partNumber: string; rotationDeg?: number }[];
	machines: {
		name: string;
		cycleS: number;
		/** Each with its nozzle. */
		spindles?: number;
		/** When its nozzles were last cleaned. */
		cleanedMs?: Record<string, number>;
		/** What it places in the order of its program: designator, circuit, spindle; null where no way of the head is known. */
		placements?: readonly (readonly [refDes: string, circuit: number, spindle: number])[] | null;
		/** What it adds to where it places. */
		trims?: readonly Trim[];
		feeders: {
			slot: number;
			partNumber: string;
			perPanel: number;
			refDes?: readonly string[];
			reelPieces: number;
			tapeMm?: number;
			pitchMm?: number;
			left: number | null;
			reel?: string | null;
		}[];
	}[];
	recipe: { setC: number[]; beltCmPerMin: number };
}

/** What the server says to a line that knows its run already. */
export interface KnownWork {
	runId: number;
	/** Causes that somebody has acted on: the simulated machine is mended then. */
	cured?: string[];
	/** The jar that stands open at the printer now.  */
	jar?: string | null;
	ended: boolean;
	mayPrint?: number | null;
	setting?: PrinterSetting | null;
	panels: number;
	serials: string[] | null;
	held?: { panel: string; stations: string[] }[];
	reprint?: { panel: string; printAttempt: number }[];
	/** What lies on the stencil by the records, g. */
	beadG?: number;
	/** What the slots hold by the records. */
	reels?: {
		name: string;
		feeders: { slot: number; left: number | null; reel: string | null }[];
		cleanedMs?: Record<string, number>;
		trims?: readonly Trim[];
	}[];
}

export interface StationInfo {
	name: string;
	role: 'print' | 'pasteCheck' | 'place' | 'oven' | 'optical' | 'inCircuit';
	spec: { cycleS?: number; gapMm?: number; oven?: { zoneM: number[]; entryM: number; cooling: { lengthM: number }[] } };
}

/** Something that goes wrong for a while, on request: which machine, how strongly (1 is plain to see), and when in plant time. */
export interface Trouble {
	station: string;
	kind:
		| 'dryPaste'
		| 'badReel'
		| 'badNozzle'
		| 'wrongReel'
		| 'pickOffset'
		| 'panelShift'
		| 'markedCircuits'
		| 'jam'
		| 'zoneLow'
		| PrintFaultKind;
	strength: number;
	fromMs: number;
	toMs: number;
}

/** A panel on its way, with what only the simulation knows of it. */
export interface SimPanel {
	serial: string;
	/** What the print left on its pads; null before it. */
	deposits: Deposits | null;
	stroke: 'F' | 'R';
	printsSinceWipe: number;
	/** Which print of this panel it is; 1 where it is not said. */
	printAttempt?: number;
	/** Where its parts sit against where they should, by `refDes.circuit`, µm along the panel. */
	placed?: Map<string, { dxUm: number; dyUm: number }>;
	/** Circuits that came marked to be left out. */
	skipped?: readonly number[];
	/** Parts that came from a wrong reel, by `refDes.circuit`. */
	wrong?: Set<string>;
}
