import { z } from 'zod';
import { requireAction } from '$lib/server/people/access.ts';
import { answer, refuse } from '$lib/server/answer.ts';
import { keepBoard } from '$lib/server/boards/keep-board.ts';
import { readBoardFiles, type BoardFiles, type UploadedFile } from '$lib/server/boards/read-files.ts';

const MOST_BYTES = 60e6;

const numberOrNull = z
	.string()
	.optional()
	.transform((text) => (text?.trim() ? Number(text.replace(',', '.')) : null))
	.refine((n) => n === null || Number.isFinite(n), 'must be a number');

const form = z.object({
	name: z.string().trim().default(''),
	customer: z.string().trim().default(''),
	revision: z.string().trim().default(''),
	side: z.enum(['top', 'bottom']),
	widthMm: numberOrNull,
	heightMm: numberOrNull,
	unit: z
		.enum(['', 'mm', 'mil', 'inch'])
		.default('')
		.transform((unit) => unit || null),
	decimal: z
		.enum(['', '.', ','])
		.default('')
		.transform((sign) => sign || null),
	thicknessMm: z.coerce.number(),
	copperLayers: z.coerce.number(),
	copperPct: z.coerce.number()
});

/** Reads the files of one side. `?check` answers with what was read and keeps nothing. */
export async function POST({ request, locals, url }) {
	return answer(async () => {
		const person = requireAction(locals, 'board.create');
		const size = Number(request.headers.get('content-length') ?? 0);
		if (size > MOST_BYTES) refuse('files', `${(size / 1e6).toFixed(0)} MB`, 'The files are over 60 MB together.');
		const data = await request.formData().catch(() => refuse('body', '', 'Send the files as a form (multipart/form-data).'));
		const fields = form.parse(Object.fromEntries([...data].filter(([, value]) => typeof value === 'string')));
		const file = async (name: string): Promise<UploadedFile | null> => {
			const entry = data.get(name);
			if (!(entry instanceof File) || entry.name === '') return null;
			return { name: entry.name, bytes: new Uint8Array(await entry.arrayBuffer()) };
		};
		const required = async (name: string, what: string) => (await file(name)) ?? refuse(name, '', `Choose the ${what}.`);
		const files: BoardFiles = {
			paste: await required('paste', 'paste layer'),
			positions: await required('positions', 'position file'),
			bom: await required('bom', 'bill of materials'),
			outline: await file('outline'),
			widthMm: fields.widthMm,
			heightMm: fields.heightMm,
			side: fields.side,
			unit: fields.unit,
			decimal: fields.decimal
		};
		if (url.searchParams.has('check')) {
			const { apertures, reconciliation, bom, ...rest } = await readBoardFiles(files);
			return { ...rest, apertures, parts: reconciliation.parts, findings: reconciliation.findings, bomLines: bom.items.length };
		}
		for (const field of ['name', 'customer', 'revision'] as const) if (!fields[field]) refuse(field, '', `Give the board's ${field}.`);
		return keepBoard(person.id, {
			name: fields.name,
			customer: fields.customer,
			revision: fields.revision,
			build: { thicknessMm: fields.thicknessMm, copperLayers: fields.copperLayers, copperShare: fields.copperPct / 100 },
			files
		});
	});
}
