import { z } from 'zod';
import { refuse } from '$lib/server/answer.ts';
import { keepBoard } from '$lib/server/boards/keep-board.ts';
import { bounded } from '$lib/server/heavy/pool.ts';
import { enteredFacts } from '$lib/server/queries/packages.ts';
import type { BoardFiles, UploadedFile } from '@keen-relay/core/boards';
import { route } from '$lib/server/route.ts';

const MOST_BYTES = 60e6;

const numberOrNull = z
	.string()
	.optional()
	.transform((text) => (text?.trim() ? Number(text.replace(',', '.')) : null))
	.refine((n) => n === null || Number.isFinite(n), 'must be a number');

const orNull = <T extends string>(...values: T[]) =>
	z
		.union([z.literal(''), z.enum(values)])
		.optional()
		.transform((value) => (value ? (value as T) : null));

const form = z.object({
	/** The board revision that gets its other side; without it the board is new. */
	revisionId: numberOrNull,
	name: z.string().trim().default(''),
	customer: z.string().trim().default(''),
	revision: z.string().trim().default(''),
	side: z.enum(['top', 'bottom']),
	widthMm: numberOrNull,
	heightMm: numberOrNull,
	unit: orNull('mm', 'mil', 'inch'),
	decimal: orNull('.', ','),
	layerUnit: orNull('mm', 'inch'),
	content: orNull('circuit', 'panel'),
	positionsSide: orNull('top', 'bottom'),
	thicknessMm: z.coerce.number().min(0.2).max(6),
	copperLayers: z.coerce.number().int().min(0).max(40),
	copperPct: z.coerce.number().min(0).max(100)
});

export const POST = route({
	who: 'board.create',
	does: 'Reads the files of one side of a board and keeps them; ?check keeps nothing.',
	query: z.object({ check: z.string().optional().describe('only read') }),
	contentType: 'multipart/form-data',
	run: async ({ event, actor, query }) => {
		const size = Number(event.request.headers.get('content-length') ?? 0);
		if (size > MOST_BYTES) refuse('files', `${(size / 1e6).toFixed(0)} MB`, 'The files are over 60 MB together.');
		const data = await event.request.formData().catch(() => refuse('body', '', 'Send the files as a form (multipart/form-data).'));
		const fields = form.parse(Object.fromEntries([...data].filter(([, value]) => typeof value === 'string')));
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
			positionsSide: fields.positionsSide
		};
		if (query.check !== undefined) {
			const { apertures, reconciliation, bom, ...rest } = await bounded('files', 'board', files, await enteredFacts());
			return { ...rest, apertures, parts: reconciliation.parts, findings: reconciliation.findings, bomLines: bom.items.length };
		}
		const { revisionId, name, customer, revision } = fields;
		if (revisionId === null)
			for (const field of ['name', 'customer', 'revision'] as const) if (!fields[field]) refuse(field, '', `Give the board's ${field}.`);
		return keepBoard(actor, {
			board: revisionId === null ? { name, customer, revision } : { revisionId },
			build: { thicknessMm: fields.thicknessMm, copperLayers: fields.copperLayers, copperShare: fields.copperPct / 100 },
			files
		});
	}
});
