import { startingPrintRecipe } from '@keen-relay/core/printing';
import { stagesOf } from '$lib/stations/index.ts';
import { pasteOfPanel } from '$lib/server/queries/bead.ts';
import { boardSide } from '$lib/server/queries/sides.ts';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { printGeometry } from '@keen-relay/core/printing';
import { firstPrintsOf, partsBelow } from '$lib/server/stations/print/print-run.ts';

export async function load({ params, url, depends }) {
	depends('live:boards', 'live:line');
	const { side, sides, run, station, stations, ready, lineId } = await stationPage(params.line, 'print', url);
	const whole = side && (await boardSide(side.id));
	if (!side || !whole)
		return {
			side: null,
			sides,
			station,
			lineId,
			panel: null,
			released: null,
			start: null,
			below: [],
			taktS: null,
			firstPrints: null,
			run: null,
			taken: null
		};
	const { panel } = printGeometry(whole);
	const [released, below, firstPrints, taken] = await Promise.all([
		db
			.selectFrom('printRecipe')
			.selectAll()
			.where('boardSideId', '=', side.id)
			.where('lineId', '=', lineId)
			.where('status', '=', 'released')
			.executeTakeFirst(),
		partsBelow(whole),
		run && run.boardSideId === side.id ? firstPrintsOf(run.id, whole, run.firstPrintsMore) : null,
		ready.stencil && ready.recipe ? pasteOfPanel(ready.stencil.id, ready.recipe.pasteId) : null
	]);
	const pitches = whole.apertures.filter((a) => a.padClass === 'fineLead' || a.padClass === 'fineBallGrid');
	// The printer's own time is what is being set here: the pace is that of the others.
	const others = stagesOf(
		stations.filter((s) => s.role !== 'print'),
		side,
		ready.program?.plan ?? null,
		ready.recipe?.recipe.beltCmPerMin ?? null
	);
	return {
		side,
		sides,
		station,
		lineId,
		panel: {
			widthMm: panel.widthMm,
			heightMm: panel.heightMm,
			thicknessMm: side.build.thicknessMm,
			origins: panel.origins,
			fiducials: panel.fiducials
		},
		released: released ?? null,
		start: startingPrintRecipe(panel.widthMm, pitches.length ? 0.4 : null),
		below,
		taktS: others.length ? Math.max(...others.map((stage) => stage.secondsPerPanel)) : null,
		firstPrints,
		run: run && { id: run.id, number: run.number, panels: run.panels, firstPrintAt: run.firstPrintAt, held: run.held },
		/** What a panel takes with the released stencil and paste; null without either. */
		taken
	};
}
