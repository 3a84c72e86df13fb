import { expect, test } from 'vitest';
import { above, atLeast, atMost, below } from './index.ts';

test('on a limit, but for rounding, is on it; anything beyond is beyond', () => {
	// 0.1 + 0.2 is a little over 0.3.
	expect([atMost(0.1 + 0.2, 0.3), atLeast(0.3, 0.1 + 0.2)]).toEqual([true, true]);
	expect([above(0.1 + 0.2, 0.3), below(0.3, 0.1 + 0.2)]).toEqual([false, false]);
	for (const tiny of [5e-10, -5e-10]) {
		expect([atMost(1 + tiny, 1), atLeast(1 + tiny, 1), above(1 + tiny, 1), below(1 + tiny, 1)]).toEqual([true, true, false, false]);
	}
	for (const little of [2e-9, 1]) {
		expect([atMost(1 + little, 1), above(1 + little, 1), atLeast(1 + little, 1), below(1 + little, 1)]).toEqual([false, true, true, false]);
		expect([atMost(1 - little, 1), above(1 - little, 1), atLeast(1 - little, 1), below(1 - little, 1)]).toEqual([true, false, false, true]);
	}
});
