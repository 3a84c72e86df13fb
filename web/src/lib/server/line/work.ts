import type { LinePlan } from '@keen-relay/core/balance';
import { jarForTopUp } from '@keen-relay/core/paste';
import { settingOf, stepsBeforePrint } from '@keen-relay/core/printing';
import { panelGeometry } from '@keen-relay/core/artwork';
import { piecesLeft } from '@keen-relay/core/feeders';
import { boardSide } from '../queries/sides.ts';
import { db } from '../db/index.ts';
import { reels } from '../queries/results.ts';
import { plantNow } from '../plant/clock.ts';
import { readinessOf } from '../stations/print/ready.ts';
import { jarsNow } from '../queries/jars.ts';
import { lineOf } from '../queries/bead.ts';
import { machineData } from '$lib/stations/index.ts';
import { nozzlesNow } from '../queries/nozzles.ts';
import { stationsOf } from '../queries/stations.ts';
import { trimsOf } from '../queries/trims.ts';
import { openHolds } from '../queries/holds.ts';
import { currentRun, drainingRun, nextSerial, waitingPanels } from '../queries/runs.ts';

/** Everything that the machines of a line need to build the run that is on, as plain data; null where the line is idle and empty.
 * A run that was ended while panels stood on the line is given once more, so that a machine that starts again takes them on.
 */
export async function workOf(lineId: number) {
	const run = (await currentRun(lineId)) ?? (await drainingRun(lineId));
	if (!run) return null;
	const side = await boardSide(run.boardSideId);
	if (!side) return null;
	const panel = panelGeometry(side, side.panel, side.side);
	const [feeders, onLine, waiting, serial, held, reprint] = await Promise.all([
		feedersOf(run),
		panelsOnLine(run.id),
		run.secondPass ? waitingPanels(run.jobId, run.boardSideId) : [],
		nextSerial(run.jobId, run.number),
		heldPanels(lineId),
		washedPanels(run.id)
	]);
	const ready = run.endedAt === null ? await readinessOf(run, lineId, await plantNow()) : null;
	return {
		runId: run.id,
		job: run.number,
		side: run.side,
		panels: run.panels,
		printed: run.printed,
		ended: run.endedAt !== null,
		/** How many panels the printer may print now: none before the set-up is proven, the first prints until they are released; null: all of them. */
		mayPrint: ready && ready.started && ready.missing.length ? Math.min(run.printed, run.mayPrint ?? run.printed) : run.mayPrint,
		/** Serials for a second pass, in order; null where the printer opens new panels. */
		serials: run.secondPass ? waiting.map((w) => w.serial) : null,
		/** Number of the next panel that the printer opens: a job that was ended goes on where it was. */
		nextSerial: serial,
		/** Panels that are held, with the kinds of station that do not work on them. */
		held,
		/** Panels that were taken off, washed and dried: they are printed again first, with this attempt. */
		reprint,
		/** Panels between the machines, with the station that reported them last: a line that starts again puts them back there. */
		onLine,
		foilUm: run.foilUm,
		circuits: panel.origins.length,
		panel: { widthMm: panel.widthMm, heightMm: panel.heightMm, origins: panel.origins, fiducials: panel.fiducials },
		/** How the printer is set: by the trial that is going on, else by the run's print recipe; null where neither says. */
		setting: await printerSetting(run.id, panel.widthMm),
		// The jar that the next top-up comes from (open, first expired first out; null where none is known), and what lies on the stencil, g.
		...(await pasteFor(lineId)),
		/** Causes that somebody has acted on in this run: what a simulated machine is mended of. */
		cured: await curedIn(run.id),
		/** Openings of one circuit in their stable order; readings come circuit by circuit. */
		pads: side.apertures.map((a) => ({
			xMm: a.centre.x,
			yMm: a.centre.y,
			areaMm2: a.areaMm2,
			perimeterMm: a.perimeterMm,
			widthMm: a.widthMm,
			padClass: a.padClass,
			refDes: a.refDes
		})),
		parts: side.parts
			.filter((part) => part.fitted)
			.map(({ refDes, packageName, partNumber, rotationDeg }) => ({ refDes, packageName, partNumber, rotationDeg })),
		machines: await withNozzles(lineId, run.boardSideId, feeders),
		recipe: run.recipe
	};
}

async function withNozzles<T extends { name: string }>(lineId: number, boardSideId: number, machines: readonly T[]) {
	const [stations, nozzles, nowMs] = await Promise.all([stationsOf(lineId), nozzlesNow(), plantNow()]);
	const trims = await Promise.all(
		machines.map(({ name }) => {
			const station = stations.find((s) => s.name === name);
			return station ? trimsOf(station.id, boardSideId, nowMs) : [];
		})
	);
	return machines.map((machine, m) => {
		const station = stations.find((s) => s.name === machine.name);
		return {
			...machine,
			spindles: (station && machineData(station, 'place')?.placer.spindles) ?? 1,
			/** When its nozzles were last cleaned. */
			cleanedMs: Object.fromEntries(
				nozzles.flatMap(({ stationId, name, caredAt }) => (stationId === station?.id && caredAt ? [[name, caredAt.getTime()]] : []))
			),
			/** What the machine adds to where its program places. */
			trims: trims[m]!.flatMap(({ level, name, dxUm, dyUm, inUse }) => (inUse ? [{ level, name, dxUm, dyUm }] : []))
		};
	});
}

/** What the load lists of a run ask for, machine by machine, with what each slot holds now. */
export async function feedersOf(run: { id: number; plan: LinePlan }) {
	const loaded = new Map((await reels(run.id)).map((reel) => [`${reel.station}/${reel.slot}`, reel]));
	return run.plan.machines.map((machine) => ({
		name: machine.machine,
		cycleS: machine.totalS,
		/** What each spindle places, in the order in which the head goes: designator, circuit, spindle; null where the way was not kept. */
		placements:
			machine.head?.cycles.flatMap(({ held, order }) => order.map((spindle) => [...held[spindle]!, spindle] as [string, number, number])) ??
			null,
		feeders: machine.loadList.map(({ slot, partNumber, perPanel, supply, refDes }) => {
			const reel = loaded.get(`${machine.machine}/${slot}`);
			return {
				slot,
				partNumber,
				perPanel,
				refDes,
				reelPieces: supply.pieces,
				tapeMm: supply.widthMm,
				pitchMm: supply.pitchMm,
				/** Pieces that the slot's reel still holds, and the reel; null where none was loaded in this run. */
				left: reel ? piecesLeft(reel, perPanel) : null,
				reel: reel?.reel ?? null
			};
		})
	}));
}

async function heldPanels(lineId: number) {
	const holds = await openHolds({ lineId });
	return holds.flatMap(({ kind, subject, obeys }) => (kind === 'panel' ? [{ panel: subject, stations: obeys }] : []));
}

/** Panels of a run that were washed and dried since their last print. */
async function washedPanels(runId: number) {
	const rows = await db
		.selectFrom('misprint')
		.innerJoin('panelPass', 'panelPass.id', 'misprint.passId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.select(({ selectFrom }) => [
			'panel.serial',
			'misprint.at',
			'misprint.steps',
			selectFrom('misprintStep')
				.select(({ fn }) => fn.countAll<number>().as('n'))
				.whereRef('misprintStep.misprintId', '=', 'misprint.id')
				.as('done'),
			selectFrom('print')
				.select(({ fn }) => fn.max('print.printAttempt').as('n'))
				.whereRef('print.passId', '=', 'panelPass.id')
				.as('attempts'),
			selectFrom('print')
				.select(({ fn }) => fn.max('print.printedAt').as('at'))
				.whereRef('print.passId', '=', 'panelPass.id')
				.as('printedAt')
		])
		.where('panelPass.runId', '=', runId)
		.where('panelPass.finishedAt', 'is', null)
		.where('misprint.decision', '=', 'wash_and_reprint')
		.execute();
	return rows
		.filter((r) => (r.done ?? 0) >= stepsBeforePrint(r.steps) && (r.printedAt === null || r.printedAt < r.at))
		.map((r) => ({ panel: r.serial, printAttempt: (r.attempts ?? 0) + 1 }));
}

async function printerSetting(runId: number, acrossMm: number) {
	const [trial, of] = await Promise.all([
		db.selectFrom('printTrial').select(['settings', 'steps']).where('runId', '=', runId).where('endedAt', 'is', null).executeTakeFirst(),
		db
			.selectFrom('run')
			.innerJoin('printRecipe', 'printRecipe.id', 'run.printRecipeId')
			.select('printRecipe.recipe')
			.where('run.id', '=', runId)
			.executeTakeFirst()
	]);
	const step = trial?.steps.at(-1);
	return settingOf(of?.recipe ?? null, (trial && step && trial.settings[step.setting]?.value) ?? null, acrossMm);
}

async function curedIn(runId: number): Promise<string[]> {
	const rows = await db.selectFrom('signatureCase').select('code').where('runId', '=', runId).where('donePrints', 'is not', null).execute();
	return rows.map((row) => row.code);
}

async function pasteFor(lineId: number): Promise<{ jar: string | null; beadG: number }> {
	const nowMs = await plantNow();
	const [line, jars] = await Promise.all([lineOf(lineId, nowMs), jarsNow(nowMs)]);
	return { jar: jarForTopUp(jars, line.portions, line.wanted), beadG: line.portions.reduce((sum, p) => sum + p.grams, 0) };
}

function panelsOnLine(runId: number) {
	return (
		db
			.selectFrom('panelPass')
			.innerJoin('panel', 'panel.id', 'panelPass.panelId')
			.innerJoin('station', 'station.id', 'panelPass.stationId')
			// A panel that waits for its second print is seen once, by its latest.
			.innerJoinLateral(
				(q) =>
					q
						.selectFrom('print')
						.select(['print.stroke', 'print.printsSinceWipe'])
						.whereRef('print.passId', '=', 'panelPass.id')
						.orderBy('print.printAttempt', 'desc')
						.limit(1)
						.as('printed'),
				(join) => join.onTrue()
			)
			.select(({ fn, val, lit }) => [
				'panel.serial',
				'station.name as after',
				fn.coalesce('printed.stroke', val<'F' | 'R'>('F')).as('stroke'),
				fn.coalesce('printed.printsSinceWipe', lit(0)).as('printsSinceWipe')
			])
			.where('panelPass.runId', '=', runId)
			.where('panelPass.finishedAt', 'is', null)
			.orderBy('panelPass.printedAt')
			.execute()
	);
}
