import { writeFileSync } from 'node:fs';
import { apertures, prediction } from './core-speeds.ts';
import { slowness, type Measurement } from './measure.ts';
import { ingest, live } from './server-speeds.ts';

// Speeds as ratios against a reference of the same run; a miss is said, and fails nothing.
const slow = await slowness();
console.log(`\nThis machine is ${slow.toFixed(2)} times as slow as a quiet one on the fixed kernel.\n`);
const measured: Measurement[] = [];
for (const measure of [apertures, prediction, ingest, live]) {
	const m = await measure();
	measured.push(m);
	const verdict = m.met === null ? '' : m.met ? `  (${m.target}: met)` : `  (${m.target}: MISSED)`;
	console.log(
		`${m.what}\n  ${m.ms.toFixed(3)} ms against ${m.referenceMs.toFixed(3)} ms: ${m.reference}\n  ratio ${m.ratio.toFixed(2)}${verdict}\n`
	);
}
writeFileSync(
	new URL('./latest.json', import.meta.url),
	`${JSON.stringify({ at: new Date().toISOString(), slowness: slow, measured }, null, '\t')}\n`
);
