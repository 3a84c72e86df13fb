import { db } from '../db/index.ts';
import { tellMoved } from '@keen-relay/core/trace';
import { localParts } from '@keen-relay/core/units';
import { kindOf, KINDS } from '$lib/stations/index.ts';
import { plantInfo } from '../plant/settings.ts';
import { moduleOf } from '../stations/index.ts';
import type { StoryLine, StoryPart } from '../stations/story.ts';

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
			'run.firstBoard',
			'run.firstBoardAt',
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
	const [moved, held] = await Promise.all([movedReports(passes), holdLines(passes.map((pass) => pass.id))]);
	return {
		panel,
		passes: await Promise.all(
			passes.map(async (pass) => {
				const story = await passStory(pass, [...(moved.get(pass.id) ?? []), ...(held.get(pass.id) ?? [])]);
				return { ...pass, ...story, warnings: [...story.warnings, ...beforeItsFirstBoard(pass)] };
			})
		)
	};
}

/** A panel that was built while the first board of its run was not released is marked so, also where the line goes on meanwhile. */
function beforeItsFirstBoard(pass: {
	printedAt: Date;
	firstBoard: string | null;
	firstBoardAt: Date | null;
}): StoryPart['warnings'] & object {
	if (pass.firstBoard === null || (pass.firstBoardAt && pass.firstBoardAt <= pass.printedAt)) return [];
	return [{ level: 'watch', text: 'Printed before the first board of its run was released.' }];
}

/** What every kind of station says of a pass, in the order in which it happened. */
async function passStory(pass: { id: number; runId: number; lineId: number }, moved: readonly StoryLine[]) {
	const parts: StoryPart[] = await Promise.all(KINDS.map(({ role }) => moduleOf(role).story?.(pass) ?? { lines: [] }));
	const inspected = parts.flatMap((part) => part.inspected ?? []);
	return {
		lines: [...parts.flatMap((part) => part.lines), ...moved].sort((a, b) => a.at.getTime() - b.at.getTime()),
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

/** What is to be told of reports that moved between passes, by pass. */
async function movedReports(passes: readonly { id: number; printedAt: Date }[]): Promise<Map<number, StoryLine[]>> {
	const told = new Map<number, StoryLine[]>();
	if (passes.length < 2) return told;
	const rows = await db
		.selectFrom('movedReport')
		.selectAll()
		.where(
			'toPassId',
			'in',
			passes.map((pass) => pass.id)
		)
		.orderBy('id')
		.execute();
	const { timeZone } = await plantInfo();
	const time = (at: Date) => localParts(at.getTime(), timeZone).time;
	const printed = new Map(passes.map((pass) => [pass.id, time(pass.printedAt)]));
	const tell = (passId: number, line: StoryLine) => told.set(passId, [...(told.get(passId) ?? []), line]);
	for (const { fromPassId, toPassId, role, at, movedAt, shown, judged } of rows) {
		const times = { at: time(at), movedAt: time(movedAt), shownOn: printed.get(fromPassId) ?? '', isOf: printed.get(toPassId)! };
		const { here, there } = tellMoved({ report: kindOf(role).name, ...times, shown, judged });
		tell(toPassId, { at: movedAt, ...here, notes: [] });
		tell(fromPassId, { at: movedAt, ...there, level: null, notes: [] });
	}
	return told;
}

/** Holds of a panel and how each ended, by pass. */
async function holdLines(passIds: readonly number[]): Promise<Map<number, StoryLine[]>> {
	const told = new Map<number, StoryLine[]>();
	if (passIds.length === 0) return told;
	const rows = await db
		.selectFrom('hold')
		.leftJoin('user', 'user.id', 'hold.liftedBy')
		.selectAll('hold')
		.select('user.name')
		.where('passId', 'in', passIds)
		.orderBy('hold.id')
		.execute();
	for (const { passId, since, why, obeys, liftedAt, liftedHow, liftNote, name } of rows) {
		const stations = obeys.map((role) => kindOf(role).name).join(', ');
		const lines: StoryLine[] = [
			{ at: since, what: 'held', level: liftedAt ? null : 'stopped', text: `${why} Held before: ${stations}.`, notes: [] },
			...(liftedAt
				? [
						{
							at: liftedAt,
							what: 'hold lifted',
							level: null,
							text:
								liftedHow === 'leave' ? `Leave of ${name}: ${liftNote}` : `${liftedHow!.charAt(0).toUpperCase()}${liftedHow!.slice(1)}.`,
							notes: []
						}
					]
				: [])
		];
		told.set(passId!, [...(told.get(passId!) ?? []), ...lines]);
	}
	return told;
}
