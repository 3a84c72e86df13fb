import { env } from '$env/dynamic/private';
import { GENERIC_WINDOWS } from '@keen-relay/core/reflow';
import type { ShiftPattern } from '@keen-relay/core/schedule';
import { db } from '../db/index.ts';

const THREE_SHIFTS: ShiftPattern[] = [
	{ name: 'Early', from: '06:00', to: '14:00' },
	{ name: 'Late', from: '14:00', to: '22:00' },
	{ name: 'Night', from: '22:00', to: '06:00' }
];

export interface PlantInfo {
	name: string;
	timeZone: string;
	shifts: ShiftPattern[];
	demo: boolean;
}

let known: PlantInfo | null = null;

export async function plantInfo(): Promise<PlantInfo> {
	known ??= await db.selectFrom('plant').selectAll().executeTakeFirstOrThrow();
	return known;
}

/** Makes an empty plant on the first start: its name and zone, and generic paste windows. */
export async function ensurePlant(): Promise<PlantInfo> {
	const row = await db.selectFrom('plant').selectAll().executeTakeFirst();
	if (row) return (known = row);
	await db
		.insertInto('plant')
		.values({
			id: 1,
			name: env.PLANT_NAME ?? 'Plant',
			timeZone: env.PLANT_TIME_ZONE ?? 'Europe/Dublin',
			shifts: JSON.stringify(THREE_SHIFTS),
			demo: env.DEMO === '1'
		})
		.execute();
	await db
		.insertInto('paste')
		.values(Object.values(GENERIC_WINDOWS).map((window) => ({ name: window.name, window: JSON.stringify(window) })))
		.execute();
	return plantInfo();
}
