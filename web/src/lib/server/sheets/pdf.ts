import { createRequire } from 'node:module';
import pdfmake from 'pdfmake';

const font = (name: string) => createRequire(import.meta.url).resolve(`@fontsource/${name}.woff`);
const TEXT = 'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin';
const FIGURES = 'atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin';
const SIGNS = 'noto-sans/files/noto-sans';
let ready = false;

/** The fonts of the pages, from the packages that ship with them: nothing is fetched. */
function prepare(): void {
	if (ready) return;
	pdfmake.addFonts({
		Text: { normal: font(`${TEXT}-400-normal`), bold: font(`${TEXT}-700-normal`) },
		Figures: { normal: font(`${FIGURES}-400-normal`), bold: font(`${FIGURES}-600-normal`) },
		Micro: { normal: font(`${SIGNS}-latin-400-normal`), bold: font(`${SIGNS}-latin-700-normal`) },
		Greek: { normal: font(`${SIGNS}-greek-400-normal`), bold: font(`${SIGNS}-greek-700-normal`) }
	});
	pdfmake.setUrlAccessPolicy?.(() => false);
	ready = true;
}

/** A text whose signs that our fonts have not, µ and Greek letters, stand in one that has them: a sheet never says "120 m". */
function withSigns(text: string): string | { text: string; font?: string }[] {
	if (!/[µ\u0370-\u03ff]/.test(text)) return text;
	return (text.match(/µ+|[\u0370-\u03ff]+|[^µ\u0370-\u03ff]+/g) ?? []).map((part) =>
		part.startsWith('µ') ? { text: part, font: 'Micro' } : /^[\u0370-\u03ff]/.test(part) ? { text: part, font: 'Greek' } : { text: part }
	);
}

interface Column {
	title: string;
	/** Figures stand right-aligned in the figure font. */
	figures?: boolean;
	width?: number | '*' | 'auto';
}

export interface Sheet {
	title: string;
	/** Under the title: what it is of, and when it was printed. */
	about: string[];
	blocks: (
		| { heading?: string; lines: readonly string[] }
		| { heading?: string; columns: readonly Column[]; rows: readonly (readonly (string | number)[])[] }
	)[];
	/** Places to sign, each with the name and time that stand there already. */
	signatures?: { role: string; name: string; at: string }[];
	landscape?: boolean;
}

const INK = '#17252e';
const SOFT = '#566269';

/** A sheet to print, A4, as PDF: title, blocks of lines or tables whose header repeats on every page, signatures, page numbers. */
export async function sheetPdf(sheet: Sheet): Promise<Buffer> {
	prepare();
	const hair = {
		hLineWidth: (i: number) => (i <= 1 ? 0.8 : 0.3),
		vLineWidth: () => 0,
		hLineColor: () => SOFT,
		paddingLeft: () => 0,
		paddingRight: () => 8
	};
	const content = [
		{ text: withSigns(sheet.title), fontSize: 18, bold: true },
		...sheet.about.map((line) => ({ text: withSigns(line), color: SOFT, margin: [0, 2, 0, 0] })),
		...sheet.blocks.flatMap((block) => [
			...(block.heading ? [{ text: withSigns(block.heading), bold: true, margin: [0, 12, 0, 3] }] : [{ text: '', margin: [0, 6, 0, 0] }]),
			'columns' in block
				? {
						layout: hair,
						table: {
							headerRows: 1,
							dontBreakRows: true,
							widths: block.columns.map((column) => column.width ?? 'auto'),
							body: [
								block.columns.map(({ title, figures }) => ({ text: withSigns(title), color: SOFT, alignment: figures ? 'right' : 'left' })),
								...block.rows.map((row) =>
									row.map((cell, i) => ({
										text: withSigns(String(cell)),
										...(block.columns[i]?.figures ? { font: 'Figures', alignment: 'right' } : {})
									}))
								)
							]
						}
					}
				: { stack: block.lines.map((line) => ({ text: withSigns(line), margin: [0, 1, 0, 1] })) }
		]),
		...(sheet.signatures
			? [
					{
						margin: [0, 26, 0, 0],
						columnGap: 30,
						columns: sheet.signatures.map(({ role, name, at }) => ({
							stack: [
								{ text: name || ' ', fontSize: 13 },
								{ canvas: [{ type: 'line', x1: 0, y1: 2, x2: 220, y2: 2, lineWidth: 0.8 }] },
								{ text: `${role}${at ? `, ${at}` : ''}`, color: SOFT, margin: [0, 3, 0, 0] }
							]
						}))
					}
				]
			: [])
	];
	return pdfmake
		.createPdf({
			pageSize: 'A4',
			pageOrientation: sheet.landscape ? 'landscape' : 'portrait',
			pageMargins: [42, 40, 42, 44],
			info: { title: sheet.title },
			defaultStyle: { font: 'Text', fontSize: 10, color: INK },
			content,
			footer: (page: number, pages: number) => ({
				columns: [sheet.title, { text: `${page} of ${pages}`, alignment: 'right' }],
				color: SOFT,
				fontSize: 8,
				margin: [42, 14, 42, 0]
			})
		})
		.getBuffer();
}

/** Labels as they are sold on rolls, mm; the first is used where nobody chose. */
export const LABEL_SIZES = ['70x40', '100x50', '62x29', '50x25'] as const;
export type LabelSize = (typeof LABEL_SIZES)[number];

/** A label: the symbol, its code, and what else stands on it. */
export async function labelPdf(code: string, lines: readonly string[], symbol: string, size: LabelSize = '70x40'): Promise<Buffer> {
	prepare();
	const mm = 72 / 25.4;
	const [width, height] = size.split('x').map(Number) as [number, number];
	/** Everything is as large as the label is high: a symbol that fills it is read from the farthest. */
	const scale = height / 40;
	const edge = 8 * scale;
	return pdfmake
		.createPdf({
			pageSize: { width: width * mm, height: height * mm },
			pageMargins: [edge, edge, edge, edge],
			info: { title: code },
			defaultStyle: { font: 'Text', fontSize: 8.5 * scale, color: INK },
			content: [
				{
					columnGap: edge,
					columns: [
						{ svg: symbol, width: 68 * scale, height: 68 * scale },
						{
							stack: [
								{ text: code, font: 'Figures', fontSize: 17 * scale, bold: true },
								...lines.map((text) => ({ text: withSigns(text), margin: [0, scale, 0, 0] }))
							]
						}
					]
				}
			]
		})
		.getBuffer();
}

/** A PDF shown in its own tab, so that no print dialog swallows a scan. */
export function pdfResponse(pdf: Buffer, name: string): Response {
	return new Response(new Uint8Array(pdf), {
		headers: { 'content-type': 'application/pdf', 'content-disposition': `inline; filename="${name.replace(/[^\w.-]+/g, '-')}.pdf"` }
	});
}
