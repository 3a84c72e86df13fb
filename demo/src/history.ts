import type { Trouble } from '@keen-relay/devices/work';

/** One run of the past: which line built what in which shift. */
export interface PastRun {
	line: number;
	daysBack: number;
	shift: 'Early' | 'Late' | 'Night';
	from: string;
	board: string;
	side: 'top' | 'bottom';
	panels: number;
	/** The second side of the job that was started before. */
	sameJob?: boolean;
	/** Troubles by minutes from the run's start. */
	troubles?: (Omit<Trouble, 'fromMs' | 'toMs'> & { fromMin: number; toMin: number })[];
}

const DAYS = 5;
/** Older days report sums of their paste inspection; the latest ones every pad. */
export const RAW_DAYS = 1;

/** Five days on three shifts: the fast line changes between two boards, the high-mix line builds a two-sided one and a short order at night,
 * the prototype line works by day. Some of it goes wrong.
 */
export function pastRuns(): PastRun[] {
	const runs: PastRun[] = [];
	for (let daysBack = DAYS; daysBack >= 1; daysBack--) {
		const even = daysBack % 2 === 0;
		runs.push(
			{ line: 0, daysBack, shift: 'Early', from: '06:30', board: even ? 'frost-sensor' : 'tram-door', side: 'top', panels: 28 },
			{ line: 1, daysBack, shift: 'Early', from: '06:45', board: 'mushroom-house', side: 'bottom', panels: 14 },
			{ line: 2, daysBack, shift: 'Early', from: '08:10', board: 'rowing-torque', side: 'top', panels: 10 },
			{ line: 0, daysBack, shift: 'Late', from: '14:20', board: even ? 'tram-door' : 'frost-sensor', side: 'top', panels: 26 },
			{ line: 1, daysBack, shift: 'Late', from: '14:40', board: 'mushroom-house', side: 'top', panels: 14, sameJob: true },
			{ line: 2, daysBack, shift: 'Late', from: '15:00', board: 'frost-sensor', side: 'top', panels: 6 },
			{ line: 0, daysBack, shift: 'Night', from: '22:25', board: 'frost-sensor', side: 'top', panels: 28 },
			{ line: 1, daysBack, shift: 'Night', from: '22:40', board: 'frost-sensor', side: 'top', panels: 14 }
		);
	}
	const trouble = (line: number, daysBack: number, shift: PastRun['shift'], ...troubles: NonNullable<PastRun['troubles']>) => {
		runs.find((run) => run.line === line && run.daysBack === daysBack && run.shift === shift)!.troubles = troubles;
	};
	trouble(0, 4, 'Late', { station: 'Place 1', kind: 'badReel', strength: 1, fromMin: 10, toMin: 45 });
	trouble(1, 3, 'Early', { station: 'Print', kind: 'dryPaste', strength: 0.8, fromMin: 12, toMin: 40 });
	trouble(0, 2, 'Early', { station: 'Oven', kind: 'zoneLow', strength: 1, fromMin: 15, toMin: 60 });
	trouble(0, 2, 'Night', { station: 'Optical', kind: 'jam', strength: 1.6, fromMin: 5, toMin: 50 });
	trouble(0, 1, 'Late', { station: 'Print', kind: 'dryPaste', strength: 0.6, fromMin: 20, toMin: 45 });
	trouble(1, 1, 'Night', { station: 'Place', kind: 'badReel', strength: 1.2, fromMin: 5, toMin: 30 });
	return runs;
}

/** Recipes by board, side and line: found with the page's own Tune on these boards and ovens, some smoothed by hand. */
export const RECIPES: Record<string, { setC: number[]; beltCmPerMin: number }> = {
	'frost-sensor top 0': { setC: [100, 125, 135, 150, 160, 180, 190, 220, 246, 248], beltCmPerMin: 63 },
	'tram-door top 0': { setC: [100, 115, 150, 185, 195, 205, 210, 220, 250, 253], beltCmPerMin: 54 },
	'frost-sensor top 1': { setC: [105, 140, 160, 185, 215, 245, 245], beltCmPerMin: 44 },
	'mushroom-house top 1': { setC: [130, 140, 160, 190, 215, 245, 255], beltCmPerMin: 40 },
	'mushroom-house bottom 1': { setC: [115, 145, 165, 190, 215, 245, 250], beltCmPerMin: 46 },
	'rowing-torque top 2': { setC: [130, 185, 190, 245, 235], beltCmPerMin: 40 },
	'frost-sensor top 2': { setC: [135, 190, 185, 240, 245], beltCmPerMin: 38 }
};

export const NOTES: Record<string, string> = {
	'frost-sensor': 'Regulator U3 was re-taught after lunch; watch its offset.',
	'tram-door': 'Slot of the 4k7 resistors ran low twice; a spare reel lies in rack C4.',
	'mushroom-house': 'Bottom panels cool in magazine 2 before the top side; turn it, pins are set for the bottom parts.',
	'rowing-torque': 'Bridge connector sits proud on one panel; shown to the engineer.'
};
