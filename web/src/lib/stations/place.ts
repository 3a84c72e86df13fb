import { z } from 'zod';
import { stationKind } from './kind.ts';

export const axis = z.object({
	vMmS: z.number().positive().meta({ title: 'Speed', unit: 'mm/s' }),
	aMmS2: z.number().positive().meta({ title: 'Acceleration', unit: 'mm/s²' })
});

/** A placer as entered for its line; its name is the station's. */
export const placerData = z.object({
	slots: z.int().min(8).max(400).meta({ title: 'Feeder slots' }),
	slotPitchMm: z.number().positive().meta({ title: 'Slot pitch', unit: 'mm' }),
	cameraSlot: z.number().positive().meta({ title: 'Camera at slot' }),
	onTheFly: z.boolean().meta({ title: 'Camera looks while the head passes' }),
	spindles: z.int().min(1).max(40).meta({ title: 'Spindles' }),
	headPitchMm: z.number().positive().meta({ title: 'Spindle pitch', unit: 'mm' }),
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

export const place = stationKind({
	role: 'place',
	name: 'Place',
	about: 'placer with its feeders',
	path: 'place',
	order: 40,
	purposes: ['surfaceMount'],
	many: true,
	tabs: [{ path: '', name: 'Slots' }],
	machine: {
		schema: z.object({ placer: placerData.meta({ title: 'Placer' }) }),
		start: {
			placer: {
				slots: 80,
				slotPitchMm: 12,
				cameraSlot: 40,
				onTheFly: false,
				spindles: 4,
				headPitchMm: 24,
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
			}
		},
		paceS: (_data, { name, plan }) => plan?.machines.find((m) => m.machine === name)?.totalS ?? null
	}
});
