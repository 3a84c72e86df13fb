import { env } from '$env/dynamic/private';
import type { z } from 'zod';
import type { bodies } from '$lib/api/bodies.ts';
import { GENERIC_WINDOWS } from '@keen-relay/core/reflow';
import { checkShifts, type Holiday, type ShiftPattern } from '@keen-relay/core/schedule';
import type { Locale, UnitSystem } from '@keen-relay/core/people';
import { Conflict, Refusal, refuse } from '../answer.ts';
import { announce, db } from '../db/index.ts';
import { Remembered } from '../remembered.ts';
import { logAction, type Actor } from './log.ts';
import { onNews } from './stream.ts';

const THREE_SHIFTS: ShiftPattern[] = [
	{ name: 'Early', from: '06:00', to: '14:00' },
	{ name: 'Late', from: '14:00', to: '22:00' },
	{ name: 'Night', from: '22:00', to: '06:00' }
];

export interface PlantInfo {
	name: string;
	timeZone: string;
	/** With the plant's holidays in each. */
	shifts: ShiftPattern[];
	holidays: Holiday[];
	demo: boolean;
	revision: number;
	/** How numbers are written and in which units they are said, for whoever chose nothing of their own. */
	locale: Locale;
	units: UnitSystem;
}

const plant = new Remembered<PlantInfo>(60_000, async () => {
	const { name, timeZone, shifts, holidays, demo, revision, locale, units } = await db
		.selectFrom('plant')
		.selectAll()
		.executeTakeFirstOrThrow();
	const notOn = holidays.map((holiday) => holiday.date);
	return {
		name,
		timeZone,
		holidays,
		demo,
		revision,
		locale,
		units,
		shifts: notOn.length ? shifts.map((shift) => ({ ...shift, notOn })) : shifts
	};
});
onNews((topic) => {
	if (topic === 'people' || topic === 'back') plant.forget();
});

export const plantInfo = (): Promise<PlantInfo> => plant.value();

/** Makes an empty plant on the first start: its name and zone, and generic paste windows. */
export async function ensurePlant(): Promise<PlantInfo> {
	const row = await db.selectFrom('plant').select('id').executeTakeFirst();
	if (row) return plantInfo();
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

/** Whether the machine knows a time zone of that name. */
function isTimeZone(name: string): boolean {
	try {
		return new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
	} catch {
		return false;
	}
}

/** Corrects what the plant is called and when it works. What was recorded keeps its instants: another zone or pattern changes which shift they are counted to. */
export async function setPlant(
	actor: Actor,
	{ name, timeZone, locale, units, shifts, holidays, startedFrom }: z.infer<typeof bodies.plant>
): Promise<{ revision: number }> {
	if (!isTimeZone(timeZone)) refuse('timeZone', timeZone, `There is no time zone “${timeZone}”. Choose one like Europe/Dublin.`);
	const issues = checkShifts(shifts);
	if (issues.length) throw new Refusal(issues);
	const done = await db.transaction().execute(async (trx) => {
		const now = await trx.selectFrom('plant').select('revision').forUpdate().executeTakeFirstOrThrow();
		if (now.revision !== startedFrom)
			throw new Conflict(now.revision, 'Somebody else set the plant up meanwhile. Theirs stands; look at it and decide again.');
		const revision = now.revision + 1;
		await trx
			.updateTable('plant')
			.set({ name, timeZone, locale, units, shifts: JSON.stringify(shifts), holidays: JSON.stringify(holidays), revision })
			.execute();
		await logAction(trx, actor, 'plant.set', `${name}, ${timeZone}; ${shifts.map((s) => `${s.name} ${s.from} to ${s.to}`).join(', ')}`);
		for (const topic of ['people', 'line', 'shift'] as const) await announce(trx, topic);
		return { revision };
	});
	plant.forget();
	return done;
}
