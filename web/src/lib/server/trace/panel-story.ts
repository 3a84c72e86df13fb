import { db } from '../db/index.ts';
import { KINDS } from '$lib/stations/index.ts';
import { moduleOf } from '../stations/index.ts';
import type { StoryPart } from '../stations/story.ts';

/** All that is known of a panel: each pass through a line with its run and every revision, and what each station has to say of it. A two-sided panel has two
 * passes.
 */
export async function panelStory(serial: string) {
	const panel = await db
		.selectFrom('panel')
		.innerJoin('job', 'job.id', 'panel.jobId')
		.innerJoin('boardRevision', 'boardRevision.id', 'job.boardRevisionId')
		.select(['panel.id', 'panel.serial', 'job.number as job', 'boardRevision.name as board', 'boardRevision.revision as boardRevision'])
		.where('panel.serial', '=', serial)
		.executeTakeFirst();
	if (!panel) return null;
	const passes = await db
		.selectFrom('panelPass')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.innerJoin('line', 'line.id', 'run.lineId')
		.innerJoin('boardSide', 'boardSide.id', 'run.boardSideId')
		.innerJoin('stencil', 'stencil.id', 'run.stencilId')
		.innerJoin('placementProgram', 'placementProgram.id', 'run.placementProgramId')
		.innerJoin('ovenRecipe', 'ovenRecipe.id', 'run.ovenRecipeId')
		.leftJoin('station', 'station.id', 'panelPass.stationId')
		.leftJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
		.leftJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
		.select([
			'panelPass.id',
			'panelPass.printedAt',
			'panelPass.finishedAt',
			'station.name as stationName',
			'run.id as runId',
			'run.boardSideId',
			'line.id as lineId',
			'line.name as line',
			'stencilTool.code as stencilCode',
			'printRecipe.revision as printRecipeRevision',
			'boardSide.side',
			'boardSide.panel',
			'stencil.revision as stencilRevision',
			'stencil.foilUm',
			'placementProgram.revision as programRevision',
			'ovenRecipe.revision as recipeRevision',
			'ovenRecipe.recipe'
		])
		.where('panelPass.panelId', '=', panel.id)
		.orderBy('panelPass.printedAt')
		.execute();
	return { panel, passes: await Promise.all(passes.map(async (pass) => ({ ...pass, ...(await passStory(pass)) }))) };
}

/** What every kind of station says of a pass, in the order in which it happened. */
async function passStory(pass: { id: number; runId: number; lineId: number }) {
	const parts: StoryPart[] = await Promise.all(KINDS.map(({ role }) => moduleOf(role).story?.(pass) ?? { lines: [] }));
	const inspected = parts.flatMap((part) => part.inspected ?? []);
	return {
		lines: parts.flatMap((part) => part.lines).sort((a, b) => a.at.getTime() - b.at.getTime()),
		pads: parts.flatMap((part) => part.pads ?? []),
		paste: parts.find((part) => part.paste !== undefined)?.paste ?? null,
		pasteFails: parts.reduce((sum, part) => sum + (part.pastePads ?? 0), 0),
		bead: parts.flatMap((part) => part.bead ?? []),
		parts: parts.flatMap((part) => part.parts ?? []),
		used: parts.flatMap((part) => part.used ?? []),
		warnings: parts.flatMap((part) => part.warnings ?? []),
		inspected: inspected.some((i) => i.circuits > 0),
		failedCircuits: inspected.reduce((sum, i) => sum + i.failed, 0)
	};
}
