// npm run bench: the speeds that matter, measured against references in the same run, on a throwaway database.
// npm run bench -- --year: every page's server time on the demo, and beside a year of one line. The year is filled once and kept; a fill that was stopped goes on.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { keepFigures } from './figures.mjs';
import {
	demoPlant,
	ended,
	ensureBuild,
	ensureTools,
	freePort,
	postgresProgram,
	ROOT,
	say,
	settings,
	startPostgres,
	startProgram,
	startServer
} from './lib.mjs';

ensureTools();
ensureBuild();
const postgres = await startPostgres();
let code = 1;
try {
	code = process.argv.includes('--year') ? await year() : await speeds();
} finally {
	postgres.stop();
}
process.exit(code);

/** A server on a database, with the demo loaded where it is new, for as long as something is done with it. */
async function withServer(database, work) {
	const fresh = postgres.ensureDatabase(database);
	const port = await freePort();
	const baseUrl = `http://127.0.0.1:${port}`;
	const databaseUrl = postgres.url(database);
	const server = await startServer({ databaseUrl, port, origin: baseUrl, env: demoPlant() });
	try {
		const { machineToken } = await settings();
		const client = { BASE_URL: baseUrl, ORIGIN: baseUrl, MACHINE_TOKEN: machineToken };
		if (fresh && (await ended(startProgram('demo/src/load.ts', client))) !== 0) {
			postgres.dropDatabase(database);
			throw new Error('the demo factory could not be loaded');
		}
		return await work({ ...client, DATABASE_URL: databaseUrl });
	} finally {
		server.kill('SIGTERM');
		await ended(server);
	}
}

async function speeds() {
	const database = `keen_relay_bench_${process.pid}`;
	try {
		return await withServer(database, async (client) => {
			say('measuring');
			const done = await ended(startProgram('bench/run.ts', { ...client, PSQL: postgresProgram('psql') }));
			if (done === 0) keepFigures('Speeds', speedTable(JSON.parse(readFileSync(join(ROOT, 'bench/latest.json'), 'utf8'))));
			return done;
		});
	} finally {
		postgres.dropDatabase(database);
	}
}

async function year() {
	const scratch = mkdtempSync(join(tmpdir(), 'keen-year-'));
	const step = async (client, more) => {
		if ((await ended(startProgram('bench/pages-run.ts', { ...client, ...more }))) !== 0) throw new Error('a step of the bench failed');
	};
	const read = (name) => JSON.parse(readFileSync(join(scratch, name), 'utf8'));
	const demo = `keen_relay_bench_${process.pid}`;
	try {
		say('filling the year');
		await withServer('keen_relay_year', (client) => step(client, { FILL: join(scratch, 'stored.json') }));
		say('timing the pages without and with the year');
		await withServer(demo, (client) =>
			withServer('keen_relay_year', (beside) => step(client, { PAGES: join(scratch, 'pages.json'), YEAR_URL: beside.BASE_URL }))
		);
		const [pages, stored] = ['pages.json', 'stored.json'].map(read);
		const rows = pages.map((p) => ({ ...p, ratio: p.yearMs / p.ms })).sort((x, y) => y.ratio - x.ratio);
		const middle = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
		const table = [
			'| Page | Demo, ms | With the year, ms | Ratio |',
			'| --- | --- | --- | --- |',
			...rows.map((r) => `| ${r.page} | ${r.ms.toFixed(1)} | ${r.yearMs.toFixed(1)} | ${r.ratio.toFixed(2)} |`)
		];
		const [median, worst] = [middle(pages.map((p) => p.ms)), rows.filter((r) => r.ratio > 1.3).length];
		const head = `${stored.panels} panels and ${(stored.pads / 1e6).toFixed(0)} million pads stored. Median page on the demo ${median.toFixed(1)} ms (wanted: under 60); ${worst} of ${rows.length} pages take more than 1.3 times as long with the year; median ratio ${middle(rows.map((r) => r.ratio)).toFixed(2)}.`;
		console.log(`\n${head}\n\n${table.join('\n')}`);
		keepFigures('Pages', `${head}\n\n${table.join('\n')}`);
		return 0;
	} finally {
		postgres.dropDatabase(demo);
		rmSync(scratch, { recursive: true, force: true });
	}
}

/** What bench/run.ts measured, as a table. */
function speedTable({ slowness, measured, speeds, plans, studied }) {
	return [
		`This machine was ${slowness.toFixed(2)} times as slow as a quiet one on the fixed kernel.`,
		'',
		'| What | ms | Against, ms | Ratio | Wanted |',
		'| --- | --- | --- | --- | --- |',
		...measured.map(
			(m) =>
				`| ${m.what} | ${m.ms.toFixed(1)} | ${m.referenceMs.toFixed(1)}: ${m.reference} | ${m.ratio.toFixed(2)} | ${m.target || '-'}${m.met === null ? '' : m.met ? ', met' : ', MISSED'} |`
		),
		'',
		'| What | ms | Wanted on a quiet machine, ms |',
		'| --- | --- | --- |',
		...speeds.map((s) => `| ${s.what} | ${s.ms.toFixed(1)} | ${s.targetMs}${s.met ? '' : ', MISSED'} |`),
		'',
		`Fridge plan: at most ${plans.worstGapPct.toFixed(2)} % of the paste above the exact optimum over ${plans.instances} instances (wanted: 3 %).`,
		'',
		'```',
		...studied,
		'```'
	].join('\n');
}
