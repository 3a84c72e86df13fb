import { studyCauses, type StudiedCauses, type StudyOptions } from '@keen-relay/core/inspection';

export interface StudyQuestion {
	number: number;
	texts: Parameters<typeof studyCauses>[0];
	options: StudyOptions;
}
export interface StudyAnswer extends StudiedCauses {
	number: number;
}

/** Reads the tables of a run and names its causes. */
self.onmessage = ({ data: { number, texts, options } }: MessageEvent<StudyQuestion>) =>
	self.postMessage({ number, ...studyCauses(texts, options) } satisfies StudyAnswer);
