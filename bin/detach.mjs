// npm run detach -- 2025-11 [--plant] [--data DIR]: takes the pad readings of a month out of the plant's tables; its panels keep their sums and verdicts.
import { connected } from './copies.mjs';
import { DATABASE, ensureTools, fail, say, startPostgres } from './lib.mjs';

ensureTools();
const month = process.argv.slice(2).find((arg) => /^\d{4}-\d\d$/.test(arg));
if (!month) fail('Say which month: npm run detach -- 2025-11');
if (month >= new Date().toISOString().slice(0, 7)) fail(`${month} is not over: readings still fall into it.`);
const own = await startPostgres();
const name = `paste_reading_${month.replace('-', '_')}`;
const url = process.env.DATABASE_URL ?? own.url(DATABASE);
try {
	await connected(url, async (client) => {
		const { rows } = await client.query(
			`select i.inhrelid is not null as attached from pg_class c left join pg_inherits i on i.inhrelid = c.oid where c.oid = to_regclass($1)`,
			[name]
		);
		if (rows.length === 0) throw new Error(`there are no readings of ${month}.`);
		if (!rows[0].attached) throw new Error(`${month} is detached already: its readings stand in the table ${name}.`);
		say(`detaching ${name}`);
		await client.query(`alter table paste_reading detach partition ${name} concurrently`);
	});
	console.log(
		`\nThe readings of ${month} stand in the table ${name}, by themselves. Keep them: pg_dump --table=${name}; then drop the table. To bring them back: alter table paste_reading attach partition.\n`
	);
} catch (error) {
	own.stop();
	fail(`Nothing was detached: ${error.message}`);
}
own.stop();
process.exit(0);
