import type { PanelLayout, Side } from '@keen-relay/core/artwork';
import type { LinePlan } from '@keen-relay/core/balance';
import { z } from 'zod';

/** What a line is for. */
export const PURPOSES = { surfaceMount: 'Surface mount', finishing: 'Finishing' } as const;
export type Purpose = keyof typeof PURPOSES;

/** Sizes that machine data can begin from. */
export const MACHINE_SIZES = { small: 'Small', middle: 'Middle', large: 'Large' } as const;
export type MachineSize = keyof typeof MACHINE_SIZES;

export interface Tab {
	/** After the station's own path; '' for the first one. */
	path: string;
	name: string;
	/** What stands inside it, each with its path after the tab's own. */
	views?: readonly { path: string; name: string }[];
}

/** What a station builds, as its pace depends on it. */
interface Built {
	/** Name of the station, as plans name their machines. */
	name: string;
	panel: { widthMm: number; heightMm: number };
	plan: LinePlan | null;
	beltCmPerMin: number | null;
}

/** A kind of station, as browser and server know it. Everything that lists kinds goes by these. */
export interface StationKind<R extends string = string, S extends z.ZodObject = z.ZodObject> {
	/** The word that is stored. */
	role: R;
	/** Its tile, where a line has one. */
	name: string;
	/** What it does, for whoever sets a line up. */
	about: string;
	/** Of its pages, on its line. */
	path: string;
	/** Where it stands among the others, upstream first. */
	order: number;
	/** Lines that may have it. */
	purposes: readonly Purpose[];
	/** Whether a line may have several: each then has its number in the path. */
	many: boolean;
	tabs: readonly Tab[];
	/** Machine data, as entered for the line; the form is made from it. null: it is no machine, and rides with another one. */
	machine: {
		schema: S;
		start: z.input<S>;
		/** Machines of usual sizes, to begin from instead; no maker's. */
		sizes?: Partial<Record<MachineSize, z.input<S>>>;
		paceS: (data: z.output<S>, built: Built) => number | null;
	} | null;
	/** What is no machine stands before the station of this role. */
	ridesWith?: string;
}

/** Declares a kind, with its own types. */
export function stationKind<const R extends string, S extends z.ZodObject>(kind: StationKind<R, S>): StationKind<R, S> {
	return kind;
}

/** Machine data of a station that has nothing but its own cycle. */
export const ownCycle = (start: number) => ({
	schema: z.object({ cycleS: z.number().positive().max(3600).meta({ title: 'Cycle', unit: 's a panel' }) }),
	start: { cycleS: start },
	paceS: ({ cycleS }: { cycleS: number }) => cycleS
});

/** Machine data of an inspection machine or tester: its own cycle, and the largest panel that goes in. */
export const takesPanels = (start: number) => ({
	schema: ownCycle(start).schema.extend({
		longestMm: z.number().min(50).max(2000).default(510).meta({ title: 'Longest panel, along the belt', unit: 'mm' }),
		widestMm: z.number().min(50).max(1000).default(460).meta({ title: 'Widest panel, rail to rail', unit: 'mm' })
	}),
	start: { cycleS: start, longestMm: 510, widestMm: 460 },
	sizes: {
		small: { cycleS: start, longestMm: 330, widestMm: 250 },
		middle: { cycleS: start, longestMm: 510, widestMm: 460 },
		large: { cycleS: start, longestMm: 810, widestMm: 610 }
	},
	paceS: ({ cycleS }: { cycleS: number }) => cycleS
});

/** Board and panel that a pace is said for. */
export interface PanelOf {
	widthMm: number;
	heightMm: number;
	panel: PanelLayout;
	side: Side;
}
