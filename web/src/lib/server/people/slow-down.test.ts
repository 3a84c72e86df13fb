import { expect, test } from 'vitest';
import { SlowDown } from './slow-down.ts';

/** A clock that only waits move. */
function fake() {
	let now = 0;
	const waited: number[] = [];
	const slow = new SlowDown(
		() => now,
		async (ms) => {
			waited.push(ms);
			now += ms;
		}
	);
	const attempt = (key: string, right: boolean) => slow.attempt(key, async () => right, Boolean);
	return { slow, waited, attempt, later: (ms: number) => (now += ms) };
}

test('three tries are free, then each waits twice as long, never more than eight seconds', async () => {
	const { waited, attempt } = fake();
	for (let i = 0; i < 9; i++) await attempt('pc anwen', false);
	expect(waited).toEqual([0, 0, 0, 1000, 2000, 4000, 8000, 8000, 8000]);
});

test('nobody locks a colleague out: another badge, and the same badge elsewhere, are not slowed', async () => {
	const { slow, attempt } = fake();
	for (let i = 0; i < 6; i++) await attempt('pc anwen', false);
	expect([slow.waitOf('pc anwen'), slow.waitOf('pc basil'), slow.waitOf('desk anwen')]).toEqual([8000, 0, 0]);
	// The right PIN is taken after its wait, however often it was wrong before, and clears the count.
	expect(await attempt('pc anwen', true)).toBe(true);
	expect(slow.waitOf('pc anwen')).toBe(0);
});

test('many tries at once gain nothing: they go one after another', async () => {
	const { waited, attempt } = fake();
	await Promise.all(Array.from({ length: 6 }, () => attempt('pc anwen', false)));
	expect(waited).toEqual([0, 0, 0, 1000, 2000, 4000]);
});

test('five quiet minutes are forgiven', async () => {
	const { slow, attempt, later } = fake();
	for (let i = 0; i < 5; i++) await attempt('pc anwen', false);
	later(5 * 60_000 + 1);
	expect(slow.waitOf('pc anwen')).toBe(0);
	await attempt('pc anwen', false);
	expect(slow.waitOf('pc anwen')).toBe(0);
});

test('a badge of a megabyte is kept as a short key, and is slowed all the same', async () => {
	const waits: number[] = [];
	const slow = new SlowDown(
		() => 0,
		async (ms) => void waits.push(ms)
	);
	const long = 'x'.repeat(1_000_000);
	for (let i = 0; i < 5; i++)
		await slow.attempt(
			`10.0.0.1 ${long}`,
			async () => null,
			() => false
		);
	expect(waits).toEqual([0, 0, 0, 1000, 2000]);
	expect(slow.waitOf(`10.0.0.1 ${long}`)).toBe(4000);
	expect(slow.waitOf(`10.0.0.1 ${long}y`)).toBe(0);
});
