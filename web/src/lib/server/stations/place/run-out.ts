import { magazineEnds, piecesLeft, ROUND_RULES, slotEnds, spliceRound, type FedSlot } from '@keen-relay/core/feeders';
import type { LinePlan } from '@keen-relay/core/balance';
import { breaksOf, neighbourShift, shiftAt } from '@keen-relay/core/schedule';
import { machineData } from '$lib/stations/index.ts';
import { ruleNow } from '../../plant/rules.ts';
import { plantInfo } from '../../plant/settings.ts';
import type { LoadedReel } from '../../queries/results.ts';
import { magazinesOf } from '../../queries/magazines.ts';
import { stationsOf } from '../../queries/stations.ts';

/** Between two machines of a line somebody walks so far, m (a usual one). */
const GAP_M = 1;

interface RunningRun {
	plan: LinePlan;
	panels: number;
	finished: number | null;
	printed: number;
}

/** When the slots of a line's placers run out, and the round of splices ahead. */
export async function runOutOf(lineId: number, run: RunningRun, loaded: readonly LoadedReel[], nowMs: number, taktS: number) {
	const [stations, plant, rule, magazines] = await Promise.all([stationsOf(lineId), plantInfo(), ruleNow('splices'), magazinesOf(lineId)]);
	let fromM = 0;
	const banks = stations.flatMap((station) => {
		const placer = machineData(station, 'place')?.placer;
		if (!placer) return [];
		const bank = { id: station.id, name: station.name, fromM, pitchM: placer.slotPitchMm / 1000 };
		fromM += placer.slots * bank.pitchM + GAP_M;
		return [bank];
	});
	const slots = loaded.flatMap((reel): FedSlot[] => {
		const bank = banks.find((b) => b.id === reel.stationId);
		const load = run.plan.machines.find((m) => m.machine === reel.station)?.loadList.find((l) => l.slot === reel.slot);
		if (!bank || !load) return [];
		return [
			{
				machine: reel.station,
				slot: reel.slot,
				partNumber: reel.partNumber,
				pieces: piecesLeft(reel, load.perPanel),
				perPanel: load.perPanel,
				picks: reel.panels * load.perPanel + reel.lost,
				lost: reel.lost,
				xM: bank.fromM + (reel.slot + (load.slots - 1) / 2) * bank.pitchM
			}
		];
	});
	const shift = rule.lineStands ? shiftAt(nowMs, plant.shifts, plant.timeZone) : null;
	const next = shift && neighbourShift(shift, plant.shifts, plant.timeZone, 1);
	const breaks = [shift, next].flatMap((s) => (s ? breaksOf(s, plant.shifts, plant.timeZone) : []));
	const clock = { nowMs, taktS, panelsToGo: Math.max(0, run.panels - (run.finished ?? 0)), breaks };
	const ends = slotEnds(slots, clock);
	const rules = { aheadH: ROUND_RULES.aheadH, spliceS: rule.spliceS, tailS: 60 * rule.tailMin, walkMPerS: rule.walkMPerS };
	const standing = magazineEnds(magazines, {
		nowMs,
		taktS,
		toLoad: Math.max(0, run.panels - run.printed),
		toUnload: clock.panelsToGo,
		breaks
	});
	return {
		ends,
		rule,
		magazines,
		standing,
		round: spliceRound(ends, clock, rules),
		lengthM: Math.max(GAP_M, fromM - GAP_M),
		banks,
		breaks
	};
}
