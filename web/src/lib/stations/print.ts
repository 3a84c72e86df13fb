import { ownCycle, stationKind } from './kind.ts';

export const print = stationKind({
	role: 'print',
	name: 'Print',
	about: 'stencil printer',
	path: 'print',
	order: 20,
	purposes: ['surfaceMount'],
	many: false,
	tabs: [
		{ path: '', name: 'Printing' },
		{ path: '/set-up', name: 'Set-up' },
		{ path: '/alignment', name: 'Alignment' },
		{
			path: '/stencil',
			name: 'Stencil',
			views: [
				{ path: '', name: 'Design' },
				{ path: '/library', name: 'Library' }
			]
		},
		{ path: '/openings', name: 'Openings' },
		{ path: '/trial', name: 'Trial' }
	],
	machine: ownCycle(20)
});
