import { error } from '@sveltejs/kit';
import { handOverLines } from '@keen-relay/core/schedule';
import { idOf } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { sayTo } from '$lib/server/people/preferences.ts';
import { plantInfo } from '$lib/server/plant/settings.ts';
import { handOverOf, shiftOf } from '$lib/server/shift/hand-over.ts';
import { shiftFacts } from '$lib/server/shift/shift-facts.ts';
import { pdfResponse, sheetPdf } from '$lib/server/sheets/pdf.ts';

/** The hand-over of the shift ?of=date+name on ?line=, as PDF: as it was signed, else as it stands now. */
export async function GET({ url, locals }) {
	const lineId = idOf(url.searchParams.get('line') ?? '');
	const line = await db.selectFrom('line').select('name').where('id', '=', lineId).executeTakeFirst();
	const [date, name] = (url.searchParams.get('of') ?? '').split(' ');
	if (!line || !date || !name) error(404, 'There is no such line or shift.');
	const [{ timeZone }, say] = await Promise.all([plantInfo(), sayTo(locals)]);
	const shift = await shiftOf(date, name);
	const sheet = await handOverOf(lineId, date, name);
	const lines = sheet?.outgoingId ? sheet.lines : handOverLines(await shiftFacts(lineId, shift));
	const signed = (who: string | null | undefined, at: Date | null | undefined) => ({
		name: who ?? '',
		at: at ? say.dayTime(at, timeZone) : ''
	});
	const pdf = await sheetPdf({
		title: `Hand-over, ${line.name}, ${name} shift`,
		about: [`${say.date(date)}, ${say.clockTime(shift.startMs, timeZone)} to ${say.clockTime(shift.endMs, timeZone)}`],
		blocks: [
			...lines.map((block) => ({ ...block, lines: block.lines.map((line) => say.text(line)) })),
			{ heading: 'Note to the next shift', lines: sheet?.note ? sheet.note.split('\n') : ['–'] }
		],
		signatures: [
			{ role: 'hands over', ...signed(sheet?.outgoingName, sheet?.outgoingAt) },
			{ role: 'takes over', ...signed(sheet?.incomingName, sheet?.incomingAt) }
		]
	});
	return pdfResponse(pdf, `hand-over ${line.name} ${date} ${name}`);
}
