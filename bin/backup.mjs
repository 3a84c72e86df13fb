// npm run backup [-- FILE] [--plant] [--data DIR]: a dump of one moment, restored once into a scratch database and compared before it counts.
import { mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { connected, differs, dump, load } from './copies.mjs';
import { DATA, DATABASE, ensureTools, fail, say, startPostgres } from './lib.mjs';

ensureTools();
const named = process.argv.slice(2).find((arg, i, all) => !arg.startsWith('--') && all[i - 1] !== '--data');
const stamp = new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-');
const file = resolve(named ?? join(DATA, 'backups', `${DATABASE}-${stamp}.dump`));
mkdirSync(dirname(file), { recursive: true });
const own = await startPostgres();
const url = process.env.DATABASE_URL ?? own.url(DATABASE);
const scratch = `${DATABASE}_verify`;
const half = `${file}.half`;
try {
	say(`writing ${file}`);
	const said = await dump(url, half);
	say('restoring it into a scratch database, to compare');
	own.dropDatabase(scratch);
	own.ensureDatabase(scratch);
	load(own.url(scratch), half);
	const wrong = await differs(own.url(scratch), said);
	if (wrong.length) throw new Error(`what comes back differs in ${wrong.join(', ')}`);
	renameSync(half, file);
	const bytes = statSync(file).size;
	const tables = Object.keys(said).length;
	await connected(url, (client) =>
		client.query('insert into backup (at, file, bytes, tables) values (now(), $1, $2, $3)', [file.split('/').at(-1), bytes, tables])
	);
	console.log(`\n${tables} tables, ${(bytes / 1e6).toFixed(1)} MB: written, restored and compared. Keep ${file} on another machine.\n`);
} catch (error) {
	rmSync(half, { force: true });
	own.dropDatabase(scratch);
	own.stop();
	fail(`No backup was made: ${error.message}`);
}
own.dropDatabase(scratch);
own.stop();
process.exit(0);
