import { mutated } from './mutate.ts';
import type { RandomSource, Target } from './targets.ts';

/** A reader's answer may take this long of a processor's time, ms. */
export const SLOWEST_MS = 2000;
/** One that took longer is read again: what else runs on a machine makes its processors slower, too, and the quickest reading says what the file costs. */
const READINGS = 3;

/** What is wrong with how a reader took a file; null where nothing is. */
export interface Fault {
	target: string;
	what: string;
	text: string;
}

export interface Tried {
	pastHeader: boolean;
	ms: number;
	fault: Fault | null;
}

/** Reads one changed file: nothing is thrown, nothing takes long, and no number of the answer is not one. */
export function tryOne(target: Target, random: RandomSource): Tried {
	const text = mutated(target.seeds, target.headLines, random.chance(0.75), random);
	const fault = (what: string): Fault => ({ target: target.name, what, text });
	try {
		const first = timed(() => target.read(text));
		let { ms } = first;
		for (let again = 1; again < READINGS && ms > SLOWEST_MS; again++) ms = Math.min(ms, timed(() => target.read(text)).ms);
		const odd = ms > SLOWEST_MS ? `took ${ms.toFixed(0)} ms` : notANumber(first.answer.read, target.blanks ?? []);
		return { pastHeader: first.answer.pastHeader, ms, fault: odd ? fault(odd) : null };
	} catch (error) {
		return { pastHeader: true, ms: 0, fault: fault(error instanceof Error ? (error.stack ?? error.message) : String(error)) };
	}
}

/** An answer with the processor's own time that it took, ms: others on the machine do not count, but for what they make slower. */
function timed<T>(work: () => T): { answer: T; ms: number } {
	const begun = process.cpuUsage();
	const answer = work();
	const { user, system } = process.cpuUsage(begun);
	return { answer, ms: (user + system) / 1000 };
}

/** Where in an answer a number is none; null where all are. */
function notANumber(value: unknown, blanks: readonly string[], path = ''): string | null {
	if (typeof value === 'number') return Number.isFinite(value) ? null : `${path} is ${value}`;
	if (typeof value !== 'object' || value === null) return null;
	if (ArrayBuffer.isView(value)) {
		const blank = blanks.some((field) => path.includes(field));
		const at = (value as Float32Array).findIndex((v) => (blank ? Math.abs(v) === Infinity : !Number.isFinite(v)));
		return at < 0 ? null : `${path}[${at}] is ${(value as Float32Array)[at]}`;
	}
	for (const [key, inner] of Object.entries(value)) {
		const found = notANumber(inner, blanks, `${path}.${key}`);
		if (found) return found;
	}
	return null;
}
