// npm run fuzz: a million changed files over every reader of a stranger's text. Not part of CI, which reads a sample of them.
import { ensureTools, run } from './lib.mjs';

ensureTools();
process.exit(run('npx', ['--no-install', 'tsx', 'checks/fuzz/run.ts', ...process.argv.slice(2)]));
