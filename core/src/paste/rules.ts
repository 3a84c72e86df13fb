/** What a maker's data sheet or a plant says of one paste. All values are data: these are what an empty plant starts with. */
export interface PasteRules {
	/** Least time out of the fridge before it may be stirred or opened, h. */
	warmUpH: number;
	/** Least temperature of the paste itself before that, °C. */
	warmToC: number;
	/** How long a sealed jar may stand out of the fridge in all, h. */
	sealedOutH: number;
	/** How often a sealed jar may go back. */
	coldReturns: number;
	/** From the first opening, never paused, h. */
	openLifeH: number;
	/** Time on a stencil in all, h. */
	stencilLifeH: number;
	/** Whether an opened jar may go back to the fridge, in its own marked jar. Schools differ; the default is never. */
	openMayReturn: boolean;
	/** Whether open life stands still while an opened jar is cold. */
	openLifePausesCold: boolean;
	/** Printed panel to reflow: act, and stop, h. */
	reflowActH: number;
	reflowStopH: number;
	/** Fridge, °C. */
	coldLowC: number;
	coldHighC: number;
	/** How long the fridge may be outside before it counts, min. */
	excursionMin: number;
	/** At the line, °C and % RH. */
	roomLowC: number;
	roomHighC: number;
	roomLowRhPct: number;
	roomHighRhPct: number;
	/** How it is stirred before use. */
	stir: 'hand' | 'mixer' | 'none';
	stirMin: number;
}

/** @see common practice; the paste's own data sheet outranks each of them */
export const PASTE_RULES: PasteRules = {
	warmUpH: 4,
	warmToC: 19,
	sealedOutH: 72,
	coldReturns: 1,
	openLifeH: 24,
	stencilLifeH: 8,
	openMayReturn: false,
	openLifePausesCold: false,
	reflowActH: 1,
	reflowStopH: 2,
	coldLowC: 2,
	coldHighC: 10,
	excursionMin: 30,
	roomLowC: 22,
	roomHighC: 26,
	roomLowRhPct: 40,
	roomHighRhPct: 60,
	stir: 'hand',
	stirMin: 2
};

export const FLUX_CLASSES = ['noClean', 'waterSoluble'] as const;
export type FluxClass = (typeof FLUX_CLASSES)[number];
