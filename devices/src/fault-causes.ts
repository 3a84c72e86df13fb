import type { CauseCode } from '@keen-relay/core/inspection';
import type { PrintFaultKind } from './print-physics.ts';

/** The cause that each simulated fault should be named as. */
export const CAUSE_OF_FAULT: Record<PrintFaultKind, CauseCode> = {
	measurement: 'MEASUREMENT',
	alignShift: 'ALIGN_SHIFT',
	alignRotation: 'ALIGN_ROTATION',
	alignStretch: 'ALIGN_STRETCH',
	alignScatter: 'ALIGN_SCATTER',
	strokeOffset: 'STROKE_OFFSET',
	strokePair: 'STROKE_PAIR',
	clogWipe: 'CLOG_WIPE',
	pasteAging: 'PASTE_AGING',
	topupStarve: 'TOPUP_STARVE',
	abandon: 'ABANDON',
	panelOutlier: 'PANEL_OUTLIER',
	tiltAcross: 'TILT_ACROSS',
	tiltAlong: 'TILT_ALONG',
	supportLocal: 'SUPPORT_LOCAL',
	bladeNick: 'BLADE_NICK',
	apertureBlocked: 'APERTURE_BLOCKED',
	gapHigh: 'GAP_HIGH',
	scoop: 'SCOOP',
	slump: 'SLUMP',
	levelLow: 'LEVEL_LOW',
	peaks: 'PEAKS',
	bridgeWipe: 'BRIDGE_WIPE',
	bridgePressure: 'BRIDGE_PRESSURE'
};

/** Faults of one place: they are found only where pads lie. */
export const LOCAL_FAULTS: readonly PrintFaultKind[] = ['supportLocal', 'bladeNick', 'apertureBlocked'];
