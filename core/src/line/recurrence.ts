import { InputError } from '../judgement/index.ts';

/** A machine that works on one panel at a time, and keeps it until there is room after it. */
export interface MachineStage {
	kind: 'machine';
	name: string;
	/** Panel by panel, stops included, s. */
	serviceS: readonly number[];
	/** Panels that may wait between the stage before and this one. */
	placesBefore: number;
}

/** An oven: a belt that never stops. What is inside comes out whether there is room or not. */
export interface BeltStage {
	kind: 'belt';
	name: string;
	/** From one panel's entry to the next, s. */
	headwayS: number;
	/** From entry to exit, s. */
	transitS: number;
	placesBefore: number;
	/** blind: panels go in as they come. safe: a panel goes in only where the buffer after the belt takes it, so that none is trapped inside. */
	gate: 'blind' | 'safe';
}

export type LineStage = MachineStage | BeltStage;

export interface StageTimes {
	name: string;
	/** When each panel was begun; on a belt, its entry. */
	startS: number[];
	/** When each panel left; on a belt, its exit. */
	leftS: number[];
	/** Seconds that a finished panel waited for room; none on a belt. */
	blockedS: number;
	/** Seconds that it waited for a panel, the first one left out. */
	starvedS: number;
	/** Behind a belt: most panels that had come out and were not taken yet; null elsewhere. */
	mostWaiting: number | null;
}

export interface LineTimes {
	stages: StageTimes[];
	firstOutS: number;
	lastOutS: number;
	/** From a panel's begin at the first stage until it leaves the last, on average. */
	meanLeadS: number;
	/** Panels on the line, on average until the last one is out. */
	meanPanels: number;
}

function check(stages: readonly LineStage[]): number {
	const counts = stages.flatMap((s) => (s.kind === 'machine' ? [s.serviceS.length] : []));
	const [panels] = counts;
	if (!panels) throw new InputError('empty', 'stages', 'a machine with a time for each panel', stages.length);
	for (const [i, stage] of stages.entries()) {
		const at = `stages.${i}`;
		if (!(Number.isInteger(stage.placesBefore) && stage.placesBefore >= 0))
			throw new InputError('out-of-range', `${at}.placesBefore`, 'a whole number from 0', stage.placesBefore);
		if (stage.kind === 'machine') {
			if (stage.serviceS.length !== panels)
				throw new InputError('mismatch', `${at}.serviceS`, `${panels} times, as the other machines have`, stage.serviceS.length);
			const wrong = stage.serviceS.find((s) => !(s >= 0 && Number.isFinite(s)));
			if (wrong !== undefined) throw new InputError('out-of-range', `${at}.serviceS`, '0 s or more', wrong);
			continue;
		}
		if (!(stage.headwayS > 0)) throw new InputError('out-of-range', `${at}.headwayS`, 'more than 0 s', stage.headwayS);
		if (!(stage.transitS >= 0)) throw new InputError('out-of-range', `${at}.transitS`, '0 s or more', stage.transitS);
		if (stages[i + 1]?.kind === 'belt')
			throw new InputError('out-of-range', `${at}.kind`, 'a machine between two belts', `${stage.name}, ${stages[i + 1]!.name}`);
	}
	return panels;
}

/** How panels go through a line, exactly: a machine begins when the panel is there and it is free, and is free when the panel has found room after it
 * (blocking after service); a belt takes a panel a headway after the one before. The same times give the same result. O(stages · panels).
 * Stops are service of the panel that met them: a machine cannot fail to pick while it stands idle.
 * @throws {InputError} `empty` without a machine, `mismatch` where machines have times for another number of panels, `out-of-range` with the stage and the field that cannot be
 * @example lineTimes([{ kind: 'machine', name: 'Print', serviceS: [20, 20], placesBefore: 0 }]).lastOutS // => 40
 */
export function lineTimes(stages: readonly LineStage[]): LineTimes {
	const panels = check(stages);
	const times = stages.map(({ name }): StageTimes => ({
		name,
		startS: [],
		leftS: [],
		blockedS: 0,
		starvedS: 0,
		mostWaiting: null
	}));
	for (let k = 0; k < panels; k++) {
		let thereS = 0;
		for (const [i, stage] of stages.entries()) {
			const own = times[i]!;
			const next = stages[i + 1];
			const after = times[i + 1];
			if (stage.kind === 'belt') {
				// The machine before may have waited for this very entry: it is known then.
				const entryS = own.startS[k] ?? entry(stage, own, next, after, k, thereS);
				own.startS[k] = entryS;
				if (k > 0) own.starvedS += Math.max(0, entryS - own.startS[k - 1]! - stage.headwayS);
				thereS = own.leftS[k] = entryS + stage.transitS;
				continue;
			}
			const freeS = k > 0 ? own.leftS[k - 1]! : 0;
			const startS = Math.max(thereS, freeS);
			const doneS = startS + stage.serviceS[k]!;
			own.startS[k] = startS;
			if (k > 0) own.starvedS += startS - freeS;
			let roomS = 0;
			if (next?.kind === 'machine') roomS = after!.leftS[k - next.placesBefore - 1] ?? 0;
			else if (next && next.placesBefore > 0) roomS = after!.startS[k - next.placesBefore] ?? 0;
			else if (next) roomS = after!.startS[k] = entry(next, after!, stages[i + 2], times[i + 2], k, doneS);
			const leftS = Math.max(doneS, roomS);
			own.blockedS += leftS - doneS;
			thereS = own.leftS[k] = leftS;
		}
	}
	for (const [i, stage] of stages.entries())
		if (stage.kind === 'belt') times[i]!.mostWaiting = mostWaiting(times[i]!.leftS, times[i + 1]?.startS ?? null);
	const [first, last] = [times[0]!.startS, times.at(-1)!.leftS];
	const leadS = last.reduce((sum, outS, k) => sum + outS - first[k]!, 0);
	const lastOutS = last.at(-1)!;
	return {
		stages: times,
		firstOutS: last[0]!,
		lastOutS,
		meanLeadS: leadS / panels,
		meanPanels: lastOutS > 0 ? leadS / lastOutS : 0
	};
}

/** When a panel goes onto a belt. */
function entry(
	{ headwayS, gate }: BeltStage,
	own: StageTimes,
	next: LineStage | undefined,
	after: StageTimes | undefined,
	k: number,
	readyS: number
): number {
	const spacedS = k > 0 ? own.startS[k - 1]! + headwayS : 0;
	const roomS = gate === 'safe' && next && after ? (after.leftS[k - next.placesBefore - 1] ?? 0) : 0;
	return Math.max(readyS, spacedS, roomS);
}

/** Most panels that had left a belt at once and were not begun by the machine after it; none where nothing comes after. */
function mostWaiting(exitS: readonly number[], startS: readonly number[] | null): number {
	if (!startS) return 0;
	let most = 0;
	let begun = 0;
	for (const [k, atS] of exitS.entries()) {
		while (begun <= k && startS[begun]! <= atS) begun++;
		most = Math.max(most, k + 1 - begun);
	}
	return most;
}
