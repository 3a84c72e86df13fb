// Keeps a section of bench/figures.md: what was measured last, with commit, date and machine.
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { join } from 'node:path';
import { ROOT } from './lib.mjs';

const FILE = join(ROOT, 'bench/figures.md');

/** @param {string} name heading of the section; @param {string} text what was measured, in Markdown */
export function keepFigures(name, text) {
	const commit = execFileSync('git', ['rev-parse', '--short', 'HEAD'], { cwd: ROOT, encoding: 'utf8' }).trim();
	const machine = `${cpus().length} processors (${cpus()[0].model.trim()}), ${Math.round(totalmem() / 2 ** 30)} GB, Node.js ${process.versions.node}`;
	const section = `## ${name}\n\nCommit ${commit}, ${new Date().toISOString().slice(0, 10)}; ${machine}.\n\n${text.trim()}\n`;
	const before = existsSync(FILE)
		? readFileSync(FILE, 'utf8')
		: '# Figures\n\nWhat `npm run bench` and `npm run bench -- --year` measured last. The machines are shared: read ratios first.\n';
	const [head, ...sections] = before.split(/^(?=## )/m);
	const others = sections.filter((s) => !s.startsWith(`## ${name}\n`));
	writeFileSync(FILE, `${[head.trimEnd(), ...[...others, section].sort().map((s) => s.trimEnd())].join('\n\n')}\n`);
	execFileSync('npx', ['--no-install', 'prettier', '--write', '--log-level', 'warn', FILE], { cwd: ROOT });
}
