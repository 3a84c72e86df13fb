import { idOf } from '$lib/server/answer.ts';
import { db } from '$lib/server/db/index.ts';
import { plantNow } from '$lib/server/plant/clock.ts';
import { askedOn } from '$lib/server/stations/paste/jars.ts';
import { pasteStation } from '$lib/server/stations/paste/summary.ts';
import { jarSpans } from '$lib/server/queries/jars.ts';
import { currentRun } from '$lib/server/queries/runs.ts';

export async function load({ params, url, depends, parent }) {
	depends('live:paste', 'live:line');
	const lineId = idOf(params.line);
	const nowMs = await plantNow();
	const [run, { line }] = await Promise.all([currentRun(lineId), parent()]);
	const [now, pastes, fridges] = await Promise.all([
		pasteStation(lineId, run, line?.pace.taktS ?? null, nowMs),
		db.selectFrom('paste').selectAll().orderBy('name').execute(),
		db.selectFrom('sensor').select(['id', 'name']).where('kind', '=', 'fridge').orderBy('id').execute()
	]);
	const spans = jarSpans(now.jars, nowMs);
	return {
		lineId,
		nowMs,
		asked: url.searchParams.get('jar'),
		verdict: now.verdict,
		bead: { ...now.bead, portions: now.line.portions, gPerPanel: now.line.gPerPanel, lifeH: now.line.rules.stencilLifeH },
		roll: now.roll,
		wanted: now.line.wantedName,
		wash: now.line.wash,
		room: now.room,
		askedOn: askedOn(now.line, now.room),
		pick: now.pick,
		panels: now.panels,
		jars: now.jars.map((jar, i) => ({ ...jar, history: spans[i]! })),
		pastes,
		fridges
	};
}
