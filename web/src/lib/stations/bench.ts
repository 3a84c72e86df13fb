import { ownCycle, stationKind } from './kind.ts';

export const bench = stationKind({
	role: 'bench',
	name: 'Bench',
	about: 'inspection by a person or a device: pass or fail, with place and reason',
	path: 'bench',
	order: 100,
	purposes: ['surfaceMount', 'finishing'],
	many: true,
	tabs: [
		{ path: '', name: 'Inspect' },
		{ path: '/files', name: 'Files' }
	],
	machine: ownCycle(60)
});
