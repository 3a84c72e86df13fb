import { db } from '../db/index.ts';
import { Remembered } from '../remembered.ts';

interface Clock {
	rate: number;
	realMs: number;
	plantMs: number;
}

const HEARTBEAT_MS = 2000;

/** Another process may have set the clock: it is read again this often. */
const clock = new Remembered<Clock>(500, async () => {
	const row = await db.selectFrom('plantClock').selectAll().executeTakeFirstOrThrow();
	return { rate: row.rate, realMs: row.realAt.getTime(), plantMs: row.plantAt.getTime() };
});

/** Plant time, ms. */
export async function plantNow(): Promise<number> {
	return (await clockNow()).nowMs;
}

/** Plant time with its rate: pages let it run on between two answers. */
export async function clockNow(): Promise<{ nowMs: number; rate: number }> {
	const { rate, realMs, plantMs } = await clock.value();
	return { nowMs: Math.round(plantMs + (Date.now() - realMs) * rate), rate };
}

/** Sets the clock to a plant time, running on at a rate of 1 to 60. */
export async function setClock(plantMs: number, rate: number): Promise<void> {
	const real = new Date();
	const values = { rate, realAt: real, plantAt: new Date(plantMs), seenAt: real };
	await db
		.insertInto('plantClock')
		.values({ id: 1, ...values })
		.onConflict((conflict) => conflict.column('id').doUpdateSet(values))
		.execute();
	clock.forget();
}

/** Starts the heartbeat. In a demo the clock stands still while the server is down, so that nothing expires over a weekend. */
export async function startClock(demo: boolean): Promise<void> {
	const row = await db.selectFrom('plantClock').selectAll().executeTakeFirst();
	if (!row) await setClock(Date.now(), 1);
	else if (demo) {
		const stoodAt = row.plantAt.getTime() + (row.seenAt.getTime() - row.realAt.getTime()) * row.rate;
		await setClock(stoodAt, row.rate);
	}
	setInterval(() => {
		// A beat that fails while the database is away is made up by the next one.
		db.updateTable('plantClock')
			.set({ seenAt: new Date() })
			.execute()
			.catch(() => undefined);
	}, HEARTBEAT_MS).unref();
}
