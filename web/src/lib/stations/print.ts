import { z } from 'zod';
import { stationKind } from './kind.ts';

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
	machine: {
		schema: z.object({
			cycleS: z.number().positive().max(3600).meta({ title: 'Cycle', unit: 's a panel' }),
			/** As the board is seen from above: y runs away from the operator. */
			strokeAxis: z.enum(['y', 'x']).default('y').meta({ title: 'Blades run along' }),
			/** What stencils are glued or hung into; the order sheet says it. */
			frame: z.string().trim().max(60).default('').meta({ title: 'Stencil frame' })
		}),
		start: { cycleS: 20, strokeAxis: 'y', frame: '' },
		paceS: ({ cycleS }) => cycleS
	}
});
