import {
	abandonSteps,
	BEAD_MM,
	beadDiameterMm,
	beadG,
	beadResidence,
	judgeLeftBead,
	judgePaste,
	pasteFindings,
	panelsToTopUp,
	reflowClock,
	type PasteStation
} from '@keen-relay/core/paste';
import type { Due } from '@keen-relay/core/schedule';
import { db } from '../../db/index.ts';
import type { CurrentRun, LineContext, StationRow, StationSummary } from '../summary.ts';
import { pickFor } from './jars.ts';
import { roomNow } from './sensors.ts';
import { beadNow, lineOf } from '../../queries/bead.ts';
import { jarsNow } from '../../queries/jars.ts';

/** Panels between print and oven with their clocks. */
async function panelsToReflow(lineId: number, nowMs: number, actH: number, stopH: number) {
	const rows = await db
		.selectFrom('panelPass')
		.innerJoin('run', 'run.id', 'panelPass.runId')
		.innerJoin('panel', 'panel.id', 'panelPass.panelId')
		.innerJoin('print', 'print.passId', 'panelPass.id')
		.leftJoin('ovenPass', 'ovenPass.passId', 'panelPass.id')
		.select(({ fn }) => ['panel.serial', fn.max('print.printedAt').as('printedAt')])
		.where('run.lineId', '=', lineId)
		.where('panelPass.finishedAt', 'is', null)
		.where('ovenPass.id', 'is', null)
		.where('panelPass.printedAt', '>', new Date(nowMs - 24 * 3_600_000))
		// What is held because of its paste goes to the wash, not to the oven; with leave its clock counts again.
		.where(({ not, exists, selectFrom }) =>
			not(
				exists(
					selectFrom('hold')
						.select('hold.id')
						.whereRef('hold.passId', '=', 'panelPass.id')
						.where('hold.code', '=', 'paste_reject')
						.where('hold.liftedAt', 'is', null)
				)
			)
		)
		.groupBy('panel.serial')
		.orderBy('printedAt')
		.execute();
	return rows.map(({ serial, printedAt }) => ({
		serial,
		printedMs: printedAt.getTime(),
		...reflowClock(printedAt.getTime(), nowMs, actH, stopH)
	}));
}

/** Everything that the paste of a line is judged by. */
export async function pasteStation(lineId: number, run: CurrentRun | null, taktS: number | null, nowMs: number) {
	const [line, jars, room] = await Promise.all([lineOf(lineId, nowMs), jarsNow(nowMs), roomNow(nowMs, lineId)]);
	const panels = await panelsToReflow(lineId, nowMs, line.rules.reflowActH, line.rules.reflowStopH);
	const bead = beadNow(line, nowMs);
	const toGo = run ? Math.max(0, run.panels - run.printed) : 0;
	const pick = run && toGo > 0 ? pickFor(jars, line, toGo, taktS ?? 60, nowMs) : null;
	const r = line.rules;
	const judged: PasteStation = {
		nowMs,
		wanted: run ? line.wanted : null,
		beadG: line.portions.length ? bead.grams : null,
		lots: bead.lots,
		oldestEndsMs: bead.oldestEndsMs,
		olderShare: bead.olderShare,
		lifeH: r.stencilLifeH,
		afterPause: run && toGo > 0 ? bead.afterPause : null,
		gapMin: bead.gapMin,
		reflow: {
			act: panels.filter((p) => p.level === 'act').map((p) => p.serial),
			stopped: panels.filter((p) => p.level === 'stopped').map((p) => p.serial)
		},
		discard: jars.filter((j) => j.status.discardNow).map((j) => j.facts.id),
		quarantined: jars.filter((j) => j.status.state === 'quarantined').map((j) => j.facts.id),
		room: room && {
			temperatureC: room.temperatureC,
			rhPct: room.rhPct,
			inside:
				room.temperatureC >= r.roomLowC &&
				room.temperatureC <= r.roomHighC &&
				(room.rhPct === null || (room.rhPct >= r.roomLowRhPct && room.rhPct <= r.roomHighRhPct))
		},
		roomLimits: `${r.roomLowC} to ${r.roomHighC} °C, ${r.roomLowRhPct} to ${r.roomHighRhPct} %`,
		shortG: pick?.shortG ?? 0,
		takeOut: pick?.takeOut ?? []
	};
	const verdict = judgePaste(judged);
	const roll =
		line.acrossMm === null
			? null
			: {
					diameterMm: beadDiameterMm(bead.grams, line.acrossMm),
					leastMm: BEAD_MM.least,
					leastG: beadG(BEAD_MM.least, line.acrossMm),
					/** Where this pace of topping up leads to. */
					steady: taktS === null ? null : beadResidence(bead.grams, line.gPerPanel, 3600 / taktS, r.stencilLifeH)
				};
	return { line, jars, room, panels, bead, roll, pick, verdict, toGo, judged };
}

/** The paste stands by what lies on the stencil, the jars, the air, and the clocks of all of them. */
export async function pasteSummary(station: StationRow, { lineId, run, pace, nowMs }: LineContext): Promise<StationSummary> {
	const { taktS } = pace;
	const s = await pasteStation(lineId, run, taktS, nowMs);
	const dues: Due[] = [];
	const add = (atMs: number, action: string, reason: string, where = '') =>
		dues.push({ atMs, station: station.name, action, reason, where, right: 'jar.scan' });
	const jarAt = (id: string) => `?jar=${encodeURIComponent(id)}`;
	const left = s.bead.oldestEndsMs === null ? null : (s.bead.oldestEndsMs - nowMs) / 3_600_000;
	// What lies on the stencil grows old whether a run is on or not.
	if (s.line.portions.length && s.bead.oldestEndsMs !== null && (!run || s.toGo === 0))
		add(s.bead.oldestEndsMs, 'Take the bead off the stencil', `its oldest paste has lain there for ${s.line.rules.stencilLifeH} h`);
	if (run && s.toGo > 0) {
		if (s.bead.oldestEndsMs !== null)
			add(s.bead.oldestEndsMs, 'Take the bead off the stencil', `its oldest paste has lain there for ${s.line.rules.stencilLifeH} h`);
		if (s.line.portions.length && s.roll) {
			const panels = panelsToTopUp(s.bead.grams, s.roll.leastG, s.line.gPerPanel);
			if (panels < s.toGo)
				add(
					nowMs + panels * (taktS ?? 60) * 1000,
					'Top up the paste',
					`${Math.round(s.bead.grams)} g on the stencil, ${s.line.gPerPanel.toFixed(2)} g a panel; a bead of ${Math.round(s.roll.leastG)} g still rolls`
				);
		}
		if (s.line.lastPrintMs !== null && s.bead.gapMin !== null && s.bead.gapMin > 5) {
			const next = abandonSteps(s.line.lastPrintMs).find((step) => step.atMs > nowMs);
			if (next) add(next.atMs, next.doFirst[0]!, 'the printer has stood that long by then');
		}
		const { take = [], takeOut = [], followMs = null } = s.pick ?? {};
		for (const t of takeOut) add(t.byMs, `Take ${t.id} out of the fridge`, `${Math.round(t.grams)} g are needed for this run`, jarAt(t.id));
		if (take[0] && followMs !== null && followMs > nowMs)
			add(followMs, `Change to ${take[0].id}`, 'what lies on the stencil is used up or past its life by then', jarAt(take[0].id));
	}
	for (const p of s.panels.filter((panel) => panel.level !== 'stopped').slice(0, 2))
		add(p.level === 'act' ? p.stopMs : p.actMs, `${p.serial} into the oven`, 'its time from print to reflow ends');
	for (const j of s.jars) {
		if (j.status.state === 'warming' && j.status.readyMs !== null)
			add(j.status.readyMs, `Stir and open ${j.facts.id}`, 'its warm-up ends', jarAt(j.facts.id));
		if ((j.status.state === 'open' || j.status.state === 'on_stencil') && j.status.untilMs !== null && j.status.governing === 'open_life')
			add(j.status.untilMs, `Discard ${j.facts.id}`, 'its open life ends', jarAt(j.facts.id));
	}
	return {
		parts:
			s.judged.wanted === null
				? [s.verdict, judgeLeftBead(s.bead.grams, [...new Set(s.line.portions.map((p) => p.jar))], s.bead.oldestEndsMs, nowMs)].flatMap(
						(verdict) => (verdict ? [{ verdict, where: '', right: 'jar.scan' as const }] : [])
					)
				: pasteFindings(s.judged).map(({ review, jar, ...verdict }) => ({
						verdict,
						where: jar === null ? '' : jarAt(jar),
						right: review ? 'jar.review' : 'jar.scan'
					})),
		dues,
		figure: left === null ? '–' : `${Math.max(0, left).toFixed(1)} h`,
		words: left === null ? 'no jar' : 'left on the stencil'
	};
}
