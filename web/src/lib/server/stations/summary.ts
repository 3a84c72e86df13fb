import type { LinePace, Part } from '@keen-relay/core/line';
import { noData } from '@keen-relay/core/judgement';
import type { Due } from '@keen-relay/core/schedule';
import type { StationState } from '$lib/model/types.ts';
import type { StationRole } from '$lib/stations/index.ts';
import type { currentRun } from '../queries/runs.ts';

export interface StationRow {
	/** 0 for what is no machine. */
	id: number;
	lineId: number;
	position: number;
	role: StationRole;
	name: string;
	spec: unknown;
	state: StationState;
	stateReason: string | null;
	stateAt: Date | null;
}

export type CurrentRun = NonNullable<Awaited<ReturnType<typeof currentRun>>>;

/** What every summary of a line goes by, read once. */
export interface LineContext {
	lineId: number;
	nowMs: number;
	run: CurrentRun | null;
	pace: LinePace;
	/** Planned seconds and latest cycles, by name of the station. */
	cycles: ReadonlyMap<string, { plannedS: number | null; cyclesS: readonly number[] }>;
	/** Panels that the run has still to print. */
	toGo: number;
}

/** How a station stands: everything in use there that is judged, its number, and what falls due. The line makes one verdict of it. */
export interface StationSummary {
	parts: Part[];
	dues: Due[];
	/** The one number that matters now, with its unit. */
	figure: string;
	/** What the number is, in words: "a panel". */
	words: string;
}

/** Where nothing runs nothing is judged. */
export const noRun = (where = '/runs'): StationSummary => ({
	parts: [{ verdict: noData('No run on this line.', ['Set up a job']), where, right: 'run.setUp' }],
	dues: [],
	figure: '–',
	words: 'no run'
});

export const percent = (share: number) => `${(share * 100).toFixed(1)} %`;
