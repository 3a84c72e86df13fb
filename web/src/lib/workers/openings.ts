import type { LayerOpening } from '@keen-relay/core/stencil';
import { notJudged, type JudgedOpenings, type OpeningsTask } from '@keen-relay/core/stencil';
import type { OpeningsQuestion, PackedAnswer } from './openings.worker.ts';
import OpeningsWorker from './openings.worker.ts?worker';
import { unpackPads } from './packed-pads.ts';

/** Judges a layer in a worker, so that typing never waits for ten thousand openings. While one question is worked on, only the latest of the others waits. */
export function judgeInWorker(layer: LayerOpening[], names: string[], onAnswer: (answer: JudgedOpenings) => void) {
	const worker = new OpeningsWorker();
	const post = (question: OpeningsQuestion) => worker.postMessage(question);
	let busy = false;
	let waiting: OpeningsTask | null = null;
	worker.onmessage = ({ data: { pads, ...judged } }: MessageEvent<PackedAnswer>) => {
		busy = waiting !== null;
		if (waiting) post({ kind: 'task', task: waiting });
		waiting = null;
		onAnswer({ ...judged, openings: unpackPads(pads) });
	};
	worker.onerror = (event) => onAnswer(notJudged(`The openings could not be judged: ${event.message}`));
	post({ kind: 'layer', layer, names });
	return {
		ask(task: OpeningsTask): void {
			if (busy) waiting = task;
			else post({ kind: 'task', task });
			busy = true;
		},
		end: () => worker.terminate()
	};
}
