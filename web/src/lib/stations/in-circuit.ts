import { stationKind, takesPanels } from './kind.ts';

export const inCircuit = stationKind({
	role: 'inCircuit',
	name: 'In-circuit',
	about: 'in-circuit tester',
	path: 'in-circuit',
	order: 80,
	purposes: ['surfaceMount', 'finishing'],
	many: false,
	tabs: [
		{ path: '', name: 'Results' },
		{ path: '/files', name: 'Files' }
	],
	machine: takesPanels(22)
});
