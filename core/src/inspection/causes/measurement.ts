import type { Cause } from './cause.ts';
import { medianInPlace } from '../../numerics/index.ts';

export const MEASUREMENT: Cause = {
	code: 'MEASUREMENT',
	name: 'Readings disagree with themselves',
	cause: 'inspection unit’s calibration, or a wrong foil thickness',
	action: 'Calibrate the inspection unit, or correct the foil thickness',
	test: 'Measure the foil with a micrometer',
	unit: 'ratio',
	threshold: (th) => th.measurementLn,
	certainty: 0.95,
	panelsNeeded: 3,
	find: ({ p: { run }, th }) => {
		const scratch = new Float64Array(run.volumePct.length);
		let k = 0;
		for (let i = 0; i < scratch.length; i++) {
			const v = run.volumePct[i]! / ((run.areaPct[i]! * run.heightUm[i]!) / run.foilUm);
			if (v > 0 && v < Infinity) scratch[k++] = Math.abs(Math.log(v));
		}
		const size = medianInPlace(scratch, k);
		if (!(size > th.measurementLn)) return [];
		return [{ size, error: 0, evidence: `Volume and area × height differ by ${(100 * size).toFixed(0)} % in the middle of all readings.` }];
	}
};
