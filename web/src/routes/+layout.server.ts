import { db } from '$lib/server/db/index.ts';
import { clockNow } from '$lib/server/line/clock.ts';
import { plantInfo } from '$lib/server/line/plant.ts';
import { lineNow } from '$lib/server/line/strip.ts';
import { shiftAt } from '@keen-relay/core/schedule';

export async function load({ locals, params, depends }) {
	if (!locals.person) return { person: null, plant: null, clock: null, line: null, lines: [] };
	depends('live:line', 'live:runs', 'live:results', 'live:shift');
	const lines = await db.selectFrom('line').selectAll().orderBy('id').execute();
	const chosen = Number(params.line ?? lines[0]?.id ?? 0);
	const [plant, clock, line] = await Promise.all([plantInfo(), clockNow(), chosen ? lineNow(chosen) : null]);
	const shift = shiftAt(clock.nowMs, plant.shifts, plant.timeZone);
	return { person: locals.person, plant, clock, line, lines, shift };
}
