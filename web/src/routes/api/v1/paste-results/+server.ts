import { bodies } from '$lib/api/bodies.ts';
import { importPasteResults } from '$lib/server/stations/paste-check/import.ts';
import { ingest } from '$lib/server/ingest/ingest.ts';
import { route } from '$lib/server/route.ts';

export const POST = route({
	who: 'results.import',
	does: 'Paste inspection results from a table, with the unit’s columns as they were confirmed once.',
	body: bodies.pasteImport,
	example: { unit: 'Line 1', runId: 12, text: 'panel_no,pad_id,volume_pct,height_um,area_pct,offset_x_um,offset_y_um\n', check: true },
	run: ({ actor, body }) => importPasteResults(actor, body, ingest)
});
