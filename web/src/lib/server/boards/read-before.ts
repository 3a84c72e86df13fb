import { sql } from 'kysely';
import type { ReadBefore, ReadBoard } from '@keen-relay/core/boards';
import { db, type Trx } from '../db/index.ts';

/** So many readings of a customer's files are tried: older ones than these belong to tools that are not used any more. */
const MOST = 60;

/** How a customer's files were read before, the latest first. @param of the customer, or a board revision of theirs */
export async function readBefore(of: string | number): Promise<ReadBefore[]> {
	const customer = typeof of === 'string' ? of.trim() : (await revisionOf(of))?.customer;
	if (!customer) return [];
	const rows = await db
		.selectFrom('fileReading')
		.innerJoin('boardRevision', 'boardRevision.id', 'fileReading.boardRevisionId')
		.selectAll('fileReading')
		.select(['boardRevision.name', 'boardRevision.revision'])
		.where(sql<string>`lower(file_reading.customer)`, '=', customer.toLowerCase())
		.orderBy('readAt', 'desc')
		.orderBy('fileReading.id', 'desc')
		.limit(MOST)
		.execute();
	return rows.map((row) => ({
		file: row.file,
		columns: row.columns,
		unit: row.unit,
		decimal: row.decimal,
		side: row.side,
		from: `${row.name} ${row.revision}`
	}));
}

const revisionOf = (id: number) => db.selectFrom('boardRevision').select('customer').where('id', '=', id).executeTakeFirst();

/** Remembers how the files of a board were read. */
export async function rememberReading(trx: Trx, boardRevisionId: number, readings: ReadBoard['howRead'], at: Date): Promise<void> {
	if (readings.length === 0) return;
	const { customer } = await trx.selectFrom('boardRevision').select('customer').where('id', '=', boardRevisionId).executeTakeFirstOrThrow();
	await trx
		.insertInto('fileReading')
		.values(
			readings.map(({ file, columns, unit, decimal, side }) => ({
				customer: customer.trim(),
				file,
				columns: columns && JSON.stringify(columns),
				unit,
				decimal,
				side,
				boardRevisionId,
				readAt: at
			}))
		)
		.execute();
}
