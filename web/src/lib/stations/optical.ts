import { stationKind, takesPanels } from './kind.ts';

export const optical = stationKind({
	role: 'optical',
	name: 'Optical',
	about: 'optical inspection, before the oven or after it',
	path: 'optical',
	order: 70,
	purposes: ['surfaceMount', 'finishing'],
	many: true,
	tabs: [
		{ path: '', name: 'Now' },
		{ path: '/files', name: 'Files' }
	],
	machine: takesPanels(18)
});
