import { inflateSync } from 'node:zlib';
import { expect, test } from 'vitest';
import { dataMatrix } from './labels.ts';
import { LABEL_SIZES, labelPdf, pdfResponse, sheetPdf } from './pdf.ts';

/** Objects of a PDF that are compressed, opened: enough to see pages and fonts. */
function opened(pdf: Buffer): string {
	const text = pdf.toString('latin1');
	const streams = [...text.matchAll(/stream\r?\n([\s\S]*?)\r?\nendstream/g)].map(([, body]) => {
		try {
			return inflateSync(Buffer.from(body!, 'latin1')).toString('latin1');
		} catch {
			return '';
		}
	});
	return text + streams.join('\n');
}

const rows = (n: number) => Array.from({ length: n }, (_, i) => [i + 1, `FB-R-${i}`, 40]);
const sheet = (n: number) =>
	sheetPdf({
		title: 'Load list, Place 1',
		about: ['Orchard frost sensor C, top side'],
		blocks: [
			{
				columns: [
					{ title: 'Slot', figures: true },
					{ title: 'Part number', width: '*' },
					{ title: 'A panel', figures: true }
				],
				rows: rows(n)
			}
		],
		signatures: [{ role: 'loaded', name: '', at: '' }]
	});

test('a sheet is A4 with our own fonts in it, and long ones go on over pages', async () => {
	const pages = (pdf: string) => Number(/\/Count (\d+)/.exec(pdf)?.[1]);
	const short = opened(await sheet(5));
	expect(short.startsWith('%PDF-')).toBe(true);
	expect(short).toContain('[0 0 595.28 841.89]');
	expect(short).toMatch(/Atkinson/);
	// Nothing of the usual fonts that a viewer would have to bring.
	expect(short).not.toMatch(/\/BaseFont \/Helvetica/);
	expect(pages(short)).toBe(1);
	expect(pages(opened(await sheet(120)))).toBeGreaterThan(2);
});

test('what our fonts have not is printed all the same: µ and Greek letters', async () => {
	const pdf = opened(await sheetPdf({ title: 'Stencil', about: ['foil 120 µm'], blocks: [{ lines: ['σ of 4 µm, Δ 2'] }] }));
	expect([...pdf.matchAll(/\/BaseFont \/\w+\+([\w-]+)/g)].map(([, name]) => name).some((name) => /noto/i.test(name!))).toBe(true);
	// What a viewer copies out of it: each sign is a letter of its font, not an empty box.
	for (const code of ['00b5', '03c3', '0394']) expect(pdf.toLowerCase(), code).toContain(`<${code}>`);
});

test('it opens in its tab under a name without blanks', async () => {
	const response = pdfResponse(await sheet(1), 'hand-over Line 1 2026-11-25 Early');
	expect(response.headers.get('content-type')).toBe('application/pdf');
	expect(response.headers.get('content-disposition')).toBe('inline; filename="hand-over-Line-1-2026-11-25-Early.pdf"');
});

test.each(LABEL_SIZES)('a label of %s mm is one label, whatever stands on it', async (size) => {
	const [width, height] = size.split('x').map((mm) => (Number(mm) * 72) / 25.4);
	const lines = [
		'Fernbrook no-clean SAC305',
		'P-305, lot L26-114',
		'use by 2026-12, 500 g',
		'SCRAPED OFF, from J-0021',
		'opened 27 Nov 13:42'
	];
	const pdf = opened(await labelPdf('J-0042', lines, dataMatrix('J-0042'), size));
	const [, wide, high] = /MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/.exec(pdf)!.map(Number);
	expect([wide, high]).toEqual([expect.closeTo(width!, 2), expect.closeTo(height!, 2)]);
	expect(Number(/\/Count (\d+)/.exec(pdf)?.[1])).toBe(1);
});
