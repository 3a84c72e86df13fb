import { z } from 'zod';
import { count, panel, runId, says, seconds, type Said } from '../message-parts.ts';

export const placement = says('placement', 'a panel that was placed', ['line', 'results'], {
	panel,
	cycleS: seconds.meta({ title: 'Cycle', unit: 's' }),
	/** Picks lost by slot; slots that lost none may be left out. */
	lost: z
		.record(z.string().regex(/^\d{1,3}$/), z.int().nonnegative().max(100_000))
		.default({})
		.meta({ title: 'Picks lost by slot' }),
	/** Circuits that are marked to be left out, from 0: they took no pieces. */
	skipped: z.array(z.int().min(0).max(399)).max(400).default([]).meta({ title: 'Circuits left out' }),
	/** Where the machine counts by nozzle: every pick, those that were lost among them; none where it does not. */
	nozzles: z
		.array(
			z.object({
				slot: z.int().min(1).max(400).meta({ title: 'Slot' }),
				nozzle: z.string().trim().min(1).max(20).meta({ title: 'Nozzle' }),
				picks: z.int().nonnegative().max(100_000).meta({ title: 'Picks' }),
				lost: z.int().nonnegative().max(100_000).meta({ title: 'Lost' })
			})
		)
		.max(4000)
		.default([])
		.meta({ title: 'Picks by slot and nozzle' })
});

export const feederLoaded = says('feeder_loaded', 'a reel that was loaded', ['line'], {
	runId,
	slot: z.int().min(1).max(400).meta({ title: 'Slot' }),
	partNumber: z.string().trim().min(1).max(120).meta({ title: 'Part number' }),
	reel: z.string().trim().min(1).max(80).meta({ title: 'Reel' }),
	makerLot: z.string().max(80).meta({ title: 'Maker’s lot' }),
	pieces: count.meta({ title: 'Pieces' }),
	spliced: z.boolean().default(false).meta({ title: 'Spliced to the tape that ran' })
});

export type PlaceMessage = Said<typeof placement> | Said<typeof feederLoaded>;
