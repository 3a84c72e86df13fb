import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { works } from './works.svelte.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

test('what is done within a second is not shown, what takes longer is until it is over', () => {
	const quick = works.begin('quick', null);
	vi.advanceTimersByTime(900);
	quick();
	vi.advanceTimersByTime(1000);
	expect(works.shown).toEqual([]);
	const stop = vi.fn();
	const slow = works.begin('reading', stop);
	vi.advanceTimersByTime(999);
	expect(works.shown).toEqual([]);
	vi.advanceTimersByTime(1);
	expect(works.shown.map(({ label }) => label)).toEqual(['reading']);
	works.shown[0]!.stop!();
	expect(stop).toHaveBeenCalledOnce();
	const later = works.begin('more', null);
	vi.advanceTimersByTime(1000);
	expect(works.shown).toHaveLength(2);
	slow();
	slow();
	expect(works.shown.map(({ label }) => label)).toEqual(['more']);
	later();
	expect(works.shown).toEqual([]);
});
