import { error } from '@sveltejs/kit';
import { plantNow } from '$lib/server/plant/clock.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { jarsNow } from '$lib/server/queries/jars.ts';
import { labelPdf, pdfResponse } from '$lib/server/sheets/pdf.ts';
import { dataMatrix } from '$lib/server/sheets/labels.ts';
import { dayTime } from '$lib/ui/format.ts';

/** The label of ?jar=: Data Matrix, paste, lot, date, and what it may be used for. */
export async function GET({ url }) {
	const [nowMs, plant] = await Promise.all([plantNow(), plantInfo()]);
	const [jar] = await jarsNow(nowMs, [url.searchParams.get('jar') ?? '']);
	if (!jar) error(404, 'There is no such jar.');
	const lines = [
		jar.pasteName,
		`${jar.facts.paste}, lot ${jar.facts.lot}`,
		`use by ${jar.printedExpiry}, ${jar.facts.grams} g`,
		...(jar.fromJar ? [`SCRAPED OFF, from ${jar.fromJar}`] : []),
		...(jar.status.openedMs ? [`opened ${dayTime(jar.status.openedMs, plant.timeZone)}`] : [])
	];
	return pdfResponse(await labelPdf(jar.facts.id, lines, dataMatrix(jar.facts.id)), `Label ${jar.facts.id}`);
}
