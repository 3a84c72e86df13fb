import { z } from 'zod';
import { BOM_ROLES, POSITION_ROLES } from '@keen-relay/core/artwork';
import { boardFields, columnChoice, newBoard } from '$lib/api/bodies.ts';
import { refuse } from '$lib/server/answer.ts';
import { keepBoard } from '$lib/server/boards/keep-board.ts';
import { bounded } from '$lib/server/heavy/pool.ts';
import { readBefore } from '$lib/server/boards/read-before.ts';
import { enteredFacts } from '$lib/server/queries/packages.ts';
import type { BoardFiles, UploadedFile } from '@keen-relay/core/boards';
import { route } from '$lib/server/route.ts';

const MOST_BYTES = 60e6;

const FIGURES: readonly string[] = ['revisionId', 'widthMm', 'heightMm', 'thicknessMm', 'copperLayers', 'copperPct'];
/** A form sends texts: an empty one says nothing, a figure has a decimal point. */
const fieldsOf = (data: FormData) =>
	Object.fromEntries(
		[...data].flatMap(([name, value]) =>
			typeof value !== 'string' || value.trim() === '' ? [] : [[name, FIGURES.includes(name) ? Number(value) : value]]
		)
	);

/** Which column is what, as the form sends it. */
function columnsOf(field: string, text: string | null, roles: readonly string[]) {
	if (text === null) return null;
	try {
		return columnChoice(roles).parse(JSON.parse(text));
	} catch {
		return refuse(field, text.slice(0, 80), 'This is no choice of columns. Load the page again and choose them anew.');
	}
}

export const POST = route({
	who: 'board.create',
	does: 'Reads the files of one side of a board and keeps them; ?check keeps nothing.',
	query: z.object({ check: z.string().optional().describe('only read') }),
	contentType: 'multipart/form-data',
	run: async ({ event, actor, query }) => {
		const size = Number(event.request.headers.get('content-length') ?? 0);
		if (size > MOST_BYTES) refuse('files', `${(size / 1e6).toFixed(0)} MB`, 'The files are over 60 MB together.');
		const data = await event.request.formData().catch(() => refuse('body', '', 'Send the files as a form (multipart/form-data).'));
		const typed = fieldsOf(data);
		const fields = query.check === undefined ? newBoard.parse(typed) : boardFields.parse(typed);
		const chosen = (name: string) => data.getAll(name).filter((entry): entry is File => entry instanceof File && entry.name !== '');
		const read = async (entry: File): Promise<UploadedFile> => ({ name: entry.name, bytes: new Uint8Array(await entry.arrayBuffer()) });
		const file = async (name: string) => (chosen(name)[0] ? read(chosen(name)[0]!) : null);
		const required = async (name: string, what: string) => (await file(name)) ?? refuse(name, '', `Choose the ${what}.`);
		const files: BoardFiles = {
			paste: await required('paste', 'paste layer'),
			positions: await required('positions', 'position file'),
			bom: await required('bom', 'bill of materials'),
			outline: await file('outline'),
			netlist: await file('netlist'),
			layers: await Promise.all(chosen('layers').map(read)),
			widthMm: fields.widthMm,
			heightMm: fields.heightMm,
			side: fields.side,
			unit: fields.unit,
			decimal: fields.decimal,
			layerUnit: fields.layerUnit,
			content: fields.content,
			positionsSide: fields.positionsSide,
			positionsColumns: columnsOf('positionsColumns', fields.positionsColumns, POSITION_ROLES),
			bomColumns: columnsOf('bomColumns', fields.bomColumns, BOM_ROLES),
			readBefore: await readBefore(fields.revisionId ?? fields.customer)
		};
		if (query.check !== undefined) {
			const { apertures, reconciliation, bom, ...rest } = await bounded('files', 'board', files, await enteredFacts());
			return { ...rest, apertures, parts: reconciliation.parts, findings: reconciliation.findings, bomLines: bom.items.length };
		}
		const { revisionId, name, customer, revision } = fields;
		return keepBoard(actor, {
			board: revisionId === null ? { name, customer, revision } : { revisionId },
			build: { thicknessMm: fields.thicknessMm, copperLayers: fields.copperLayers, copperShare: fields.copperPct / 100 },
			files
		});
	}
});
