import { CamelCasePlugin, Kysely, PostgresDialect } from 'kysely';
import { from as copyFrom } from 'pg-copy-streams';
import { isAway } from './away.ts';
import { pool, type Trx } from './index.ts';
import type { DB as Database } from './tables.ts';

/** Copies rows in PostgreSQL's binary format into a table, within the transaction. */
export type Copy = (statement: string, rows: Buffer) => Promise<void>;

/** A transaction on one connection that can also COPY: the query builder hides its connection, and rows by the hundred thousand want one. */
export async function transactionWithCopy<T>(work: (trx: Trx, copy: Copy) => Promise<T>): Promise<T> {
	const client = await pool.connect();
	let broken: Error | undefined;
	const lend = { query: client.query.bind(client), release: () => undefined };
	const own = new Kysely<Database>({
		dialect: new PostgresDialect({ pool: { connect: async () => lend as never, end: async () => undefined } }),
		plugins: [new CamelCasePlugin({ maintainNestedObjectKeys: true, underscoreBetweenUppercaseLetters: true })]
	});
	const copy: Copy = (statement, rows) =>
		new Promise((resolve, reject) => {
			const stream = client.query(copyFrom(statement));
			stream.on('error', reject);
			stream.on('finish', resolve);
			stream.end(rows);
		});
	const lost = (error: Error) => (broken = error);
	client.on('error', lost);
	try {
		return await own.transaction().execute((trx) => work(trx, copy));
	} catch (error) {
		if (isAway(error)) broken ??= error as Error;
		throw error;
	} finally {
		client.off('error', lost);
		// A connection that was lost does not come back to the pool.
		client.release(broken);
	}
}
