import { CamelCasePlugin, Kysely, Migrator, PostgresDialect, sql, type Migration, type Transaction } from 'kysely';
import pg from 'pg';
import { env } from '$env/dynamic/private';
import { HostsPool, hostsOf } from './hosts.ts';
import { SMALLINT_ARRAY, readSmallints } from './smallints.ts';
import type { DB as Database } from './tables.ts';

// Dates without a time are calendar days, not instants; counts and sums fit a double.
pg.types.setTypeParser(pg.types.builtins.DATE, (text) => text);
pg.types.setTypeParser(pg.types.builtins.INT8, Number);
pg.types.setTypeParser(pg.types.builtins.NUMERIC, Number);
pg.types.setTypeParser(SMALLINT_ARRAY, readSmallints);

/** A plant's tables lie in memory: a row found by an index costs little more than the next one of a scan, and no query here is worth compiling. */
const PLANNING = '-c random_page_cost=1.1 -c jit=off';

const CONFIG = { options: PLANNING, max: 10, connectionTimeoutMillis: 4000 };
const HOSTS = hostsOf(env.DATABASE_URL ?? '');
const several = HOSTS.length > 1 ? new HostsPool(HOSTS, (config) => new pg.Pool(config), CONFIG) : null;

/** Connections to the database; where several hosts of it are given, to the one that takes writes. */
export const pool: pg.Pool = (several as unknown as pg.Pool | null) ?? new pg.Pool({ connectionString: HOSTS[0], ...CONFIG });

/** Calls back when another host is used from now on. */
export const onHostMove = (callback: () => void): void => several?.onMove(callback);

/** Address of the host that is used now, for connections that stay open. */
export const hostNow = (): string | undefined => several?.host ?? HOSTS[0];

/** An idle connection that drops is reported here; the pool opens another one for the next query. */
pool.on('error', (error) => console.error(`database connection lost: ${error.message}`));
// One that drops between two statements of a transaction is nobody's query: unheard, its error would end the process. The next statement fails and says so.
pool.on('connect', (client) => client.on('error', () => undefined));

export const db = new Kysely<Database>({
	dialect: new PostgresDialect({ pool }),
	// The sign-in library names its own tables; their camel-case columns are never read through this plugin.
	plugins: [new CamelCasePlugin({ maintainNestedObjectKeys: true, underscoreBetweenUppercaseLetters: true })]
});

export type Trx = Transaction<Database>;
export type Db = Kysely<Database>;

/** Found, not listed: a new file is a new migration. */
const MIGRATIONS = Object.fromEntries(
	Object.entries(import.meta.glob<Migration>('./migrations/*.ts', { eager: true })).map(([path, migration]) => [
		path.replace(/^.*\/|\.ts$/g, ''),
		migration
	])
);

/** Migrations that this database has been through and that this program does not know: a newer one made it. */
async function newerMigrations(): Promise<string[]> {
	const { rows } = await pool.query<{ there: boolean }>(`select to_regclass('kysely_migration') is not null as there`);
	if (!rows[0]?.there) return [];
	const done = await pool.query<{ name: string }>('select name from kysely_migration order by name');
	return done.rows.flatMap(({ name }) => (name in MIGRATIONS ? [] : [name]));
}

/** Brings the database to this program's tables.
 * @throws {Error} in words, where a newer program made it: it is left as it is
 */
export async function migrate(): Promise<void> {
	const [newer] = await newerMigrations();
	if (newer)
		throw new Error(
			`This database was made by a newer Keen Relay (it knows "${newer}", this one does not). Nothing was changed. Start the newer version, or restore a backup into another database.`
		);
	const bare = new Kysely<unknown>({ dialect: new PostgresDialect({ pool }) });
	const migrator = new Migrator({
		db: bare,
		provider: {
			getMigrations: async () => MIGRATIONS
		}
	});
	const { error, results } = await migrator.migrateToLatest();
	for (const result of results ?? []) console.log(`migration ${result.migrationName}: ${result.status}`);
	if (error) throw error;
}

/** Tells the open pages what changed, once a topic and transaction: topics carry no data. */
export async function announce(trx: Db | Trx, topic: Topic): Promise<void> {
	await sql`select pg_notify('live', ${topic})`.execute(trx);
}

/** Revisions are counted one by one: whoever keeps one waits for the one before. */
export async function lockRevisions(
	trx: Trx,
	table: 'paste_limit' | 'opening_rules' | 'signature_threshold' | 'transfer_fit'
): Promise<void> {
	await sql`lock table ${sql.table(table)} in share row exclusive mode`.execute(trx);
}

/** What open pages hear of. */
export const TOPICS = ['line', 'paste', 'results', 'boards', 'runs', 'shift', 'people', 'machines', 'parts'] as const;
export type Topic = (typeof TOPICS)[number];
