import { error } from '@sveltejs/kit';
import { plantNow } from '$lib/server/plant/clock.ts';
import { sayTo } from '$lib/server/people/preferences.ts';
import { LABEL_SIZES, labelPdf, pdfResponse } from '$lib/server/sheets/pdf.ts';
import { dataMatrix } from '$lib/server/sheets/labels.ts';
import { reelsNow } from '$lib/server/queries/reels.ts';

/** The label of ?reel= on a label of ?size=: Data Matrix, part, maker's lot, count and whose it is. */
export async function GET({ url, locals }) {
	const [nowMs, say] = await Promise.all([plantNow(), sayTo(locals)]);
	const [reel] = await reelsNow(nowMs, [url.searchParams.get('reel') ?? '']);
	if (!reel) error(404, 'There is no such reel.');
	const asked = url.searchParams.get('size') ?? LABEL_SIZES[0];
	const size = LABEL_SIZES.find((known) => known === asked) ?? error(404, `Labels are ${LABEL_SIZES.join(', ')} mm.`);
	const lines = [
		reel.partNumber,
		`lot ${reel.makerLot}${reel.dateCode ? `, ${reel.dateCode}` : ''}`,
		`${reel.pieces} pieces${reel.tapeMm ? `, ${say.quantity(reel.tapeMm, 0, 'mm')} tape` : ''}`,
		...(reel.moistureLevel ? [`moisture level ${reel.moistureLevel}`] : []),
		...(reel.owner ? [`OF ${reel.owner}`] : [])
	];
	return pdfResponse(await labelPdf(reel.code, lines, dataMatrix(reel.code), size), `Label ${reel.code}`);
}
