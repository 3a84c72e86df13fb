import { error } from '@sveltejs/kit';
import { plantNow } from '$lib/server/plant/clock.ts';
import { sayTo } from '$lib/server/people/preferences.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { jarsNow } from '$lib/server/queries/jars.ts';
import { LABEL_SIZES, labelPdf, pdfResponse } from '$lib/server/sheets/pdf.ts';
import { dataMatrix } from '$lib/server/sheets/labels.ts';

/** The label of ?jar= on a label of ?size=: Data Matrix, paste, lot, date, and what it may be used for. */
export async function GET({ url, locals }) {
	const [nowMs, plant, say] = await Promise.all([plantNow(), plantInfo(), sayTo(locals)]);
	const [jar] = await jarsNow(nowMs, [url.searchParams.get('jar') ?? '']);
	if (!jar) error(404, 'There is no such jar.');
	const asked = url.searchParams.get('size') ?? LABEL_SIZES[0];
	const size = LABEL_SIZES.find((known) => known === asked) ?? error(404, `Labels are ${LABEL_SIZES.join(', ')} mm.`);
	const lines = [
		jar.pasteName,
		`${jar.facts.paste}, lot ${jar.facts.lot}`,
		`use by ${jar.printedExpiry}, ${say.quantity(jar.facts.grams, 0, 'g')}`,
		...(jar.fromJar ? [`SCRAPED OFF, from ${jar.fromJar}`] : []),
		...(jar.status.openedMs ? [`opened ${say.dayTime(jar.status.openedMs, plant.timeZone)}`] : [])
	];
	return pdfResponse(await labelPdf(jar.facts.id, lines, dataMatrix(jar.facts.id), size), `Label ${jar.facts.id}`);
}
