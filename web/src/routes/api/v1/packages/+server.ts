import { bodies } from '$lib/api/bodies.ts';
import { setFact } from '$lib/server/boards/packages.ts';
import { route } from '$lib/server/route.ts';

export const PUT = route({
	who: 'package.set',
	does: 'Enters what is known of a package, with its source.',
	body: bodies.package,
	example: { name: 'CONN_24X8X9', field: 'massG', value: 2.4, source: 'weighed' },
	run: ({ actor, body: { name, field, value, source, startedFrom } }) => setFact(actor, name, field, value, source, startedFrom)
});
