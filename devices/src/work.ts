/** The work of a line as the public API gives it: what a real machine's adapter would read. */
export interface Work {
	runId: number;
	job: string;
	panels: number;
	printed: number;
	foilUm: number;
	circuits: number;
	panel: { widthMm: number; heightMm: number; origins: { x: number; y: number }[] };
	pads: { xMm: number; yMm: number; areaMm2: number; perimeterMm: number; padClass: string; refDes: string | null }[];
	parts: { refDes: string; packageName: string; partNumber: string }[];
	machines: {
		name: string;
		cycleS: number;
		feeders: { slot: number; partNumber: string; perPanel: number; reelPieces: number; left: number | null }[];
	}[];
	recipe: { setC: number[]; beltCmPerMin: number };
}

export interface StationInfo {
	name: string;
	role: 'print' | 'pasteCheck' | 'place' | 'oven' | 'optical' | 'inCircuit';
	spec: { cycleS?: number; gapMm?: number; oven?: { zoneM: number[]; entryM: number; cooling: { lengthM: number }[] } };
}

/** A panel on its way, with what only the simulation knows of it. */
export interface SimPanel {
	serial: string;
	/** Deposited volume by pad, share of the nominal. */
	volume: Float64Array;
	/** Offset of the whole print, µm. */
	offset: { x: number; y: number };
	stroke: 'F' | 'R';
	printsSinceWipe: number;
}
