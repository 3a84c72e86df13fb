import { factorsOfRun, findSignatures, followUp } from '@keen-relay/core/inspection';

// What takes a thread of its own for longer than a page may wait: plain data in, plain data out. Built apart from the server, begun by ./pool.ts.

const work =
	<Args extends readonly unknown[], Result>(does: (...args: Args) => Result) =>
	(args: Args): Result =>
		does(...args);

export const signatures = work(findSignatures);
export const signatureFollowUp = work(followUp);
export const unitFactors = work(factorsOfRun);
