import { InputError, requireRange, type Verdict } from '../judgement/index.ts';
import { stopClockMs } from './run-out.ts';

/** What stands at an end of a line: panels to be built in the loader, room for built ones in the unloader. */
export interface Magazine {
	end: 'loader' | 'unloader';
	/** Panels in the loader, or that the unloader had room for, when somebody last said so. */
	panels: number;
	/** Panels that have left the loader, or come into the unloader, since then. */
	moved: number;
}

export interface MagazineEnd {
	end: Magazine['end'];
	/** Panels that are left, or that there is room for. */
	left: number;
	/** The instant at which the line stands for it. */
	endMs: number;
}

/** Within so long of a stop somebody has to go, s ([ours]). */
const LEAD_S = 600;

/** When a loader is empty or an unloader full by the clock; one that outlasts the run is left out.
 * @param clock `toLoad`, `toUnload`: panels that the run still has to take in, and to bring out; `breaks` in which the line stands
 * @throws {InputError} `out-of-range` for counts that cannot be
 */
export function magazineEnds(
	magazines: readonly Magazine[],
	clock: { nowMs: number; taktS: number; toLoad: number; toUnload: number; breaks: readonly { fromMs: number; toMs: number }[] }
): MagazineEnd[] {
	return magazines
		.flatMap(({ end, panels, moved }): MagazineEnd[] => {
			requireRange('panels', panels, 0, 10_000);
			if (!(moved >= 0)) throw new InputError('out-of-range', 'moved', '0 panels or more', moved);
			const left = Math.max(0, panels - moved);
			if (left >= (end === 'loader' ? clock.toLoad : clock.toUnload)) return [];
			return [{ end, left, endMs: stopClockMs(clock.nowMs, left, clock.taktS, clock.breaks) }];
		})
		.sort((a, b) => a.endMs - b.endMs);
}

const WORDS = {
	loader: {
		empty: 'The loader is empty by the count',
		soon: 'The loader is empty',
		act: 'Fill the loader, and say how many panels it holds'
	},
	unloader: {
		empty: 'The unloader is full by the count',
		soon: 'The unloader is full',
		act: 'Put an empty magazine in, and say how many panels it takes'
	}
} as const;

/** What the ends of a line ask for; null while neither is near. */
export function judgeMagazines(ends: readonly MagazineEnd[], nowMs: number): Verdict | null {
	const [first] = ends;
	if (!first || first.endMs - nowMs > LEAD_S * 1000) return null;
	const words = WORDS[first.end];
	const because = [
		{
			quantity: first.end === 'loader' ? 'Panels left in the loader' : 'Room left in the unloader',
			value: first.left,
			unit: 'panels',
			limit: `${LEAD_S / 60} min of work`,
			source: 'as somebody said it, less what has moved since; the ten minutes are ours'
		}
	];
	if (first.left === 0) return { level: 'act', statement: `${words.empty}: the line stands for it.`, because, doNext: [words.act] };
	return {
		level: 'watch',
		statement: `${words.soon} in ${Math.ceil((first.endMs - nowMs) / 60_000)} min: the line will stand.`,
		because,
		doNext: [words.act]
	};
}
