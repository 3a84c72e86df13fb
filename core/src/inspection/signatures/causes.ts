import { InputError, requireRange } from '../../judgement/index.ts';

export const CAUSE_CODES = [
	'MEASUREMENT',
	'ALIGN_SHIFT',
	'ALIGN_ROTATION',
	'ALIGN_STRETCH',
	'ALIGN_SCATTER',
	'STROKE_OFFSET',
	'STROKE_PAIR',
	'CLOG_WIPE',
	'PASTE_AGING',
	'TOPUP_STARVE',
	'ABANDON',
	'PANEL_OUTLIER',
	'TILT_ACROSS',
	'TILT_ALONG',
	'SUPPORT_LOCAL',
	'BLADE_NICK',
	'APERTURE_BLOCKED',
	'GAP_HIGH',
	'SCOOP',
	'SLUMP',
	'LEVEL_LOW',
	'PEAKS',
	'BRIDGE_ALIGN',
	'BRIDGE_WIPE',
	'BRIDGE_PRESSURE',
	'AMBIGUOUS'
] as const;
export type CauseCode = (typeof CAUSE_CODES)[number];

export interface CauseText {
	name: string;
	/** What is probably wrong. */
	cause: string;
	/** The next action, an imperative. */
	action: string;
	/** The one cheap test that separates it from its look-alike. */
	test: string;
}

export const CAUSES: Record<CauseCode, CauseText> = {
	MEASUREMENT: {
		name: 'Readings disagree with themselves',
		cause: 'inspection unit’s calibration, or a wrong foil thickness',
		action: 'Calibrate the inspection unit, or correct the foil thickness',
		test: 'Measure the foil with a micrometer'
	},
	ALIGN_SHIFT: {
		name: 'Whole print shifted',
		cause: 'alignment offset',
		action: 'Enter the negative offset once',
		test: 'Measure the next 3 panels'
	},
	ALIGN_ROTATION: {
		name: 'Whole print turned',
		cause: 'fiducials taught askew',
		action: 'Teach the fiducials again',
		test: 'Read the marks of one panel twice'
	},
	ALIGN_STRETCH: {
		name: 'Boards stretched',
		cause: 'boards larger or smaller than the stencil',
		action: 'Sort the boards by stretch',
		test: 'Measure the marks of 8 boards of the lot'
	},
	ALIGN_SCATTER: {
		name: 'Prints land here and there',
		cause: 'clamping, contrast of the fiducials, or a loose stencil',
		action: 'Check clamps and fiducial light',
		test: 'Align one panel ten times without printing'
	},
	STROKE_OFFSET: {
		name: 'Front and rear strokes land apart',
		cause: 'the foil is dragged: tension, force or clamps',
		action: 'Measure the foil’s tension',
		test: 'Lower the force by a fifth for 8 panels'
	},
	STROKE_PAIR: {
		name: 'Front and rear strokes differ',
		cause: 'a worn or bent blade, or unequal force',
		action: 'Swap the blades',
		test: 'After the swap: the fault follows the blade, or stays with the side'
	},
	CLOG_WIPE: {
		name: 'Small openings clog between wipes',
		cause: 'paste stays in small openings until the wipe',
		action: 'Shorten the wipe interval; check wet wipe, vacuum and paper',
		test: 'Wipe now: an aged paste does not recover'
	},
	PASTE_AGING: {
		name: 'Paste fades over the run',
		cause: 'paste dries: age, draught or humidity',
		action: 'Put on fresh paste; check its clocks',
		test: 'Wipe now: a clogged opening recovers, an aged paste does not'
	},
	TOPUP_STARVE: {
		name: 'Less paste until the next top-up',
		cause: 'the bead is too small',
		action: 'Top up sooner',
		test: 'Top up now and compare the next 4 panels'
	},
	ABANDON: {
		name: 'Less paste after a pause',
		cause: 'the paste stood too long',
		action: 'Knead after a pause, as the ladder says',
		test: 'Knead before the next print after a pause'
	},
	PANEL_OUTLIER: {
		name: 'One panel stands out',
		cause: 'that panel: clamp, debris, a re-print, a wrong program',
		action: 'Look at that panel',
		test: 'Compare with the panel before'
	},
	TILT_ACROSS: {
		name: 'More paste at one end of the blade',
		cause: 'blade not level, or force unequal at its ends',
		action: 'Level the blade; compare the force at its ends',
		test: 'Print one panel turned round'
	},
	TILT_ALONG: {
		name: 'More paste at one end of the stroke',
		cause: 'support, rail height, or the bead runs out',
		action: 'Check support and rails; add paste',
		test: 'Top up, then compare 4 panels'
	},
	SUPPORT_LOCAL: {
		name: 'Deposits too high in one place',
		cause: 'the board sags there: missing pin, debris, label or thick legend',
		action: 'Set or clean the support there',
		test: 'Press there with the conveyor stopped and the covers closed by trained staff'
	},
	BLADE_NICK: {
		name: 'A strip differs with one stroke',
		cause: 'a nick or dent in that blade',
		action: 'Inspect the blade there',
		test: 'Swap the blades: the strip changes its stroke'
	},
	APERTURE_BLOCKED: {
		name: 'Openings blocked',
		cause: 'plugged or damaged openings',
		action: 'Clean the stencil and look through it',
		test: 'Hold it against the light'
	},
	GAP_HIGH: {
		name: 'Deposits too high everywhere',
		cause: 'no seal: gap, debris, tooling too low, slack foil',
		action: 'Check print gap, tooling height and tension',
		test: 'Measure the foil with a micrometer'
	},
	SCOOP: {
		name: 'Large deposits scooped',
		cause: 'force too high, or a soft blade',
		action: 'Lower the force',
		test: 'Print 4 panels with a fifth less force'
	},
	SLUMP: {
		name: 'Deposits wide and low',
		cause: 'warm or wet paste or room, or paste stirred too long',
		action: 'Check room, paste temperature and stirring',
		test: 'Measure one panel again after 10 minutes'
	},
	LEVEL_LOW: {
		name: 'Too little paste everywhere',
		cause: 'wrong foil or program, slow filling, too fast',
		action: 'Compare foil and program; print slower',
		test: 'Measure the foil with a micrometer'
	},
	PEAKS: {
		name: 'Peaks',
		cause: 'separation speed or distance',
		action: 'Change the separation and measure again',
		test: 'Print 4 panels at half the separation speed'
	},
	BRIDGE_ALIGN: {
		name: 'Bridges from misalignment',
		cause: 'the offset brings paste between pads',
		action: 'Cure the alignment first',
		test: 'Bridges go when the offset goes'
	},
	BRIDGE_WIPE: {
		name: 'Bridges before each wipe',
		cause: 'paste gathers under the stencil',
		action: 'Wipe the underside sooner',
		test: 'Wipe now and look at the next 3 panels'
	},
	BRIDGE_PRESSURE: {
		name: 'Bridges',
		cause: 'force, gap, or an opening too large',
		action: 'Lower the force; check gap and openings',
		test: 'Print 4 panels with a fifth less force'
	},
	AMBIGUOUS: {
		name: 'Two causes cannot be told apart',
		cause: 'the run moved both together',
		action: 'Run the separating test',
		test: 'Wipe every 3 prints for 9 panels'
	}
};

/** Where each alarm starts; a plant tunes them on its own runs, and each verdict keeps the revision it was made with. */
export interface SignatureThresholds {
	measurementLn: number;
	shiftUm: number;
	rotationUm: number;
	stretchUm: number;
	scatterUm: number;
	strokeOffsetUm: number;
	strokeLp: number;
	clogLp: number;
	ageingLp: number;
	topupLp: number;
	abandonLp: number;
	tiltLp: number;
	supportLp: number;
	nickLp: number;
	blockedLp: number;
	gapHeightRatio: number;
	gapAreaRatio: number;
	scoopRatio: number;
	scoopOthers: number;
	slumpArea: number;
	slumpHeight: number;
	levelLow: number;
	peakRatio: number;
	peakShare: number;
	bridgesPerPanel: number;
	bridgePanels: number;
	/** |t| or z that every alarm of a regression, strip or place needs beside its size. */
	leastT: number;
	leastPanels: number;
	leastWipeCycles: number;
	leastPerStroke: number;
	leastPads: number;
}

/** @see all of them common practice or our model's starting values */
export const SIGNATURE_THRESHOLDS: SignatureThresholds = {
	measurementLn: 0.1,
	shiftUm: 25,
	rotationUm: 25,
	stretchUm: 25,
	scatterUm: 15,
	strokeOffsetUm: 20,
	strokeLp: 5,
	clogLp: 6,
	ageingLp: 8,
	topupLp: 6,
	abandonLp: 8,
	tiltLp: 12,
	supportLp: 12,
	nickLp: 10,
	blockedLp: 35,
	gapHeightRatio: 1.15,
	gapAreaRatio: 1.1,
	scoopRatio: 0.85,
	scoopOthers: 0.92,
	slumpArea: 1.12,
	slumpHeight: 0.88,
	levelLow: 0.88,
	peakRatio: 1.5,
	peakShare: 0.05,
	bridgesPerPanel: 0.5,
	bridgePanels: 5,
	leastT: 4,
	leastPanels: 12,
	leastWipeCycles: 2,
	leastPerStroke: 4,
	leastPads: 30
};

/** Refuses thresholds that no cause could be told by.
 * @throws {InputError} naming the threshold
 */
export function checkThresholds(thresholds: SignatureThresholds): void {
	for (const [name, start] of Object.entries(SIGNATURE_THRESHOLDS)) {
		const value = thresholds[name as keyof SignatureThresholds];
		// A tenth to ten times the value to start from: outside it a unit was mistaken.
		requireRange(name, value, start / 10, start * 10);
		if (name.startsWith('least') && name !== 'leastT' && !Number.isInteger(value))
			throw new InputError('out-of-range', name, 'a whole number', value);
	}
	if (thresholds.leastT < 3)
		throw new InputError('out-of-range', 'leastT', '3 or more: below it clean runs alarm by chance', thresholds.leastT);
}
