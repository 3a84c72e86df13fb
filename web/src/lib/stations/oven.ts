import { ovenHeadwayS } from '@keen-relay/core/balance';
import { z } from 'zod';
import { stationKind } from './kind.ts';

export const ovenData = z.object({
	zoneM: z
		.array(z.number().min(0.1).max(1))
		.min(4, 'four zones or more')
		.max(14, 'fourteen zones at the most')
		.meta({ title: 'Heated zones, length of each', unit: 'm' }),
	entryM: z.number().min(0).max(2).meta({ title: 'Entry tunnel', unit: 'm' }),
	entryShare: z.number().min(0).max(0.5).meta({ title: 'Share of the first zone’s air in the entry' }),
	cooling: z
		.array(
			z.object({
				lengthM: z.number().positive().meta({ title: 'Length', unit: 'm' }),
				airC: z.number().meta({ title: 'Air', unit: '°C' })
			})
		)
		.meta({ title: 'Cooling zones' }),
	ambientC: z.number().meta({ title: 'Room', unit: '°C' }),
	borderM: z.number().positive().meta({ title: 'Mixing between zones over', unit: 'm' }),
	setMinC: z.number().meta({ title: 'Lowest setting', unit: '°C' }),
	setMaxC: z.number().meta({ title: 'Highest setting', unit: '°C' }),
	stepMaxC: z.number().positive().meta({ title: 'Largest step between neighbours', unit: '°C' }),
	beltMinCmPerMin: z.number().positive().meta({ title: 'Slowest belt', unit: 'cm/min' }),
	beltMaxCmPerMin: z.number().positive().meta({ title: 'Fastest belt', unit: 'cm/min' })
});

const middle = {
	zoneM: Array<number>(8).fill(0.35),
	entryM: 0.3,
	entryShare: 0.2,
	cooling: [
		{ lengthM: 0.4, airC: 60 },
		{ lengthM: 0.4, airC: 30 }
	],
	ambientC: 24,
	borderM: 0.06,
	setMinC: 60,
	setMaxC: 300,
	stepMaxC: 60,
	beltMinCmPerMin: 30,
	beltMaxCmPerMin: 150
};

/** Ovens of usual sizes (ours, from common practice): what a machine can do stands in its papers. */
const SIZES = {
	small: {
		...middle,
		zoneM: Array<number>(5).fill(0.3),
		entryM: 0.2,
		cooling: [{ lengthM: 0.4, airC: 40 }],
		beltMinCmPerMin: 20,
		beltMaxCmPerMin: 80
	},
	middle,
	large: {
		...middle,
		zoneM: Array<number>(12).fill(0.36),
		entryM: 0.4,
		cooling: Array<{ lengthM: number; airC: number }>(3).fill({ lengthM: 0.4, airC: 40 }),
		beltMinCmPerMin: 40,
		beltMaxCmPerMin: 200
	}
};

export const oven = stationKind({
	role: 'oven',
	name: 'Oven',
	about: 'reflow oven',
	path: 'oven',
	order: 60,
	purposes: ['surfaceMount'],
	many: false,
	tabs: [{ path: '', name: 'Profile' }],
	machine: {
		schema: z.object({
			oven: ovenData.meta({ title: 'Oven' }),
			gapMm: z.number().nonnegative().default(60).meta({ title: 'Gap between panels on the belt', unit: 'mm' })
		}),
		start: { gapMm: 60, oven: SIZES.middle },
		sizes: { small: { gapMm: 60, oven: SIZES.small }, middle: { gapMm: 60, oven: SIZES.middle }, large: { gapMm: 60, oven: SIZES.large } },
		paceS: ({ gapMm }, { panel, beltCmPerMin }) => (beltCmPerMin ? ovenHeadwayS(panel.widthMm, gapMm, beltCmPerMin) : null)
	}
});
