import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect, test } from './test.ts';

// The types of the tables are generated from the migrated database; what the database cannot say (the contents of JSON, words that a
// column is limited to) is mapped in .kysely-codegenrc.json. A migration without its types, or a map of a column that is gone, turns this red.
test('the types of the tables are those of the database: npm run tables writes them', () => {
	const web = fileURLToPath(new URL('..', import.meta.url));
	const verify = () =>
		execFileSync('npx', ['--no-install', 'kysely-codegen', '--config-file', '.kysely-codegenrc.json', '--verify'], {
			cwd: web,
			encoding: 'utf8',
			stdio: 'pipe'
		});
	expect(verify()).toContain('up-to-date');
});
