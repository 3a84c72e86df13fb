import { stationKind } from './kind.ts';

export const paste = stationKind({
	role: 'paste',
	name: 'Paste',
	about: 'jars, fridge and room: what lies on the stencil and what comes next',
	path: 'paste',
	order: 10,
	purposes: ['surfaceMount'],
	many: false,
	tabs: [
		{ path: '', name: 'Jars' },
		{ path: '/plan', name: 'Fridge plan' },
		{ path: '/pastes', name: 'Pastes' },
		{ path: '/air', name: 'Air' }
	],
	machine: null,
	ridesWith: 'print'
});
