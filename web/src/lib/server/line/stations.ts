import { z } from 'zod';
import { announce, db } from '../db/index.ts';
import { logAction } from '../people/log.ts';

const axis = z.object({ vMmS: z.number().positive(), aMmS2: z.number().positive() });

const placer = z.object({
	name: z.string(),
	slots: z.int().min(8).max(400),
	slotPitchMm: z.number().positive(),
	cameraSlot: z.number().positive(),
	onTheFly: z.boolean(),
	spindles: z.int().min(1).max(40),
	headPitchMm: z.number().positive(),
	x: axis,
	y: axis,
	pickS: z.number().positive(),
	placeS: z.number().positive(),
	cameraS: z.number().nonnegative(),
	transferS: z.number().nonnegative(),
	fiducialS: z.number().nonnegative(),
	accuracyUm: z.number().positive(),
	accuracySigmas: z.number().positive(),
	smallestMm: z.number().nonnegative(),
	largestMm: z.number().positive(),
	tallestMm: z.number().positive(),
	finestPitchMm: z.number().nonnegative(),
	trays: z.boolean()
});

const oven = z.object({
	zoneM: z.array(z.number().min(0.1).max(1)).min(1).max(20),
	entryM: z.number().min(0).max(2),
	entryShare: z.number().min(0).max(0.5),
	cooling: z.array(z.object({ lengthM: z.number().positive(), airC: z.number() })),
	ambientC: z.number(),
	borderM: z.number().positive(),
	setMinC: z.number(),
	setMaxC: z.number(),
	stepMaxC: z.number().positive(),
	beltMinCmPerMin: z.number().positive(),
	beltMaxCmPerMin: z.number().positive()
});

export const newLine = z.object({
	name: z.string().min(1).max(40),
	stations: z
		.array(
			z.object({
				role: z.enum(['print', 'pasteCheck', 'place', 'oven', 'optical', 'inCircuit']),
				name: z.string().min(1).max(20),
				spec: z.object({
					placer: placer.optional(),
					oven: oven.optional(),
					cycleS: z.number().positive().optional(),
					gapMm: z.number().nonnegative().optional()
				})
			})
		)
		.min(1)
		.max(10)
});

/** Enters a line with its stations in the order boards travel. */
export async function createLine(personId: string, line: z.infer<typeof newLine>): Promise<{ id: number }> {
	return db.transaction().execute(async (trx) => {
		const { id } = await trx.insertInto('line').values({ name: line.name }).returning('id').executeTakeFirstOrThrow();
		await trx
			.insertInto('station')
			.values(
				line.stations.map((station, position) => ({
					lineId: id,
					position,
					role: station.role,
					name: station.name,
					spec: JSON.stringify(station.spec),
					state: 'idle' as const,
					stateReason: null,
					stateAt: null
				}))
			)
			.execute();
		await logAction(trx, personId, 'line.create', line.name);
		await announce(trx, 'line');
		return { id };
	});
}
