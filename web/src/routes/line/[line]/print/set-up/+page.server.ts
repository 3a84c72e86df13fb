import { startingPrintRecipe } from '@keen-relay/core/printing';
import { transferEfficiency } from '@keen-relay/core/stencil';
import { stagesOf, taktOf } from '$lib/server/boards/release.ts';
import { boardSide } from '$lib/server/db/boards.ts';
import { db } from '$lib/server/db/index.ts';
import { stationPage } from '$lib/server/line/station-page.ts';
import { currentModel } from '$lib/server/printing/opening-rules.ts';
import { firstPrintsOf, partsBelow, printGeometry } from '$lib/server/printing/print-run.ts';

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
			deliveredMm3: null
		};
	const { panel } = printGeometry(whole);
	const [released, below, firstPrints, model] = await Promise.all([
		db
			.selectFrom('printRecipe')
			.selectAll()
			.where('boardSideId', '=', side.id)
			.where('lineId', '=', lineId)
			.where('status', '=', 'released')
			.executeTakeFirst(),
		partsBelow(whole),
		run && run.boardSideId === side.id ? firstPrintsOf(run.id, whole, run.firstPrintsMore) : null,
		currentModel()
	]);
	const pitches = whole.apertures.filter((a) => a.padClass === 'fineLead' || a.padClass === 'fineBallGrid');
	// The printer's own time is what is being set here: the pace is that of the others.
	const others = stagesOf(
		stations.filter((s) => s.role !== 'print'),
		side,
		ready.program?.plan ?? null,
		ready.recipe?.recipe.beltCmPerMin ?? null
	);
	const foilMm = ready.stencil ? ready.stencil.foilUm / 1000 : null;
	const delivered =
		foilMm === null
			? 0
			: whole.apertures.reduce((sum, a) => sum + a.areaMm2 * foilMm * transferEfficiency(a.areaMm2 / (a.perimeterMm * foilMm), model), 0);
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
		taktS: taktOf(others).taktS,
		firstPrints,
		run: run && { id: run.id, number: run.number, panels: run.panels, firstPrintAt: run.firstPrintAt, held: run.held },
		/** What the openings of the whole panel deliver at the released foil; null without one. */
		deliveredMm3: foilMm === null ? null : delivered * panel.origins.length
	};
}
