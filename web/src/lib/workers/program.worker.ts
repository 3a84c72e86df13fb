import { optimiseLine, type LinePlan, type LineSearch, type LineStep } from '@keen-relay/core/balance';
import { workFrom, type GivenWork } from './program-work.ts';

export interface ProgramTask {
	work: GivenWork;
	start: LinePlan;
	search: LineSearch;
}

export type ProgramNews = { kind: 'step'; step: LineStep } | { kind: 'done' };

const post = (news: ProgramNews) => self.postMessage(news);

/** Drives the search step by step; whoever started it stops it by ending the worker, and has the best so far. */
self.onmessage = (event: MessageEvent<ProgramTask>) => {
	const { work, start, search } = event.data;
	for (const step of optimiseLine(workFrom(work), start, search)) post({ kind: 'step', step });
	post({ kind: 'done' });
};
