import type { OvenRecipe } from '@keen-relay/core/reflow';
import type { TuningNews, TuningTask } from './tuning.worker.ts';
import TuningWorker from './tuning.worker.ts?worker';

/** Tunes a recipe in a worker. @returns a promise of the best recipe (null where it was stopped) and the way to stop it */
export function startTuning(
	task: TuningTask,
	onStep: (best: OvenRecipe, steps: number) => void
): { done: Promise<OvenRecipe | null>; stop: () => void } {
	const worker = new TuningWorker();
	let stop = () => {};
	const done = new Promise<OvenRecipe | null>((resolve) => {
		const end = (best: OvenRecipe | null) => {
			worker.terminate();
			resolve(best);
		};
		stop = () => end(null);
		worker.onmessage = (event: MessageEvent<TuningNews>) => {
			if (event.data.kind === 'done') end(event.data.best);
			else onStep(event.data.best, event.data.steps);
		};
		worker.onerror = () => end(null);
	});
	// Proxies of the page's state cannot cross to a worker: plain data can.
	worker.postMessage(JSON.parse(JSON.stringify(task, (_, v: unknown) => (v === Infinity ? 1e9 : v))));
	return { done, stop: () => stop() };
}
