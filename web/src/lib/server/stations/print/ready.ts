import { jarForTopUp } from '@keen-relay/core/paste';
import { judgeReady, missing, readyItems, type Override, type ReadyItem } from '@keen-relay/core/line';
import type { Verdict } from '@keen-relay/core/judgement';
import { db } from '../../db/index.ts';
import { beadNow, lineOf } from '../../queries/bead.ts';
import { jarsNow } from '../../queries/jars.ts';
import { nozzlesOut } from '../../queries/nozzles.ts';
import { slotsOf, type SlotState } from '../../queries/slots.ts';
import type { CurrentRun } from '../summary.ts';
import { bladesOf } from './blades.ts';
import { supportVerdict } from './print-run.ts';
import { refusesOn, stencilTools, type StencilToolNow } from './stencil-tools.ts';

export interface Readiness {
	items: ReadyItem[];
	overrides: (Override & { id: number })[];
	/** What keeps the line from printing now. */
	missing: ReadyItem[];
	/** It prints, or did; its set-up is over. */
	started: boolean;
	verdict: Verdict;
}

/** How the set-up of a run stands: every point with its mark, what was overridden, and what is missing. */
export async function readinessOf(run: CurrentRun, lineId: number, nowMs: number): Promise<Readiness> {
	const [about, line, jars, blades, overrides, { slots }, out] = await Promise.all([
		db
			.selectFrom('run')
			.innerJoin('stencil', 'stencil.id', 'run.stencilId')
			.leftJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
			.select([
				'run.stencilToolId',
				'stencil.verdict as foil',
				'stencil.foilUm',
				'printRecipe.id as printRecipeId',
				'printRecipe.revision as printRecipe',
				'printRecipe.support'
			])
			.where('run.id', '=', run.id)
			.executeTakeFirstOrThrow(),
		lineOf(lineId, nowMs),
		jarsNow(nowMs),
		bladesOf(lineId),
		overridesOf(run.id),
		slotsOf(run, lineId, nowMs),
		nozzlesOut(lineId, run.plan)
	]);
	const bead = beadNow(line, nowMs);
	const tool = about.stencilToolId === null ? null : ((await stencilTools(about.stencilToolId))[0] ?? null);
	const inPrinter = tool?.mountedOn === lineId;
	const [against, support] = await Promise.all([
		tool ? refusesOn(tool, run.boardSideId, about.foilUm) : [],
		about.printRecipeId === null ? null : supportVerdict(about.printRecipeId, run.boardSideId, about.support ?? [])
	]);
	const stencil = tool && { code: tool.code, inPrinter, against };
	const blade = (stroke: 'F' | 'R') => blades.find((b) => b.stroke === stroke) ?? null;
	const items = readyItems({
		nowMs,
		stencil,
		fetchStencil: stencil && inPrinter && against.length === 0 ? null : await fittingStencil(run.boardSideId, about.foilUm),
		foil: about.foil,
		printRecipe: about.printRecipe,
		support,
		blades: { F: blade('F'), R: blade('R') },
		bead: line.portions.length
			? { paste: line.beadPaste, jars: [...new Set(line.portions.map((p) => p.jar))], endsMs: bead.oldestEndsMs }
			: null,
		wanted: line.wanted ?? '',
		fetchJar: jarForTopUp(jars, line.portions, line.wanted),
		programRevision: run.programRevision,
		nozzlesOut: out,
		slots: readySlots(run.plan, slots),
		ovenRecipeRevision: run.recipeRevision,
		oven: run.ovenVerdict
	});
	const started = run.readyAt !== null;
	return {
		items,
		overrides,
		missing: missing(items, overrides, nowMs, started),
		started,
		verdict: judgeReady(run.number, items, overrides, nowMs, started)
	};
}

async function overridesOf(runId: number): Promise<Readiness['overrides']> {
	const rows = await db
		.selectFrom('runOverride')
		.innerJoin('user', 'user.id', 'runOverride.personId')
		.select(['runOverride.id', 'codes', 'reason', 'at', 'untilAt', 'user.name as by'])
		.where('runId', '=', runId)
		.orderBy('runOverride.id')
		.execute();
	return rows.map(({ id, codes, reason, by, at, untilAt }) => ({
		id,
		codes,
		reason,
		by,
		atMs: at.getTime(),
		untilMs: untilAt?.getTime() ?? null
	}));
}

/** A stencil of the library that may print this: one that is free, the least used first. */
async function fittingStencil(sideId: number, foilUm: number): Promise<Pick<StencilToolNow, 'code' | 'place'> | null> {
	const tools = (await stencilTools()).filter((t) => t.boardSideId === sideId && t.state === 'usable' && t.mountedOn === null);
	for (const tool of tools.sort((a, b) => a.prints - b.prints))
		if ((await refusesOn(tool, sideId, foilUm)).length === 0) return { code: tool.code, place: tool.place };
	return null;
}

/** Slots that a program needs, as a person finds them: machine and number as on the label. */
function readySlots({ machines }: CurrentRun['plan'], slots: readonly SlotState[]) {
	return slots.flatMap(({ stationId, station, slot, check, reported, needed }) => {
		if (!needed) return [];
		const part = machines.find((m) => m.machine === station)?.loadList.find((load) => load.slot === slot)?.partNumber ?? '';
		return [{ slot, check, reported, part, label: `${station}/${slot}`, where: `/place/${stationId}?slot=${slot}` }];
	});
}
