// npm run bench: the speeds that matter, measured against references in the same run, on a throwaway database.
import {
	demoPlant,
	ended,
	ensureBuild,
	ensureTools,
	freePort,
	postgresProgram,
	say,
	settings,
	startPostgres,
	startProgram,
	startServer
} from './lib.mjs';

ensureTools();
ensureBuild();
const postgres = await startPostgres();
const database = `keen_relay_bench_${process.pid}`;
postgres.ensureDatabase(database);
let server;
let code = 1;
try {
	const port = await freePort();
	const baseUrl = `http://127.0.0.1:${port}`;
	const databaseUrl = postgres.url(database);
	server = await startServer({ databaseUrl, port, origin: baseUrl, env: demoPlant() });
	const { machineToken } = await settings();
	const client = { BASE_URL: baseUrl, ORIGIN: baseUrl, MACHINE_TOKEN: machineToken };
	if ((await ended(startProgram('demo/src/load.ts', client))) !== 0) throw new Error('the demo factory could not be loaded');
	say('measuring');
	code = await ended(startProgram('bench/run.ts', { ...client, DATABASE_URL: databaseUrl, PSQL: postgresProgram('psql') }));
} finally {
	server?.kill('SIGTERM');
	if (server) await Promise.race([ended(server), new Promise((resolve) => setTimeout(resolve, 5000))]);
	postgres.dropDatabase(database);
	postgres.stop();
}
process.exit(code);
