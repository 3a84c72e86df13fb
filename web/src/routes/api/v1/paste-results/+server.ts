import { bodies } from '$lib/api/bodies.ts';
import { answer, readJson } from '$lib/server/answer.ts';
import { importPasteResults } from '$lib/server/stations/paste-check/import.ts';
import { ingest } from '$lib/server/ingest/ingest.ts';
import { authorize } from '$lib/server/people/access.ts';

/** Reads paste inspection results from a table. */
export async function POST(event) {
	return answer(async () => {
		const actor = await authorize(event, 'results.import');
		const body = await readJson(event, bodies.pasteImport);
		return importPasteResults(actor, body, ingest);
	}, 200);
}
