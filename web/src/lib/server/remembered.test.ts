import { expect, test, vi } from 'vitest';
import { Remembered } from './remembered.ts';

/** Reads that answer when they are told to. */
function slowly() {
	const answers: ((value: string) => void)[] = [];
	const fails: ((error: Error) => void)[] = [];
	const read = () =>
		new Promise<string>((resolve, reject) => {
			answers.push(resolve);
			fails.push(reject);
		});
	return { answers, fails, read };
}

test('a read that began before a change is not what is remembered after it', async () => {
	const { answers, read } = slowly();
	const clock = new Remembered(500, read);
	const before = clock.value();
	clock.forget();
	const after = clock.value();
	answers[1]!('new');
	answers[0]!('old');
	expect(await before).toBe('old');
	expect(await after).toBe('new');
	expect(await clock.value()).toBe('new');
});

test('many who ask at once cause one read, and the next one only after its time', async () => {
	vi.useFakeTimers();
	try {
		const { answers, read } = slowly();
		const clock = new Remembered(500, read);
		const all = [clock.value(), clock.value(), clock.value()];
		expect(answers).toHaveLength(1);
		answers[0]!('a');
		expect(await Promise.all(all)).toEqual(['a', 'a', 'a']);
		vi.advanceTimersByTime(499);
		void clock.value();
		expect(answers).toHaveLength(1);
		vi.advanceTimersByTime(1);
		void clock.value();
		expect(answers).toHaveLength(2);
	} finally {
		vi.useRealTimers();
	}
});

test('a read that failed is tried again by the next one', async () => {
	const { answers, fails, read } = slowly();
	const clock = new Remembered(500, read);
	const first = clock.value();
	fails[0]!(new Error('the database is away'));
	await expect(first).rejects.toThrow('the database is away');
	const second = clock.value();
	answers[1]!('back');
	expect(await second).toBe('back');
});
