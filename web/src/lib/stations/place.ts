import { z } from 'zod';
import { stationKind } from './kind.ts';

export const axis = z.object({
	vMmS: z.number().positive().meta({ title: 'Speed', unit: 'mm/s' }),
	aMmS2: z.number().positive().meta({ title: 'Acceleration', unit: 'mm/s²' })
});

/** A placer as entered for its line; its name is the station's. */
export const placerData = z.object({
	slots: z.int().min(8).max(400).meta({ title: 'Feeder slots' }),
	trolleys: z.int().min(1).max(40).default(2).meta({ title: 'Trolleys that carry the slots' }),
	slotPitchMm: z.number().positive().meta({ title: 'Slot pitch', unit: 'mm' }),
	pathMm: z.number().nonnegative().max(5000).default(300).meta({ title: 'Tape between splice and pick', unit: 'mm' }),
	cameraSlot: z.number().positive().meta({ title: 'Camera at slot' }),
	onTheFly: z.boolean().meta({ title: 'Camera looks while the head passes' }),
	spindles: z.int().min(1).max(40).meta({ title: 'Spindles' }),
	headPitchMm: z.number().positive().meta({ title: 'Spindle pitch', unit: 'mm' }),
	nozzles: z
		.array(
			z.object({
				name: z.string().trim().min(1).max(20).meta({ title: 'Nozzle' }),
				pieces: z.int().min(0).max(200).meta({ title: 'Pieces' }),
				fromMm: z.number().nonnegative().meta({ title: 'Parts from', unit: 'mm' }),
				toMm: z.number().positive().meta({ title: 'Parts up to', unit: 'mm' })
			})
		)
		.max(60)
		.default([])
		.meta({ title: 'Nozzles' }),
	x: axis.meta({ title: 'X axis' }),
	y: axis.meta({ title: 'Y axis' }),
	pickS: z.number().positive().meta({ title: 'Pick', unit: 's' }),
	placeS: z.number().positive().meta({ title: 'Place', unit: 's' }),
	cameraS: z.number().nonnegative().meta({ title: 'Look', unit: 's' }),
	transferS: z.number().nonnegative().meta({ title: 'Panel in and out', unit: 's' }),
	fiducialS: z.number().nonnegative().meta({ title: 'A fiducial', unit: 's' }),
	accuracyUm: z.number().positive().meta({ title: 'Accuracy', unit: 'µm' }),
	accuracySigmas: z.number().positive().meta({ title: 'at so many sigma' }),
	smallestMm: z.number().nonnegative().meta({ title: 'Smallest part', unit: 'mm' }),
	largestMm: z.number().positive().meta({ title: 'Largest part', unit: 'mm' }),
	tallestMm: z.number().positive().meta({ title: 'Tallest part', unit: 'mm' }),
	finestPitchMm: z.number().nonnegative().meta({ title: 'Finest pitch', unit: 'mm' }),
	trays: z.boolean().meta({ title: 'Takes trays' })
});

const middle = {
	slots: 80,
	trolleys: 4,
	slotPitchMm: 12,
	pathMm: 300,
	cameraSlot: 40,
	onTheFly: false,
	spindles: 4,
	headPitchMm: 24,
	nozzles: [],
	x: { vMmS: 1200, aMmS2: 12000 },
	y: { vMmS: 1200, aMmS2: 12000 },
	pickS: 0.1,
	placeS: 0.1,
	cameraS: 0.2,
	transferS: 5,
	fiducialS: 0.5,
	accuracyUm: 50,
	accuracySigmas: 3,
	smallestMm: 0.4,
	largestMm: 45,
	tallestMm: 20,
	finestPitchMm: 0.4,
	trays: true
};

/** Placers of usual sizes (ours, from common practice): what a machine can do stands in its papers. */
export const SIZES = {
	small: {
		...middle,
		slots: 40,
		trolleys: 2,
		cameraSlot: 20,
		spindles: 2,
		x: { vMmS: 800, aMmS2: 6000 },
		y: { vMmS: 800, aMmS2: 6000 },
		pickS: 0.15,
		placeS: 0.15,
		smallestMm: 0.6
	},
	middle,
	large: {
		...middle,
		slots: 120,
		trolleys: 4,
		cameraSlot: 60,
		onTheFly: true,
		spindles: 12,
		headPitchMm: 12,
		x: { vMmS: 2000, aMmS2: 25000 },
		y: { vMmS: 2000, aMmS2: 25000 },
		pickS: 0.06,
		placeS: 0.06,
		cameraS: 0.1,
		transferS: 3,
		fiducialS: 0.3,
		accuracyUm: 36,
		smallestMm: 0.25,
		largestMm: 20,
		tallestMm: 8,
		finestPitchMm: 0.3,
		trays: false
	}
};

export const place = stationKind({
	role: 'place',
	name: 'Place',
	about: 'placer with its feeders',
	path: 'place',
	order: 40,
	purposes: ['surfaceMount'],
	many: true,
	tabs: [
		{ path: '', name: 'Slots' },
		{ path: '/run-out', name: 'Run-out' },
		{ path: '/program', name: 'Program' },
		{ path: '/trims', name: 'Trims' },
		{ path: '/picks', name: 'Picks' }
	],
	machine: {
		schema: z.object({ placer: placerData.meta({ title: 'Placer' }) }),
		start: { placer: SIZES.middle },
		sizes: { small: { placer: SIZES.small }, middle: { placer: SIZES.middle }, large: { placer: SIZES.large } },
		paceS: (_data, { name, plan }) => plan?.machines.find((m) => m.machine === name)?.totalS ?? null
	}
});
