import { error } from '@sveltejs/kit';
import { shiftAt, type Shift } from '@keen-relay/core/schedule';
import { plantNow } from '../plant/clock.ts';
import { plantInfo, type PlantInfo } from '../plant/settings.ts';
import { shiftOf } from './hand-over.ts';

/** The shift that a page is about: the one asked for with ?of=date name, else the one that runs now. */
export async function shiftPage<L>(
	url: URL,
	line: L | null
): Promise<{ line: L; shift: Shift; current: Shift | null; plant: PlantInfo; nowMs: number }> {
	if (!line) error(404, 'There is no line yet.');
	const [plant, nowMs] = await Promise.all([plantInfo(), plantNow()]);
	const current = shiftAt(nowMs, plant.shifts, plant.timeZone);
	const [date, name] = (url.searchParams.get('of') ?? '').split(' ');
	const shift = date && name ? await shiftOf(date, name) : current;
	if (!shift) error(404, 'No shift runs now.');
	return { line, shift, current, plant, nowMs };
}
