import { shiftAt, type Shift } from '@keen-relay/core/schedule';
import { missing } from '../answer.ts';
import { plantNow } from '../plant/clock.ts';
import { plantInfo, type PlantInfo } from '../plant/settings.ts';
import { shiftOf } from './hand-over.ts';

/** The shift that a page is about: the one asked for with ?of=date name, else the one that runs now. */
export async function shiftPage<L>(
	url: URL,
	line: L | null
): Promise<{ line: L; shift: Shift; current: Shift | null; plant: PlantInfo; nowMs: number }> {
	if (!line) missing('There is no line yet: a shift is handed over on a line.', '/plant/set-up/lines', 'Enter a line');
	const [plant, nowMs] = await Promise.all([plantInfo(), plantNow()]);
	const current = shiftAt(nowMs, plant.shifts, plant.timeZone);
	const [date, name] = (url.searchParams.get('of') ?? '').split(' ');
	const shift = date && name ? await shiftOf(date, name) : current;
	if (!shift) missing('No shift runs now, by the plant’s weekdays and hours.', '/plant/set-up/plant', 'Look at the shifts');
	return { line, shift, current, plant, nowMs };
}
