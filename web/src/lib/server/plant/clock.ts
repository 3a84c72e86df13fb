import { db } from '../db/index.ts';

interface Clock {
	rate: number;
	realMs: number;
	plantMs: number;
}

let cached: { clock: Clock; readAt: number } | null = null;
const CACHE_MS = 500;
const HEARTBEAT_MS = 2000;

async function readClock(): Promise<Clock> {
	if (cached && Date.now() - cached.readAt < CACHE_MS) return cached.clock;
	const row = await db.selectFrom('plantClock').selectAll().executeTakeFirstOrThrow();
	const clock = { rate: row.rate, realMs: row.realAt.getTime(), plantMs: row.plantAt.getTime() };
	cached = { clock, readAt: Date.now() };
	return clock;
}

/** Plant time, ms. */
export async function plantNow(): Promise<number> {
	return (await clockNow()).nowMs;
}

/** Plant time with its rate: pages let it run on between two answers. */
export async function clockNow(): Promise<{ nowMs: number; rate: number }> {
	const clock = await readClock();
	return { nowMs: Math.round(clock.plantMs + (Date.now() - clock.realMs) * clock.rate), rate: clock.rate };
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
	cached = null;
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
