import type { ReelEventKind, ReelKind } from '@keen-relay/core/parts';

export const KIND_WORDS: Record<ReelKind, string> = { reel: 'reel', stick: 'stick', tray: 'tray', cut: 'cut tape' };

/** What a person can say of a reel, as a button says it. */
export const REEL_ACTS: Partial<Record<ReelEventKind, string>> = {
	count: 'Counted',
	move: 'Moved',
	block: 'Block it',
	unblock: 'Free it',
	gone: 'Used up',
	open: 'Bag opened',
	cabinet: 'Into a dry cabinet',
	air: 'Out of the cabinet',
	bag: 'Into a fresh bag',
	bake: 'Baked'
};
