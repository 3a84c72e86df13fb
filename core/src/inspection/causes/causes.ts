import { ABANDON } from './abandon.ts';
import { ALIGN_ROTATION } from './align-rotation.ts';
import { ALIGN_SCATTER } from './align-scatter.ts';
import { ALIGN_SHIFT } from './align-shift.ts';
import { ALIGN_STRETCH } from './align-stretch.ts';
import { AMBIGUOUS } from './ambiguous.ts';
import { APERTURE_BLOCKED } from './aperture-blocked.ts';
import { BLADE_NICK } from './blade-nick.ts';
import { BRIDGE_ALIGN } from './bridge-align.ts';
import { BRIDGE_PRESSURE } from './bridge-pressure.ts';
import { BRIDGE_WIPE } from './bridge-wipe.ts';
import { CLOG_WIPE } from './clog-wipe.ts';
import { GAP_HIGH } from './gap-high.ts';
import { LEVEL_LOW } from './level-low.ts';
import { MEASUREMENT } from './measurement.ts';
import { PANEL_OUTLIER } from './panel-outlier.ts';
import { PASTE_AGING } from './paste-aging.ts';
import { PEAKS } from './peaks.ts';
import { SCOOP } from './scoop.ts';
import { SLUMP } from './slump.ts';
import { STROKE_OFFSET } from './stroke-offset.ts';
import { STROKE_PAIR } from './stroke-pair.ts';
import { SUPPORT_LOCAL } from './support-local.ts';
import { TILT_ACROSS } from './tilt-across.ts';
import { TILT_ALONG } from './tilt-along.ts';
import { TOPUP_STARVE } from './topup-starve.ts';
import type { Cause, CauseText } from './cause.ts';
import type { CauseCode } from './codes.ts';

/** Every cause, in the order in which they are looked for: one that explains another stands before it. */
export const CAUSES: Readonly<Record<CauseCode, Cause>> = {
	MEASUREMENT,
	ALIGN_SHIFT,
	ALIGN_ROTATION,
	ALIGN_STRETCH,
	ALIGN_SCATTER,
	STROKE_OFFSET,
	STROKE_PAIR,
	CLOG_WIPE,
	PASTE_AGING,
	TOPUP_STARVE,
	ABANDON,
	PANEL_OUTLIER,
	APERTURE_BLOCKED,
	SUPPORT_LOCAL,
	BLADE_NICK,
	TILT_ACROSS,
	TILT_ALONG,
	GAP_HIGH,
	SCOOP,
	SLUMP,
	LEVEL_LOW,
	PEAKS,
	BRIDGE_ALIGN,
	BRIDGE_WIPE,
	BRIDGE_PRESSURE,
	AMBIGUOUS
};

/** The words of a cause alone: plain data. */
export function causeText(code: CauseCode): CauseText {
	const { name, cause, action, test } = CAUSES[code];
	return { name, cause, action, test };
}
