import type { Cause } from './cause.ts';
import { medianWithError } from './offsets.ts';
import { FAR_PANEL_LP } from './regress.ts';
import { signed } from './words.ts';

export const PANEL_OUTLIER: Cause = {
	code: 'PANEL_OUTLIER',
	name: 'One panel stands out',
	cause: 'that panel: clamp, debris, a re-print, a wrong program',
	action: 'Look at that panel',
	test: 'Compare with the panel before',
	unit: 'lp',
	threshold: () => FAR_PANEL_LP,
	certainty: 0.95,
	panelsNeeded: 1,
	find: ({ all, p }) =>
		all.outliers.map((m) => ({
			size: p.pa[m]!,
			error: 0,
			where: { panels: [m] },
			evidence: `${p.run.panels[m]!.serial} carries ${signed(p.pa[m]!)} against its neighbours.`
		})),
	statistic: ({ p }) => medianWithError(p.pa.map(Math.abs))
};
