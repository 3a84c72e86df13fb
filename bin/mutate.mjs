// npm run mutate -- core/src/paste: changes the code of one folder in small ways and counts which changes the tests notice. Not part of CI.
// The score is added to bench/mutants.md with commit and date. Words and start-up values are left out: what is counted is arithmetic and judgement.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ensureTools, fail, ROOT, run } from './lib.mjs';

const [folder, ...rest] = process.argv.slice(2);
if (!folder || !existsSync(join(ROOT, folder))) fail('Say which folder: npm run mutate -- core/src/paste');
ensureTools();
const report = join(ROOT, '.data/mutants.json');
const config = {
	testRunner: 'vitest',
	vitest: { configFile: 'vitest.mutate.ts' },
	plugins: ['@stryker-mutator/vitest-runner'],
	mutate: [`${folder}/**/*.ts`, `!${folder}/**/*.test.ts`, `!${folder}/**/*.test-kit.ts`, `!${folder}/**/index.ts`],
	mutator: { excludedMutations: ['StringLiteral', 'ObjectLiteral'] },
	ignoreStatic: true,
	coverageAnalysis: 'perTest',
	reporters: ['clear-text', 'json'],
	clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
	jsonReporter: { fileName: report },
	tempDirName: '.data/stryker',
	concurrency: 2,
	timeoutMS: 20_000,
	ignorePatterns: ['web/build', 'web/.svelte-kit', '.data', 'test-results', 'docs', 'web/src/routes', 'demo/files']
};
const file = join(ROOT, '.data/stryker.config.json');
mkdirSync(join(ROOT, '.data'), { recursive: true });
writeFileSync(file, JSON.stringify(config, null, '\t'));
// A run that was cut short must not count an earlier one's report as its own.
rmSync(report, { force: true });
const code = run('npx', ['--no-install', 'stryker', 'run', file, ...rest], { env: { ...process.env, MUTATE: folder } });
if (!existsSync(report)) process.exit(code || 1);

const { files } = JSON.parse(readFileSync(report, 'utf8'));
const mutants = Object.values(files).flatMap((f) => f.mutants);
const count = (...status) => mutants.filter((m) => status.includes(m.status)).length;
const killed = count('Killed', 'Timeout');
const alive = count('Survived', 'NoCoverage');
const score = ((100 * killed) / Math.max(1, killed + alive)).toFixed(1);
console.log(`\n${folder}: ${killed} of ${killed + alive} changes were noticed, ${score} %`);
const commit = execFileSync('git', ['rev-parse', '--short', 'HEAD'], { cwd: ROOT, encoding: 'utf8' }).trim();
const list = join(ROOT, 'bench/mutants.md');
const row = `| ${folder} | ${score} | ${killed} | ${killed + alive} | ${commit} | ${new Date().toISOString().slice(0, 10)} |`;
const lines = readFileSync(list, 'utf8').split('\n');
const at = lines.findIndex((line) => line.startsWith(`| ${folder} |`));
if (at === -1) lines.splice(lines.findLastIndex((line) => line.startsWith('|')) + 1, 0, row);
else lines[at] = row;
writeFileSync(list, lines.join('\n'));
