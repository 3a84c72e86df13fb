/** The five levels, from best to worst; `noData` is outside the order: nothing was judged. */
export const LEVELS = ['good', 'watch', 'act', 'stopped', 'noData'] as const;

export type Level = (typeof LEVELS)[number];

const WORDS: Record<Level, string> = {
	good: 'Good',
	watch: 'Watch',
	act: 'Act',
	stopped: 'Stopped',
	noData: 'No data'
};

/** The word that stands beside the shape of a level. */
export function levelWord(level: Level): string {
	return WORDS[level];
}

const BADNESS: Record<Level, number> = { good: 1, noData: 0, watch: 2, act: 3, stopped: 4 };

/** The worst of several levels. A missing reading is never better than a judged one: all missing is `noData`.
 * @example worstLevel(['good', 'watch', 'noData']) // => 'watch'
 */
export function worstLevel(levels: readonly Level[]): Level {
	return levels.reduce<Level>((worst, level) => (BADNESS[level] > BADNESS[worst] ? level : worst), 'noData');
}
