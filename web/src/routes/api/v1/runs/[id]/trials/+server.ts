import { bodies } from '$lib/api/bodies.ts';
import { beginTrial } from '$lib/server/stations/print/trials.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'trial.run',
	does: 'Begins a trial of force, speed and separation: eight corners and the middle three times, in a drawn order.',
	body: bodies.trial,
	example: {
		ranges: {
			force: { low: 0.18, high: 0.26, unit: 'kg/cm' },
			speed: { low: 30, high: 60, unit: 'mm/s' },
			separation: { low: 1, high: 5, unit: 'mm/s' }
		},
		panelsEach: 4
	},
	status: 201,
	run: ({ actor, body: { ranges, panelsEach }, id }) => beginTrial(actor, id, ranges, panelsEach)
});
