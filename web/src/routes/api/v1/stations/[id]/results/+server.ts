import { bodies } from '$lib/api/bodies.ts';
import { ingest } from '$lib/server/ingest/ingest.ts';
import { readVisitFile } from '$lib/server/stations/visit-files.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'results.import',
	does: 'Results of an inspection or a test from a file: looked at, checked, or taken through the same gate as a machine’s messages.',
	body: bodies.visitFile,
	example: {
		name: 'optical.csv',
		text: 'Serial,Position,Result,Finished\nJ-1-0001,1,OK,2026-11-27 10:00\n',
		mapping: { columns: { panel: 'Serial', circuit: 'Position', result: 'Result', at: 'Finished' }, pass: ['OK'], fail: ['NG'] },
		check: true
	},
	run: ({ actor, id, body }) => readVisitFile(actor, id, body, ingest)
});
