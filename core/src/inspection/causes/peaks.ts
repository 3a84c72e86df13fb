import type { Cause } from './cause.ts';

export const PEAKS: Cause = {
	code: 'PEAKS',
	name: 'Peaks',
	cause: 'separation speed or distance',
	action: 'Change the separation and measure again',
	test: 'Print 4 panels at half the separation speed',
	unit: 'share',
	threshold: (th) => th.peakShare,
	certainty: 0.95,
	panelsNeeded: 4,
	find: ({ p: { run }, th }) => {
		if (!run.peakHeightUm) return [];
		let [peaks, n] = [0, 0];
		for (let i = 0; i < run.peakHeightUm.length; i++) {
			const ratio = run.peakHeightUm[i]! / run.heightUm[i]!;
			if (!(ratio > 0) || ratio === Infinity) continue;
			n++;
			if (ratio > th.peakRatio) peaks++;
		}
		if (!(n > 0 && peaks / n > th.peakShare)) return [];
		const evidence = `${((100 * peaks) / n).toFixed(0)} % of the deposits have a peak over ${th.peakRatio} times their height.`;
		return [{ size: peaks / n, error: Math.sqrt(peaks) / n, evidence }];
	}
};
