import { bodies } from '$lib/api/bodies.ts';
import { exportSetUp, importSetUp } from '$lib/server/line/copy.ts';
import { download, route } from '$lib/server/route.ts';

export const GET = route({
	who: 'plant.set',
	does: 'The whole set-up of the plant as one JSON file: plant, lines with machine data, rules, rights, pastes, sensors. No people, tokens, boards or results.',
	run: async () => download(`${JSON.stringify(await exportSetUp(), null, '\t')}\n`, 'set-up.json', 'application/json')
});

export const POST = route({
	who: 'plant.set',
	also: ['line.create', 'rules.set', 'rights.set', 'paste.define', 'sensor.set'],
	does: 'Reads a set-up into this plant: what each thing would become, and, with apply, does it. Nothing that is there is taken away.',
	body: bodies.setUpCopy,
	example: { text: '{"format":"keen-relay-set-up","version":1}', apply: false },
	run: async ({ actor, body, asking }) => {
		// It sets what each of these rights is for.
		for (const right of ['line.create', 'rules.set', 'rights.set', 'paste.define', 'sensor.set'] as const) await asking(right);
		return { copied: await importSetUp(actor, body.text, body.apply) };
	}
});
