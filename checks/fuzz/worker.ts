// One share of the inputs: `tsx worker.ts FIRST COUNT SEED`. Says how far it is, so that whoever waits sees a reader that hangs.
import { seededRandom } from '@keen-relay/core/numerics';
import { TARGETS } from './targets.ts';
import { tryOne, type Fault } from './try.ts';

/** What a share came to, reader by reader. */
export interface Share {
	tried: number;
	pastHeader: number;
	slowestMs: number;
}
export type Said = { at: number } | { shares: Record<string, Share> } | { fault: Fault & { input: number } };

const [first = 0, count = 0, seed = 0] = process.argv.slice(2).map(Number);
const shares: Record<string, Share> = Object.fromEntries(TARGETS.map(({ name }) => [name, { tried: 0, pastHeader: 0, slowestMs: 0 }]));
const say = (said: Said) => process.send!(said);
for (let input = first; input < first + count; input++) {
	if (input % 100 === 0) say({ at: input });
	const target = TARGETS[input % TARGETS.length]!;
	const { pastHeader, ms, fault } = tryOne(target, seededRandom(seed + input));
	const share = shares[target.name]!;
	share.tried++;
	if (pastHeader) share.pastHeader++;
	share.slowestMs = Math.max(share.slowestMs, ms);
	if (fault) say({ fault: { ...fault, input } });
	// What was said is sent only when the loop gives way.
	if (input % 100 === 99) await new Promise((resolve) => setImmediate(resolve));
}
say({ shares });
process.disconnect?.();
