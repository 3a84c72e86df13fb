import type { Trx } from './index.ts';

/** Rows of one insert: PostgreSQL takes 65535 parameters. */
export const ROWS_AT_ONCE = 4000;

/** Inserts a row for each item, as many at once as PostgreSQL takes. */
export async function insertRows<T>(trx: Trx, table: string, items: readonly T[], row: (item: T) => object): Promise<void> {
	for (let i = 0; i < items.length; i += ROWS_AT_ONCE)
		await trx
			.insertInto(table as 'print')
			.values(items.slice(i, i + ROWS_AT_ONCE).map(row) as never)
			.execute();
}
