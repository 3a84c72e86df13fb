// npm run fuzz [-- INPUTS [SEED]]: a million changed files over every reader of a stranger's text, seeded, so that a fault can be read again by its number.
import { fork } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { SLOWEST_MS } from './try.ts';
import type { Said, Share } from './worker.ts';

const [inputs = 1_000_000, seed = 1] = process.argv.slice(2).map(Number);
/** A worker that says nothing for this long hangs in a reader, ms. */
const SILENT_MS = 60_000;
const workers = availableParallelism();
const each = Math.ceil(inputs / workers);
const folder = fileURLToPath(new URL('../../.data/fuzz/', import.meta.url));
const total: Record<string, Share> = {};
let faults = 0;

/** Keeps a file that a reader failed on, for whoever mends it. */
function keep(name: string, text: string, what: string): void {
	if (++faults > 20) return;
	mkdirSync(folder, { recursive: true });
	writeFileSync(`${folder}${name}.txt`, text);
	console.error(`✖ ${name}: ${what}\n  kept in .data/fuzz/${name}.txt`);
}

function share(first: number, count: number): Promise<void> {
	return new Promise((resolve) => {
		const worker = fork(fileURLToPath(new URL('worker.ts', import.meta.url)), [first, count, seed].map(String), {
			execArgv: ['--import', 'tsx']
		});
		let at = first;
		let heard = Date.now();
		let done = false;
		const watch = setInterval(() => {
			if (Date.now() - heard < SILENT_MS) return;
			keep(`hang-${seed}-${at}`, '', `no answer within ${SILENT_MS / 1000} s for one of the inputs ${at} to ${at + 99}`);
			worker.kill('SIGKILL');
		}, 1000);
		worker.on('message', (said: Said) => {
			heard = Date.now();
			if ('at' in said) at = said.at;
			else if ('fault' in said)
				keep(`${said.fault.target.replace(/\W+/g, '-')}-${seed}-${said.fault.input}`, said.fault.text, said.fault.what);
			else {
				done = true;
				for (const [name, own] of Object.entries(said.shares)) {
					const sum = (total[name] ??= { tried: 0, pastHeader: 0, slowestMs: 0 });
					sum.tried += own.tried;
					sum.pastHeader += own.pastHeader;
					sum.slowestMs = Math.max(sum.slowestMs, own.slowestMs);
				}
			}
		});
		worker.on('exit', (code) => {
			clearInterval(watch);
			if (!done) keep(`died-${seed}-${at}`, '', `a reader took its process down (${code}) with one of the inputs ${at} to ${at + 99}`);
			resolve();
		});
	});
}

const begun = Date.now();
await Promise.all(Array.from({ length: workers }, (_, k) => share(k * each, Math.max(0, Math.min(each, inputs - k * each)))));
const sum = (of: (share: Share) => number) => Object.values(total).reduce((all, own) => all + of(own), 0);
for (const [name, { tried, pastHeader, slowestMs }] of Object.entries(total))
	console.log(
		`${name.padEnd(36)} ${String(tried).padStart(8)} read, ${((100 * pastHeader) / Math.max(1, tried)).toFixed(0)} % past the header, slowest ${slowestMs.toFixed(0)} ms`
	);
const past =
	sum((s) => s.pastHeader) /
	Math.max(
		1,
		sum((s) => s.tried)
	);
console.log(
	`${sum((s) => s.tried)} inputs in ${((Date.now() - begun) / 60_000).toFixed(1)} min, ${(100 * past).toFixed(0)} % past the header, ${faults} faults (limit ${SLOWEST_MS} ms an input)`
);
if (past < 0.5) console.error('✖ fewer than half of the inputs got past the header');
process.exit(faults || past < 0.5 ? 1 : 0);
