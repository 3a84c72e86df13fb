import {
	alignLog,
	bestMoves,
	boardSpots,
	checkProfile,
	GENERIC_WINDOWS,
	measureLog,
	predictCurve,
	profileMetrics,
	readProfileLog,
	startingRecipe,
	tuneRecipe,
	windowUse
} from '@keen-relay/core/reflow';
import { z } from 'zod';
import { ovenData } from '$lib/stations/oven.ts';
import { recipeBody } from '../bodies.ts';
import { calculation } from './calculation.ts';

const tau = z.array(z.object({ untilM: z.number(), tauS: z.number().positive() })).min(1);
const spot = z.object({
	name: z.enum(['light', 'typical', 'heavy']),
	at: z.string(),
	arealHeat: z.number().default(0),
	tauS: z.number().positive(),
	tau
});
const limit = z.union([z.object({ low: z.number(), high: z.number() }), z.object({ max: z.number(), target: z.number() })]);
const window = z.object({
	name: z.string(),
	referenceC: z.number(),
	soakFromC: z.number(),
	soakToC: z.number(),
	limits: z.object({ rise: limit, soak: limit, aboveReference: limit, peak: limit, fall: limit }),
	source: z.string()
});
const WINDOW = GENERIC_WINDOWS.leadFree;
const OVEN = {
	zoneM: [0.42, 0.42, 0.36, 0.36, 0.36, 0.28, 0.28],
	entryM: 0.3,
	entryShare: 0.1,
	cooling: [{ lengthM: 0.4, airC: 80 }],
	ambientC: 25,
	borderM: 0.1,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 55,
	beltMinCmPerMin: 20,
	beltMaxCmPerMin: 140
};
const RECIPE = { setC: [105, 140, 160, 185, 215, 245, 245], beltCmPerMin: 44 };
const SPOT = { name: 'typical' as const, at: 'R1', tauS: 28, tau: [{ untilM: 99, tauS: 28 }] };
const LOG = ['Time (s),TC1 (°C)', ...Array.from({ length: 40 }, (_, i) => `${i * 8},${25 + 6 * i}`)].join('\n');
const MOST_STEPS = 25;

export const reflow = [
	calculation({
		name: 'board_spots',
		summary: 'A light, a typical and a heavy spot of a board with their time constants, s (estimate until a profile is measured).',
		input: z.object({
			build: z.object({ thicknessMm: z.number(), copperLayers: z.number(), copperShare: z.number() }),
			parts: z.array(z.object({ refDes: z.string(), packageName: z.string(), xMm: z.number(), yMm: z.number() })).max(5000),
			oven: ovenData
		}),
		example: {
			build: { thicknessMm: 1.6, copperLayers: 4, copperShare: 0.5 },
			parts: [{ refDes: 'U1', packageName: 'QFN50P700X700X90-49', xMm: 20, yMm: 15 }],
			oven: OVEN
		},
		run: ({ build, parts, oven }) =>
			boardSpots(
				build,
				parts.map((part) => ({ ...part, partNumber: '', value: '', rotationDeg: 0, fitted: true, apertures: [] })),
				oven
			)
	}),
	calculation({
		name: 'profile',
		summary: 'Temperature of one spot over time and place in the oven, by the closed form.',
		input: z.object({ oven: ovenData, recipe: recipeBody, tau }),
		example: { oven: OVEN, recipe: RECIPE, tau: SPOT.tau },
		run: ({ oven, recipe, tau: t }) => predictCurve(oven, recipe, t)
	}),
	calculation({
		name: 'profile_check',
		summary: 'A recipe judged against a paste’s window at every spot: metrics, window use in %, verdict.',
		input: z.object({ oven: ovenData, recipe: recipeBody, spots: z.array(spot).min(1).max(20), window }),
		example: { oven: OVEN, recipe: RECIPE, spots: [SPOT], window: WINDOW },
		run: ({ oven, recipe, spots, window: w }) => checkProfile(oven, recipe, spots, w)
	}),
	calculation({
		name: 'best_moves',
		summary: 'Single changes of a recipe and what each would bring, the best first.',
		input: z.object({ oven: ovenData, recipe: recipeBody, spots: z.array(spot).min(1).max(20), window }),
		example: { oven: OVEN, recipe: RECIPE, spots: [SPOT], window: WINDOW },
		run: ({ oven, recipe, spots, window: w }) => bestMoves(oven, recipe, spots, w)
	}),
	calculation({
		name: 'starting_recipe',
		summary: 'A recipe to start from for an oven of any zones; not tuned to a board.',
		input: z.object({ oven: ovenData, window }),
		example: { oven: OVEN, window: WINDOW },
		run: ({ oven, window: w }) => startingRecipe(oven, w)
	}),
	calculation({
		name: 'tune_recipe',
		summary: `A recipe improved step by step, at most ${MOST_STEPS} steps a call: send the answer again to go on.`,
		input: z.object({ oven: ovenData, recipe: recipeBody, spots: z.array(spot).min(1).max(6), window }),
		example: { oven: OVEN, recipe: RECIPE, spots: [SPOT], window: WINDOW },
		run: async ({ oven, recipe, spots, window: w }) => {
			const steps = tuneRecipe(oven, recipe, spots, w, MOST_STEPS);
			for (;;) {
				const step = steps.next();
				if (step.done) return step.value;
				// Other requests are answered between two steps.
				await new Promise((resolve) => setTimeout(resolve, 0));
			}
		}
	}),
	calculation({
		name: 'window_use',
		summary: 'How much of a limit’s window a value uses, %: 0 in the middle, ±100 on a limit.',
		input: z.object({ value: z.number(), limit }),
		example: { value: 240, limit: { low: 235, high: 250 } },
		run: ({ value, limit: l }) => ({ usePct: windowUse(value, l) })
	}),
	calculation({
		name: 'profile_metrics',
		summary: 'Peak, time above a reference, soak, steepest rise and fall of a curve.',
		input: z.object({
			timeS: z.array(z.number()).min(2),
			tempC: z.array(z.number()).min(2),
			referenceC: z.number(),
			soakFromC: z.number(),
			soakToC: z.number(),
			rampWindowS: z.number().positive().default(10)
		}),
		example: { timeS: [0, 60, 150, 210, 270], tempC: [25, 150, 190, 245, 120], referenceC: 217, soakFromC: 150, soakToC: 200 },
		run: ({ timeS, tempC, rampWindowS, ...settings }) => profileMetrics(timeS, tempC, { ...settings, windowS: rampWindowS })
	}),
	calculation({
		name: 'thermocouple_log',
		summary: 'A thermocouple log (CSV) read, measured by the same definitions, and laid over a prediction.',
		input: z.object({
			csv: z.string().min(1),
			window,
			prediction: z.object({ oven: ovenData, recipe: recipeBody, tau }).nullable().default(null)
		}),
		example: { csv: LOG, window: WINDOW },
		run: ({ csv, window: w, prediction }) => {
			const { log, issues } = readProfileLog(csv);
			if (!log) return { log: null, issues };
			const curve = prediction && predictCurve(prediction.oven, prediction.recipe, prediction.tau);
			return { log, issues, channels: measureLog(log, w), alignment: curve && alignLog(log, curve) };
		}
	})
];
