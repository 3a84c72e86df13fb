// npm run check: types, lint, formatting, who imports whom, and exports that nobody uses.
import { join } from 'node:path';
import { ensureTools, ROOT, run } from './lib.mjs';

ensureTools();
const WEB = { cwd: join(ROOT, 'web') };
const steps = [
	['types of the core', 'tsc', ['-p', 'core']],
	['types of tests, checks, devices and demo', 'tsc', ['-p', 'tsconfig.node.json']],
	['types of the application', 'svelte-check', ['--threshold', 'warning', '--fail-on-warnings'], WEB],
	['lint', 'eslint', ['.']],
	['formatting', 'prettier', ['--check', '--log-level', 'warn', '.']],
	['who imports whom', 'depcruise', ['--config', '.dependency-cruiser.cjs', 'core/src', 'devices/src', 'demo/src', 'web/src']],
	['unused exports and packages', 'knip', []]
];
run('npx', ['svelte-kit', 'sync'], WEB);
const failed = steps.filter(([name, command, args, options]) => {
	console.log(`· ${name}`);
	return run('npx', ['--no-install', command, ...args], options) !== 0;
});
console.log(failed.length ? `\ncheck failed: ${failed.map(([name]) => name).join(', ')}` : '\ncheck passed');
process.exit(failed.length ? 1 : 0);
