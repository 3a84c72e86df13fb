import { offsetTrim, pickCauses } from '@keen-relay/core/placement';
import { z } from 'zod';
import { calculation } from './calculation.ts';

const name = z.string().trim().min(1).max(60);

export const placement = [
	calculation({
		name: 'offset_trim',
		summary:
			'Whether the offsets of a group of placements, measured before the oven, ask for a correction: median, its interval, and what to add, µm.',
		input: z.object({ offsetsUm: z.array(z.number()).min(1).max(100_000), panels: z.int().positive() }),
		example: {
			offsetsUm: [31, 44, 38, 52, 29, 47, 41, 36, 33, 55, 40, 39, -260, 43, 35, 48, 37, 42, 30, 46, 45, 34, 50, 28, 41],
			panels: 5
		},
		run: ({ offsetsUm, panels }) => offsetTrim(offsetsUm, panels)
	}),
	calculation({
		name: 'pick_causes',
		summary: 'Feeders and nozzles whose picks fail more often than the others’, by rate and never by count; the strongest first.',
		input: z.object({
			counts: z.array(z.object({ feeder: name, nozzle: name, picks: z.number(), errors: z.number() })).max(10_000)
		}),
		example: {
			counts: [
				{ feeder: 'F1', nozzle: 'N1', picks: 1000, errors: 1 },
				{ feeder: 'F1', nozzle: 'N2', picks: 1000, errors: 9 },
				{ feeder: 'F2', nozzle: 'N1', picks: 1000, errors: 2 },
				{ feeder: 'F2', nozzle: 'N2', picks: 1000, errors: 11 },
				{ feeder: 'F3', nozzle: 'N1', picks: 4000, errors: 6 },
				{ feeder: 'F3', nozzle: 'N2', picks: 4000, errors: 38 }
			]
		},
		run: ({ counts }) => ({ causes: pickCauses(counts) })
	})
];
