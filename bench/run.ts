import { writeFileSync } from 'node:fs';
import { apertures, prediction } from './core-speeds.ts';
import { slowness, type Measurement } from './measure.ts';
import { printCellSpeeds, pullPlans, signatureStudy } from './print-cell.ts';
import { placingSpeeds } from './placing.ts';
import { planWhole, programSearch } from './programs.ts';
import { busy, ingest, live } from './server-speeds.ts';

// Speeds as ratios against a reference of the same run; a miss is said, and fails nothing.
const slow = await slowness();
console.log(`\nThis machine is ${slow.toFixed(2)} times as slow as a quiet one on the fixed kernel.\n`);
const measured: Measurement[] = [];
for (const measure of [apertures, prediction, ingest, live, busy]) {
	const m = await measure();
	measured.push(m);
	const verdict = m.met === null ? '' : m.met ? `  (${m.target}: met)` : `  (${m.target}: MISSED)`;
	console.log(
		`${m.what}\n  ${m.ms.toFixed(3)} ms against ${m.referenceMs.toFixed(3)} ms: ${m.reference}\n  ratio ${m.ratio.toFixed(2)}${verdict}\n`
	);
}
const speeds = [...(await printCellSpeeds(slow)), ...(await placingSpeeds(slow))];
for (const s of speeds)
	console.log(
		`${s.what.padEnd(52)} ${s.ms.toFixed(1).padStart(8)} ms, target ${s.targetMs} ms on a quiet machine${s.met ? '' : ': MISSED'}`
	);
const plans = await pullPlans();
console.log(
	`fridge plan, ${plans.instances} instances of 40 jobs and 60 jars: at most ${plans.worstGapPct.toFixed(2)} % of the paste above the exact optimum (target 3 %), ${plans.slowestMs.toFixed(0)} ms at the slowest (target 200 ms)\n`
);
const whole = planWhole();
console.log(
	`300 parts four times on a panel, two placers, planned whole: ${whole.ms.toFixed(0)} ms, target 5000 ms on a quiet machine${whole.ms <= 5000 * slow ? '' : ': MISSED'}; ${whole.taktS.toFixed(1)} s, no program below ${whole.boundS.toFixed(1)} s\n`
);
// TRIES=1000000 for a search of about ten minutes a board.
const programs = programSearch(Number(process.env.TRIES ?? 200_000));
for (const line of programs) console.log(`${line}\n`);
// SEEDS=60 for a quick look.
const studied: string[] = [];
signatureStudy(Number(process.env.SEEDS ?? 400), (line) => {
	studied.push(line);
	console.log(line);
});
writeFileSync(
	new URL('./latest.json', import.meta.url),
	`${JSON.stringify({ at: new Date().toISOString(), slowness: slow, measured, speeds, plans, whole, programs, studied }, null, '\t')}\n`
);
