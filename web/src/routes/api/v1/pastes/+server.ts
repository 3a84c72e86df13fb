import { bodies } from '$lib/api/bodies.ts';
import { definePaste } from '$lib/server/stations/paste/pastes.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'paste.define',
	does: 'Enters a paste, or changes what is known of it.',
	body: bodies.paste,
	example: {
		startedFrom: null,
		name: 'SAC paste, water-soluble',
		partNumber: 'P-417',
		alloy: 'SAC305',
		powder: 'T4',
		fluxClass: 'waterSoluble',
		wash: 'warm water, 60 °C',
		rules: { stencilLifeH: 5 }
	},
	status: 201,
	run: ({ actor, body }) => definePaste(actor, body)
});
