/** What a person at the feeders has scanned so far, and has not finished. */
export interface ScanContext {
	slot: { stationId: number; slot: number } | null;
	feeder: string | null;
}

export const NOTHING_SCANNED: ScanContext = { slot: null, feeder: null };

export type Scanned =
	| { is: 'slot'; stationId: number; slot: number }
	/** `tied`: somebody said which reel is in it. */
	| { is: 'feeder'; code: string; tied: boolean }
	| { is: 'reel'; code: string };

type Slot = NonNullable<ScanContext['slot']>;

export type ScanStep =
	/** Not enough yet: what has to be scanned next. */
	| { do: 'wait'; waits: 'feeder' | 'reel' | 'feeder or reel' | 'slot or reel'; context: ScanContext }
	| { do: 'tie'; feeder: string; reel: string }
	| { do: 'dock'; slot: Slot; feeder: string }
	| { do: 'tie and dock'; slot: Slot; feeder: string; reel: string }
	| { do: 'splice'; slot: Slot; feeder: string; reel: string }
	/** A reel alone, or one for a slot in which nothing stands: it is never guessed where it belongs. */
	| { do: 'none'; why: string };

/** What a scan at the feeders means after those before it: slot, feeder, reel in any order that leaves no doubt.
 * @param docked the feeder that stands in the slot which was scanned; null: none
 */
export function scanStep(context: ScanContext, scanned: Scanned, docked: string | null): ScanStep {
	if (scanned.is === 'slot') {
		const slot = { stationId: scanned.stationId, slot: scanned.slot };
		return context.feeder !== null
			? { do: 'dock', slot, feeder: context.feeder }
			: { do: 'wait', waits: docked === null ? 'feeder' : 'feeder or reel', context: { slot, feeder: null } };
	}
	if (scanned.is === 'feeder') {
		const { slot } = context;
		if (slot && scanned.tied) return { do: 'dock', slot, feeder: scanned.code };
		return { do: 'wait', waits: slot ? 'reel' : scanned.tied ? 'slot or reel' : 'reel', context: { slot, feeder: scanned.code } };
	}
	if (context.slot && context.feeder !== null)
		return { do: 'tie and dock', slot: context.slot, feeder: context.feeder, reel: scanned.code };
	if (context.feeder !== null) return { do: 'tie', feeder: context.feeder, reel: scanned.code };
	if (context.slot)
		return docked === null
			? { do: 'none', why: `Nothing stands in slot ${context.slot.slot}. Scan the feeder first.` }
			: { do: 'splice', slot: context.slot, feeder: docked, reel: scanned.code };
	return { do: 'none', why: 'A reel alone says nothing: scan its feeder or its slot first.' };
}
