// npm run restore -- FILE --into NAME [--plant] [--data DIR]: reads a backup into a new database; what is there is never written over.
import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { connected, load } from './copies.mjs';
import { DATABASE, ensureTools, fail, option, say, startPostgres } from './lib.mjs';

ensureTools();
const into = option('--into');
const named = process.argv.slice(2).find((arg, i, all) => !arg.startsWith('--') && !['--data', '--into'].includes(all[i - 1] ?? ''));
if (!named || !into) fail('Say which file and into which new database: npm run restore -- keen.dump --into keen_again');
if (!/^[a-z][a-z0-9_]{1,40}$/.test(into)) fail(`"${into}" is no name for a database: small letters, digits and underscores.`);
const file = resolve(named);
if (!existsSync(file)) fail(`There is no file ${file}.`);
const own = await startPostgres();
if (!own.ensureDatabase(into)) {
	own.stop();
	fail(`There is a database ${into} already: it is left as it is. Choose another name.`);
}
try {
	say(`reading ${file} into ${into}`);
	load(own.url(into), file);
	const { rows } = await connected(own.url(into), (client) =>
		client.query(
			'select (select count(*) from "user")::int as people, (select count(*) from run)::int as runs, (select count(*) from panel)::int as panels'
		)
	);
	const [{ people, runs, panels }] = rows;
	console.log(
		`\n${into} holds ${people} people, ${runs} runs, ${panels} panels. Look at it beside the other one:\n  DATABASE_URL='${own.url(into)}' PORT=4174 npm start -- --plant\nTo go on with it, stop the plant, and let ${DATABASE} and ${into} change names.\n`
	);
} catch (error) {
	own.dropDatabase(into);
	own.stop();
	fail(`Nothing was restored: ${error.message}`);
}
own.stop();
process.exit(0);
