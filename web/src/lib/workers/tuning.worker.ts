import { tuneRecipe, type Oven, type OvenRecipe, type PasteWindow, type Spot } from '@keen-relay/core/reflow';

export interface TuningTask {
	oven: Oven;
	recipe: OvenRecipe;
	spots: readonly Spot[];
	window: PasteWindow;
}

export type TuningNews = { kind: 'step'; best: OvenRecipe; steps: number } | { kind: 'done'; best: OvenRecipe };

const post = (news: TuningNews) => self.postMessage(news);

/** Drives the search step by step; whoever started it stops it by ending the worker. */
self.onmessage = (event: MessageEvent<TuningTask>) => {
	const { oven, recipe, spots, window } = event.data;
	const search = tuneRecipe(oven, recipe, spots, window);
	for (let steps = 1; ; steps++) {
		const next = search.next();
		if (next.done) {
			post({ kind: 'done', best: next.value.recipe });
			return;
		}
		post({ kind: 'step', best: next.value.best, steps });
	}
};
