import { bodies } from '$lib/api/bodies.ts';
import { sayStep, startOfPlant } from '$lib/server/line/start.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Where the plant stands on its way to its first panel: every step with what is there and what it takes.',
	run: () => startOfPlant()
});

export const POST = route({
	who: 'plant.set',
	does: 'Says that what the plant starts with is right, or that results come by hand and by file.',
	body: bodies.plantStep,
	example: { step: 'rules' },
	run: ({ actor, body }) => sayStep(actor, body.step)
});
