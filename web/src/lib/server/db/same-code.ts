import { sql, type RawBuilder } from 'kysely';

/** Whether a column holds a code, in capitals or not: labels are typed and scanned either way. */
export const sameCode = (column: string, code: string): RawBuilder<boolean> =>
	sql<boolean>`lower(${sql.ref(column)}) = ${code.toLowerCase()}`;
