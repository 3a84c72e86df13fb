import { CALCULATIONS } from '$lib/api/calc/index.ts';
import { route } from '$lib/server/route.ts';

export const GET = route({
	who: 'signedIn',
	does: 'Names of all calculations with what each is for.',
	run: () => CALCULATIONS.map(({ name, summary }) => ({ name, summary }))
});
