import { hoursOfShift, type HourOfShift } from '@keen-relay/core/line';
import { shiftAt, type Shift } from '@keen-relay/core/schedule';
import { db } from '../db/index.ts';
import { plantNow } from '../plant/clock.ts';
import { plantInfo } from '../plant/settings.ts';
import type { LineNow } from './state.ts';

/** The hours of the shift that runs now, on one line; null between shifts. */
export async function hoursNow(line: LineNow): Promise<{ shift: Shift; hours: HourOfShift[] } | null> {
	const [nowMs, plant] = await Promise.all([plantNow(), plantInfo()]);
	const shift = shiftAt(nowMs, plant.shifts, plant.timeZone);
	if (!shift) return null;
	const [from, to] = [new Date(shift.startMs), new Date(shift.endMs)];
	const [finished, runs] = await Promise.all([
		db
			.selectFrom('panelPass')
			.innerJoin('run', 'run.id', 'panelPass.runId')
			.select('panelPass.finishedAt')
			.where('run.lineId', '=', line.id)
			.where('panelPass.finishedAt', '>=', from)
			.where('panelPass.finishedAt', '<', to)
			.execute(),
		db
			.selectFrom('run')
			.innerJoin('placementProgram', 'placementProgram.id', 'run.placementProgramId')
			.select(['run.id', 'run.startedAt', 'run.endedAt', 'placementProgram.plan'])
			.where('run.lineId', '=', line.id)
			.where('run.startedAt', '<', to)
			.where((eb) => eb.or([eb('run.endedAt', 'is', null), eb('run.endedAt', '>', from)]))
			.execute()
	]);
	const hours = hoursOfShift(
		shift,
		nowMs,
		finished.map((row) => row.finishedAt!.getTime()),
		runs.map((run) => ({
			fromMs: run.startedAt.getTime(),
			toMs: run.endedAt?.getTime() ?? null,
			taktS: run.id === line.run?.id && line.pace.taktS ? line.pace.taktS : Math.max(...run.plan.machines.map((m) => m.totalS))
		}))
	);
	return { shift, hours };
}
