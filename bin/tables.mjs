// npm run tables: writes the types of the tables (web/src/lib/server/db/tables.ts) from a database that has just been migrated. Run it after a migration.
import { join } from 'node:path';
import { ended, ensureBuild, ensureTools, freePort, ROOT, run, startPostgres, startServer } from './lib.mjs';

ensureTools();
ensureBuild();
const postgres = await startPostgres();
const database = `keen_tables_${process.pid}`;
postgres.ensureDatabase(database);
const databaseUrl = postgres.url(database);
const port = await freePort();
// A web process migrates before it answers.
const server = await startServer({ databaseUrl, port, origin: `http://127.0.0.1:${port}` });
const code = run('npx', ['--no-install', 'kysely-codegen', '--config-file', '.kysely-codegenrc.json'], {
	cwd: join(ROOT, 'web'),
	env: { ...process.env, DATABASE_URL: databaseUrl }
});
server.kill('SIGTERM');
await ended(server);
postgres.dropDatabase(database);
postgres.stop();
process.exit(code);
