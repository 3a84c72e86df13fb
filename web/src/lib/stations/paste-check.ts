import { stationKind, takesPanels } from './kind.ts';

export const pasteCheck = stationKind({
	role: 'pasteCheck',
	name: 'Paste check',
	about: 'measures every deposit after the print',
	path: 'paste-check',
	order: 30,
	purposes: ['surfaceMount'],
	many: false,
	tabs: [
		{ path: '', name: 'Panels' },
		{
			path: '/causes',
			name: 'Causes',
			views: [
				{ path: '', name: 'Found' },
				{ path: '/thresholds', name: 'Thresholds' }
			]
		},
		{ path: '/classes', name: 'Classes' },
		{
			path: '/limits',
			name: 'Limits',
			views: [
				{ path: '', name: 'By class' },
				{ path: '/consequences', name: 'Consequences' }
			]
		},
		{ path: '/unit', name: 'Unit' },
		{
			path: '/files',
			name: 'Files',
			views: [
				{ path: '', name: 'Results of this line' },
				{ path: '/study', name: 'Study a run' }
			]
		}
	],
	machine: takesPanels(18)
});
