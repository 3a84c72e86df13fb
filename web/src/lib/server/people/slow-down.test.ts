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
