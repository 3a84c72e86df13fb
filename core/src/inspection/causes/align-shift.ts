import type { Cause } from './cause.ts';
import { medianWithError } from './offsets.ts';
import { um } from './words.ts';

export const ALIGN_SHIFT: Cause = {
	code: 'ALIGN_SHIFT',
	name: 'Whole print shifted',
	cause: 'alignment offset',
	action: 'Enter the negative offset once',
	test: 'Measure the next 3 panels',
	unit: 'µm',
	threshold: (th) => th.shiftUm,
	certainty: 0.95,
	panelsNeeded: 3,
	find: ({ offsets, th }) => {
		const [x, y] = [medianWithError(offsets.tx), medianWithError(offsets.ty)];
		const size = Math.hypot(x.value, y.value);
		if (!(size > th.shiftUm)) return [];
		const evidence = `The whole print lies ${um(x.value)} in x and ${um(y.value)} in y off, panel after panel.`;
		return [{ size, error: Math.hypot(x.error, y.error), evidence }];
	},
	statistic: ({ offsets }) => {
		const [x, y] = [medianWithError(offsets.tx), medianWithError(offsets.ty)];
		return { value: Math.hypot(x.value, y.value), error: Math.hypot(x.error, y.error) };
	}
};
