import { say } from './theirs.svelte.ts';
import { toast, type ExternalToast } from 'svelte-sonner';

/** A message as it was shown. */
export interface Said {
	at: number;
	ok: boolean;
	text: string;
}

const KEY = 'said';
const MOST = 100;

/** What this screen said since it was signed in, the newest first: a message that was gone too soon is read again in the log. */
export function saidHere(): Said[] {
	try {
		return JSON.parse(sessionStorage.getItem(KEY) ?? '[]') as Said[];
	} catch {
		return [];
	}
}

/** Somebody else sits down: what was said to the one before is not theirs. */
export const forgetSaid = (): void => sessionStorage.removeItem(KEY);

function keep(ok: boolean, text: string): void {
	try {
		sessionStorage.setItem(KEY, JSON.stringify([{ at: Date.now(), ok, text }, ...saidHere()].slice(0, MOST)));
	} catch {
		// A browser that keeps nothing still shows it.
	}
}

/** Says that something was done. */
export function sayDone(text: string, more?: ExternalToast): void {
	const words = say(text);
	keep(true, words);
	toast.success(words, more);
}

/** Says that something was not done, and why. */
export function sayNot(text: string, more?: ExternalToast): void {
	const words = say(text);
	keep(false, words);
	toast.error(words, more);
}
