// Copies of a database: backups that are verified, restores that are compared, and migrations rehearsed on a copy.
import { spawnSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { ended, fail, freePort, postgresProgram, ROOT, say, startServer } from './lib.mjs';

/** Programs of the application's own packages, once they are installed. */
const postgres = () => createRequire(`${ROOT}/web/package.json`)('pg');

function program(name, args) {
	const done = spawnSync(postgresProgram(name), args, { encoding: 'utf8', cwd: '/', maxBuffer: 1e8 });
	if (done.status !== 0) throw new Error(done.stderr.trim() || `${name} ended with ${done.status}`);
	return done.stdout;
}

export async function connected(url, work) {
	const client = new (postgres().Client)({ connectionString: url });
	await client.connect();
	try {
		return await work(client);
	} finally {
		await client.end();
	}
}

/** Rows of every table, and a sum over what stands in the small ones: what two copies are compared by. */
async function contents(client) {
	const { rows } = await client.query(
		`select c.oid::regclass::text as name from pg_class c join pg_namespace n on n.oid = c.relnamespace
			where c.relkind in ('r', 'p') and not c.relispartition and n.nspname = 'public' order by 1`
	);
	const found = {};
	for (const { name } of rows) {
		const { rows: counted } = await client.query(`select count(*)::text as n from ${name}`);
		const n = counted[0].n;
		// A sum over every row of millions of readings would take longer than the copy itself.
		const sum =
			Number(n) > 200_000
				? ''
				: (await client.query(`select coalesce(sum(hashtext(t::text)::bigint), 0)::text as s from ${name} t`)).rows[0].s;
		found[name] = sum === '' ? n : `${n}, sum ${sum}`;
	}
	return found;
}

const differences = (a, b) => [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((name) => a[name] !== b[name]);

/** Writes a dump of one moment and says what stood in the database then. */
export async function dump(url, file) {
	return connected(url, async (client) => {
		await client.query('begin isolation level repeatable read read only');
		const { rows } = await client.query('select pg_export_snapshot() as snapshot');
		program('pg_dump', ['--format=custom', `--snapshot=${rows[0].snapshot}`, `--file=${file}`, url]);
		return contents(client);
	});
}

/** Reads a dump into an empty database. */
export function load(url, file) {
	program('pg_restore', ['--no-owner', '--exit-on-error', `--dbname=${url}`, file]);
}

/** What of a database differs from what was said of it: names of tables; none where it is the same. */
export async function differs(url, said) {
	return differences(said, await connected(url, contents));
}

/** Tries the migrations on a copy before the real database is touched. */
export async function rehearse(own, database) {
	const copy = `${database}_rehearsal`;
	say('rehearsing the migrations on a copy');
	own.dropDatabase(copy);
	own.ensureDatabase(copy);
	const begun = Date.now();
	try {
		const dumped = spawnSync(
			'bash',
			[
				'-c',
				'"$0" --format=custom "$1" | "$2" --no-owner --exit-on-error --dbname="$3"',
				postgresProgram('pg_dump'),
				own.url(database),
				postgresProgram('pg_restore'),
				own.url(copy)
			],
			{ encoding: 'utf8', cwd: '/' }
		);
		if (dumped.status !== 0) throw new Error(dumped.stderr.trim());
		const port = await freePort();
		const server = await startServer({ databaseUrl: own.url(copy), port, origin: `http://127.0.0.1:${port}`, env: { REHEARSAL: '1' } });
		server.kill('SIGTERM');
		await ended(server);
		say(`the migrations went through on the copy in ${((Date.now() - begun) / 1000).toFixed(0)} s`);
	} catch (error) {
		fail(`The migrations fail on a copy of this database; it was not touched.\n${error.message}`);
	} finally {
		own.dropDatabase(copy);
	}
}
