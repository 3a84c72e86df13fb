import { afterPause, BEAD_MM, beadAge, beadOf, pasteDensity, PASTE_RULES, type BeadPortion } from '@keen-relay/core/paste';
import { panelGeometry } from '@keen-relay/core/artwork';
import { pasteGPerPanel } from '@keen-relay/core/printing';
import { asMade, deliveredMm3 } from '@keen-relay/core/stencil';
import { boardSide } from './sides.ts';
import { db, type Db, type Trx } from '../db/index.ts';
import { currentFactors, currentModel } from './transfer.ts';

/** What lies on a line's stencil and what its run asks for. */
export async function lineOf(lineId: number, nowMs: number, trx: Db | Trx = db) {
	const run = await trx
		.selectFrom('run')
		.innerJoin('ovenRecipe', 'ovenRecipe.id', 'run.ovenRecipeId')
		.innerJoin('paste', 'paste.id', 'ovenRecipe.pasteId')
		.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
		.leftJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
		.select([
			'run.id',
			'run.stencilId',
			'printRecipe.recipe',
			'stencilTool.measuredUm',
			'run.stencilToolId',
			'paste.id as pasteId',
			'paste.name',
			'paste.partNumber',
			'paste.wash',
			'paste.rules'
		])
		.where('run.lineId', '=', lineId)
		.orderBy('run.startedAt', 'desc')
		.executeTakeFirst();
	const loads = await trx
		.selectFrom('pasteJarEvent as e')
		.innerJoin('pasteJar', 'pasteJar.id', 'e.jarId')
		.innerJoin('paste', 'paste.id', 'pasteJar.pasteId')
		.select(['e.id', 'e.kind', 'e.at', 'e.grams', 'e.jarId', 'pasteJar.lot', 'pasteJar.inherits', 'paste.partNumber', 'paste.name'])
		.where('e.lineId', '=', lineId)
		.where('e.kind', 'in', ['load_stencil', 'scrape_off'])
		.where('e.at', '>=', new Date(nowMs - 48 * 3_600_000))
		.where('e.at', '<=', new Date(nowMs))
		.where(({ not, exists, selectFrom }) =>
			not(exists(selectFrom('pasteJarEvent as m').select('m.id').whereRef('m.ofEvent', '=', 'e.id').where('m.kind', '=', 'mis_scan')))
		)
		.orderBy('e.at')
		.execute();
	// A bead begins with the first load after the last one was taken off.
	const from = loads.findLastIndex((l) => l.kind === 'scrape_off') + 1;
	const own = loads.slice(from).filter((l) => l.kind === 'load_stencil');
	const prints = own.length
		? await trx
				.selectFrom('print')
				.innerJoin('panelPass', 'panelPass.id', 'print.passId')
				.innerJoin('run', 'run.id', 'panelPass.runId')
				.select('print.printedAt')
				.where('run.lineId', '=', lineId)
				.where('print.printedAt', '>=', own[0]!.at)
				.where('print.printedAt', '<=', new Date(nowMs))
				.orderBy('print.printedAt')
				.execute()
		: [];
	const lastPrint = await trx
		.selectFrom('print')
		.innerJoin('panelPass', 'panelPass.id', 'print.passId')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.select('print.printedAt')
		.where('run.lineId', '=', lineId)
		.where('print.printedAt', '<=', new Date(nowMs))
		.orderBy('print.printedAt', 'desc')
		.limit(1)
		.executeTakeFirst();
	const taken = run && (await pasteOfPanel(run.stencilId, run.pasteId, run.measuredUm, trx));
	const gPerPanel = taken ? pasteGPerPanel(taken.deliveredMm3, taken.pasteGPerCm3, run.recipe?.wipes ?? []) : 0.5;
	const portions: BeadPortion[] = beadOf(
		[
			...own.map((l) => ({
				kind: 'load' as const,
				atMs: l.at.getTime(),
				jar: l.jarId,
				lot: l.lot,
				grams: l.grams ?? 0,
				ageH: l.inherits?.stencilH ?? 0
			})),
			...prints.map((p) => ({ kind: 'print' as const, atMs: p.printedAt.getTime(), grams: gPerPanel }))
		],
		nowMs
	);
	const last = own.at(-1);
	return {
		runId: run?.id ?? null,
		stencilToolId: run?.stencilToolId ?? null,
		wanted: run ? (run.partNumber ?? run.name) : null,
		wantedName: run?.name ?? null,
		/** How its flux is washed off, where it has to be. */
		wash: run?.wash ?? null,
		pasteId: run?.pasteId ?? null,
		rules: { ...PASTE_RULES, ...run?.rules },
		portions,
		beadPaste: last ? (last.partNumber ?? last.name) : '',
		gPerPanel,
		/** Bead that a run starts with, mm. */
		beadMm: run?.recipe?.beadMm ?? BEAD_MM.start,
		/** Panel along the blade, and so the bead's length, mm. */
		acrossMm: taken?.acrossMm ?? null,
		lastLoadMs: last?.at.getTime() ?? null,
		lastPrintMs: lastPrint?.printedAt.getTime() ?? null
	};
}

export interface PasteOfPanel {
	/** What its openings deliver, mm³. */
	deliveredMm3: number;
	pasteGPerCm3: number;
	/** Its size along the blade, mm. */
	acrossMm: number;
}

/** A design's openings never change once it was run: what a print takes is computed once for all that it depends on. */
const perPanel = new Map<string, PasteOfPanel>();

/** Paste that one panel takes: what the openings of a stencil's design deliver with a paste.
 * @param foilUm as it was measured; null: as the design says
 */
export async function pasteOfPanel(
	stencilId: number,
	pasteId: number,
	foilUm: number | null = null,
	trx: Db | Trx = db
): Promise<PasteOfPanel> {
	const design = await trx
		.selectFrom('stencil')
		.select(['boardSideId', 'foilUm', 'wall', 'taperUm'])
		.where('id', '=', stencilId)
		.executeTakeFirstOrThrow();
	const paste = await trx
		.selectFrom('paste')
		.select(['metalMassShare', 'metalGPerCm3'])
		.where('id', '=', pasteId)
		.executeTakeFirstOrThrow();
	const [model, factors] = [await currentModel(trx), await currentFactors(pasteId, trx)];
	const make = { taperUm: design.taperUm, factors: factors[design.wall] ?? [] };
	const key = JSON.stringify([stencilId, paste, foilUm, model, make]);
	const known = perPanel.get(key);
	if (known) return known;
	const side = (await boardSide(design.boardSideId))!;
	const { origins, widthMm } = panelGeometry(side, side.panel, side.side);
	const ofCircuit = deliveredMm3(asMade(side.apertures, make), (foilUm ?? design.foilUm) / 1000, design.wall, model);
	const { pasteGPerCm3 } = pasteDensity(paste.metalMassShare, paste.metalGPerCm3);
	const taken = { deliveredMm3: ofCircuit * origins.length, pasteGPerCm3, acrossMm: widthMm };
	perPanel.set(key, taken);
	return taken;
}

export type LinePaste = Awaited<ReturnType<typeof lineOf>>;

/** How the bead of a line stands. */
export function beadNow(line: LinePaste, nowMs: number) {
	const age = beadAge(line.portions, nowMs, line.rules.stencilLifeH);
	const gapMin = line.lastPrintMs === null ? null : (nowMs - line.lastPrintMs) / 60_000;
	return { ...age, gapMin, afterPause: gapMin === null ? null : afterPause(gapMin) };
}
