import { judgeOwnPace, type Part } from '@keen-relay/core/line';
import { FIRST_PRINTS, judgePrintedAgain, judgeLeftStencil } from '@keen-relay/core/printing';
import { db } from '../../db/index.ts';
import { judgeRejects } from '@keen-relay/core/trace';
import { boardSide } from '../../queries/sides.ts';
import { printedAgain } from '../../queries/runs.ts';
import { noRun, type CurrentRun, type LineContext, type StationRow, type StationSummary } from '../summary.ts';
import { bladesOf } from './blades.ts';
import { firstPrintsOf } from './print-run.ts';
import { readinessOf } from './ready.ts';
import { rejectedPanels } from './rejects.ts';
import { stencilTools } from './stencil-tools.ts';

/** The printer stands by its first prints, its stencil, its blades and its cycle. */
export async function printSummary(station: StationRow, { lineId, nowMs, run, pace, cycles }: LineContext): Promise<StationSummary> {
	if (!run) {
		const [idle, left] = [noRun(), await leftStencil(lineId)];
		return { ...idle, parts: [...idle.parts, ...(left ? [left] : [])] };
	}
	const [ready, rejects, held, blades, tool, again] = await Promise.all([
		readinessOf(run, lineId, nowMs),
		rejectsOf(lineId),
		run.held ? firstPrints(run) : run.heldForBoard ? firstBoard(run) : null,
		bladesOf(lineId),
		toolOf(run.id),
		printedAgain(run.id)
	]);
	const twice = judgePrintedAgain(again.map(({ serial }) => serial));
	const { cyclesS = [], plannedS = null } = cycles.get(station.name) ?? {};
	return {
		parts: [
			...(ready.verdict.level === 'good' ? [] : [{ verdict: ready.verdict, where: '/runs/ready', right: 'run.start' as const }]),
			...(held ? [held] : []),
			...(tool ? [tool] : []),
			...(twice ? [{ verdict: twice, where: '', right: 'misprint.record' as const }] : []),
			...(rejects ? [{ verdict: rejects, where: '', right: 'misprint.record' as const }] : []),
			{ verdict: judgeOwnPace(station.name, cyclesS, plannedS, pace), where: '', right: null },
			...blades.map(({ code, verdict }): Part => ({
				verdict: { ...verdict, statement: `Blade ${code}: ${verdict.statement}` },
				where: '',
				right: 'blade.fit'
			}))
		],
		dues: [],
		figure: run.settingUp
			? `${ready.items.length - ready.missing.length} of ${ready.items.length}`
			: held
				? String(run.printed)
				: cyclesS.length
					? `${(cyclesS.reduce((a, b) => a + b, 0) / cyclesS.length).toFixed(1)} s`
					: '–',
		words: run.settingUp ? 'points ready' : held ? (run.held ? 'first prints' : 'printed, held') : 'a print'
	};
}

const rejectsOf = async (lineId: number) => judgeRejects((await rejectedPanels(lineId)).filter((panel) => panel.wash === null));

/** The stencil that stands in a printer without a run. */
async function leftStencil(lineId: number): Promise<Part | null> {
	const tool = (await stencilTools()).find((t) => t.mountedOn === lineId);
	if (!tool) return null;
	const run = await db
		.selectFrom('run')
		.select(({ selectFrom }) => [
			selectFrom('print')
				.innerJoin('panelPass', 'panelPass.id', 'print.passId')
				.select(({ fn }) => fn.max('print.printedAt').as('at'))
				.whereRef('panelPass.runId', '=', 'run.id')
				.as('printedAt')
		])
		.where('stencilToolId', '=', tool.id)
		.where('lineId', '=', lineId)
		.orderBy('startedAt', 'desc')
		.executeTakeFirst();
	const verdict = judgeLeftStencil(tool.code, run?.printedAt?.getTime() ?? null, tool.cleanedAt?.getTime() ?? null);
	return verdict ? { verdict, where: '/stencil/library', right: 'stencilTool.mount' } : null;
}

/** The printer waits until somebody has released the first prints: that, or what is wrong with them. */
async function firstPrints(run: CurrentRun): Promise<Part> {
	const side = await boardSide(run.boardSideId);
	const { verdict } = await firstPrintsOf(run.id, side!, run.firstPrintsMore);
	const release = 'Release the first prints';
	return {
		verdict:
			verdict.level === 'good'
				? {
						...verdict,
						level: 'act',
						statement: `The printer waits: the first ${FIRST_PRINTS} prints are in order and not released.`,
						doNext: [release]
					}
				: {
						...verdict,
						level: 'act',
						statement: `The printer waits for its first prints. ${verdict.statement}`,
						doNext: [...verdict.doNext, release]
					},
		where: '/set-up',
		right: 'firstPrint.release'
	};
}

function firstBoard(run: CurrentRun): Part {
	return {
		verdict: {
			level: 'act',
			statement: `The printer waits for the release of the first board: ${run.firstBoardWhy.join('; ')}.`,
			because: [],
			doNext: ['Look at the first board']
		},
		where: '/runs/first',
		right: 'firstBoard.check'
	};
}

/** The stencil that a run prints with, where it may not print; null where it may, or where none was scanned. */
async function toolOf(runId: number): Promise<Part | null> {
	const tool = await db
		.selectFrom('run')
		.innerJoin('stencilTool', 'stencilTool.id', 'run.stencilToolId')
		.select(['stencilTool.code', 'stencilTool.state', 'stencilTool.damage'])
		.where('run.id', '=', runId)
		.executeTakeFirst();
	if (!tool || tool.state === 'usable') return null;
	return {
		verdict: {
			level: 'act',
			statement: `Stencil ${tool.code} is in the printer and ${tool.state}${tool.damage ? `: ${tool.damage}` : ''}.`,
			because: [],
			doNext: ['Take another stencil, or have this one released']
		},
		where: '/stencil',
		right: 'stencilTool.mount'
	};
}
