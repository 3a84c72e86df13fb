import { judgeDocked, judgeMagazines, judgeNozzlesOut, judgeRound, piecesLeft } from '@keen-relay/core/feeders';
import { judgeOwnPace } from '@keen-relay/core/line';
import { SPLICE_LEAD_S, spliceDues } from '@keen-relay/core/schedule';
import type { LoadedReel } from '../../queries/results.ts';
import { nozzlesOut } from '../../queries/nozzles.ts';
import { stationsOf } from '../../queries/stations.ts';
import { offsetsOf } from './offsets.ts';
import { slotsOf, type SlotState } from '../../queries/slots.ts';
import { picksOf, wearingAt } from './picks.ts';
import { runOutOf } from './run-out.ts';
import { noRun, type CurrentRun, type LineContext, type StationRow, type StationSummary } from '../summary.ts';

/** What the placers of a line go by together, read once for all of them: the slots and every reel that is loaded, and the round of splices ahead. */
const shared = new WeakMap<
	LineContext,
	Promise<{ slots: SlotState[]; loaded: LoadedReel[]; ahead: Awaited<ReturnType<typeof runOutOf>> | null }>
>();
function sharedOf(line: LineContext, run: CurrentRun) {
	const known = shared.get(line);
	if (known) return known;
	const read = (async () => {
		const { slots, loaded } = await slotsOf(run, line.lineId, line.nowMs);
		const { taktS } = line.pace;
		return { slots, loaded, ahead: taktS ? await runOutOf(line.lineId, run, loaded, line.nowMs, taktS) : null };
	})();
	shared.set(line, read);
	return read;
}

/** A placer stands by its picks, its cycle against its plan, its reels, and what was scanned into its slots. */
export async function placeSummary(station: StationRow, line: LineContext): Promise<StationSummary> {
	const { run, nowMs, pace, cycles, toGo } = line;
	if (!run) return noRun();
	const plan = run.plan.machines.find((m) => m.machine === station.name);
	const [picks, care, { slots, loaded, ahead }, stations, out] = await Promise.all([
		picksOf(station, run),
		wearingAt(station.id),
		sharedOf(line, run),
		stationsOf(line.lineId),
		nozzlesOut(line.lineId, run.plan)
	]);
	const broken = judgeNozzlesOut(out.filter((n) => n.stationId === station.id));
	const offsets = await offsetsOf(station, stations, run, nowMs);
	// A stop that no order of splices avoids is said where it happens, while somebody can still be called; what is due now stands in next up.
	const late =
		ahead &&
		ahead.round.stops.some(
			(stop) =>
				stop.machine === station.name &&
				stop.spareS <= -ahead.round.stopS &&
				stop.finishMs + stop.spareS * 1000 > nowMs + SPLICE_LEAD_S * 1000
		);
	const round = ahead && late ? judgeRound(ahead.round) : null;
	// Both ends of a line are served from its first placer's page.
	const first = stations.find((s) => s.role === 'place')?.id === station.id;
	const ends = first && ahead ? judgeMagazines(ahead.standing, nowMs) : null;
	const docked = judgeDocked(slots.filter((slot) => slot.stationId === station.id && slot.needed));
	const perPanel = new Map(plan?.loadList.map((load) => [load.slot, load.perPanel]));
	const { cyclesS = [], plannedS = null } = cycles.get(station.name) ?? {};
	return {
		parts: [
			// Of what asks for an act alike, the first speaks: a wrong part before a part that is lost, and that before one that sits off.
			...(docked ? [{ verdict: docked, where: '', right: 'feeder.load' as const }] : []),
			...(broken ? [{ verdict: broken, where: '/picks', right: 'feeder.keep' as const }] : []),
			{ verdict: judgeOwnPace(station.name, cyclesS, plannedS, pace), where: '', right: null },
			...(ends ? [{ verdict: ends, where: '/run-out', right: 'feeder.load' as const }] : []),
			...(round && round.level !== 'good' ? [{ verdict: round, where: '/run-out', right: 'feeder.load' as const }] : []),
			{ verdict: picks.verdict, where: '/picks', right: null },
			...(offsets.report.rows > 0 ? [{ verdict: offsets.verdict, where: '/trims', right: 'trim.accept' as const }] : []),
			...(care.verdict ? [{ verdict: care.verdict, where: '/picks', right: 'feeder.keep' as const }] : [])
		],
		dues: spliceDues(nowMs, {
			taktS: pace.taktS ?? 60,
			panelsToGo: toGo,
			breaks: ahead?.breaks ?? [],
			reels: loaded.flatMap((reel) => {
				const each = reel.stationId === station.id ? perPanel.get(reel.slot) : undefined;
				return each
					? [{ station: station.name, slot: reel.slot, partNumber: reel.partNumber, pieces: piecesLeft(reel, each), perPanel: each }]
					: [];
			})
		}),
		figure: cyclesS.length ? `${(cyclesS.reduce((a, b) => a + b, 0) / cyclesS.length).toFixed(1)} s` : '–',
		words: 'a panel'
	};
}
