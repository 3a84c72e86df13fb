import { judgeDocked, piecesLeft } from '@keen-relay/core/feeders';
import { judgeOwnPace } from '@keen-relay/core/line';
import { judgePicks } from '@keen-relay/core/placement';
import { spliceDues } from '@keen-relay/core/schedule';
import { picksOf, reels } from '../../queries/results.ts';
import { needsOf, runHours, slotStates } from './feeder-scans.ts';
import { noRun, type LineContext, type StationRow, type StationSummary } from '../summary.ts';

/** A placer stands by its picks, its cycle against its plan, and its reels. */
export async function placeSummary(station: StationRow, { run, nowMs, pace, cycles, toGo }: LineContext): Promise<StationSummary> {
	if (!run) return noRun();
	const plan = run.plan.machines.find((m) => m.machine === station.name);
	const [seen, loaded, slots] = await Promise.all([
		picksOf(station.id, run.id),
		reels(run.id, station.id),
		slotStates(station, needsOf(run.plan, station.name), nowMs, runHours(run))
	]);
	const docked = judgeDocked(slots.flatMap(({ slot, check }) => (check ? [{ slot, check }] : [])));
	const perPanel = new Map(plan?.loadList.map((load) => [load.slot, load.perPanel]));
	const { cyclesS = [], plannedS = null } = cycles.get(station.name) ?? {};
	return {
		parts: [
			{ verdict: judgeOwnPace(station.name, cyclesS, plannedS, pace), where: '', right: null },
			{ verdict: judgePicks(seen, plan?.placements ?? 0), where: '', right: null },
			...(docked ? [{ verdict: docked, where: '', right: 'feeder.load' as const }] : [])
		],
		dues: spliceDues(nowMs, {
			taktS: pace.taktS ?? 60,
			panelsToGo: toGo,
			reels: loaded.flatMap((reel) => {
				const each = perPanel.get(reel.slot);
				return each
					? [{ station: station.name, slot: reel.slot, partNumber: reel.partNumber, pieces: piecesLeft(reel, each), perPanel: each }]
					: [];
			})
		}),
		figure: cyclesS.length ? `${(cyclesS.reduce((a, b) => a + b, 0) / cyclesS.length).toFixed(1)} s` : '–',
		words: 'a panel'
	};
}
