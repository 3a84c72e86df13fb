import { clockNow } from '$lib/server/plant/clock.ts';
import { sayTo } from '$lib/server/people/preferences.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { loadListSheet } from '$lib/server/sheets/load-list.ts';
import { pdfResponse, sheetPdf } from '$lib/server/sheets/pdf.ts';

/** The load list of ?station= on ?line= for ?side=, or for what is running, as PDF. */
export async function GET({ url, locals }) {
	const [{ nowMs }, plant, say] = await Promise.all([clockNow(), plantInfo(), sayTo(locals)]);
	const sheet = await loadListSheet(
		url.searchParams.get('line') ?? '',
		url.searchParams.get('station') ?? '',
		url,
		say,
		say.dayTime(nowMs, plant.timeZone)
	);
	return pdfResponse(await sheetPdf(sheet), sheet.title);
}
