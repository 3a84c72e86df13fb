import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import pg from 'pg';

const source = readFileSync(new URL('../src/lib/server/db/schema.ts', import.meta.url), 'utf8');
const snake = (name: string) => name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`).replace(/_(?=\d)/g, '');

/** Tables and columns as the code has them: names, and which may be null. */
function typed(): Map<string, Map<string, boolean>> {
	const found = new Map<string, { base: string | undefined; own: [string, boolean][] }>();
	for (const [, name, base, body] of source.matchAll(/^(?:export )?interface (\w+)(?: extends (\w+))? \{\n([\s\S]*?)^\}/gm))
		found.set(name!, { base, own: [...body!.matchAll(/^\t(\w+)\??: (.+);$/gm)].map(([, f, type]) => [f!, /\| null$/.test(type!)]) });
	const fieldsIn = (name: string): [string, boolean][] => {
		const { base, own } = found.get(name)!;
		return [...(base ? fieldsIn(base) : []), ...own];
	};
	const tables = new Map<string, Map<string, boolean>>();
	for (const [table, type] of fieldsOf('Database')) tables.set(snake(table), new Map(fieldsIn(type).map(([f, n]) => [snake(f), n])));
	return tables;
}
function fieldsOf(name: string): [string, string][] {
	const body = source.match(new RegExp(`interface ${name} \\{\\n([\\s\\S]*?)^\\}`, 'm'))![1]!;
	return [...body.matchAll(/^\t(\w+): (\w+);$/gm)].map(([, field, type]) => [field!, type!]);
}

test('the types of the tables are the tables: no column without its type, none that is not there, and null where null may be', async () => {
	const sql = new pg.Client({ connectionString: process.env.DATABASE_URL });
	await sql.connect();
	const { rows } = await sql.query<{ table: string; column: string; null: boolean }>(
		`select table_name as table, column_name as column, is_nullable = 'YES' as null from information_schema.columns where table_schema = 'public'`
	);
	await sql.end();
	const there = new Map<string, Map<string, boolean>>();
	for (const row of rows) there.set(row.table, (there.get(row.table) ?? new Map<string, boolean>()).set(row.column, row.null));
	const wrong: string[] = [];
	for (const [table, columns] of typed()) {
		// The sign-in library names its own columns.
		if (table === 'user') continue;
		const real = there.get(table);
		if (!real) {
			wrong.push(`no table ${table}`);
			continue;
		}
		for (const [column, mayBeNull] of columns) {
			if (!real.has(column)) wrong.push(`${table}.${column} is not there`);
			else if (real.get(column) && !mayBeNull && !generated.has(`${table}.${column}`)) wrong.push(`${table}.${column} may be null`);
			else if (!real.get(column) && mayBeNull) wrong.push(`${table}.${column} is never null`);
		}
		for (const column of real.keys()) if (!columns.has(column)) wrong.push(`${table}.${column} has no type`);
	}
	expect(wrong).toEqual([]);
	expect(typed().size).toBeGreaterThan(50);
});

/** Counted by the database from columns that are never null. */
const generated = new Set(['board_side.openings', 'board_side.fitted_parts']);
